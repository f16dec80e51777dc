import type { PriceQuestion } from '@nockwright/core/pricing';
import type { Db } from '../database';

const LIST = 'LIST';

/** Where a price of an item may come from for a customer's price list (null: none of their own), besides the item's list price. */
export async function loadPriceSources(db: Db, item: string, priceList: string | null): Promise<Pick<PriceQuestion, 'listBreaks' | 'customerList'>> {
  const rows = await db
    .selectFrom('price_break')
    .select(['price_list', 'unit', 'from_quantity as from', 'price'])
    .where('item', '=', item)
    .where('price_list', 'in', priceList === null ? [LIST] : [LIST, priceList])
    .execute();
  const breaksOf = (list: string) => rows.filter((row) => row.price_list === list).map(({ unit, from, price }) => ({ unit, from, price }));
  if (priceList === null || priceList === LIST) return { listBreaks: breaksOf(LIST), customerList: null };
  const { name } = await db.selectFrom('price_list').select('name').where('code', '=', priceList).executeTakeFirstOrThrow();
  return { listBreaks: breaksOf(LIST), customerList: { name, breaks: breaksOf(priceList) } };
}
