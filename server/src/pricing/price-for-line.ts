import { priceLine, type LinePrice } from '@nockwright/core/pricing';
import type { UnitRatio } from '@nockwright/core/units';
import type { Db } from '../database';

const LIST = 'LIST';

/** The price of an item for a customer's price list (null: none), in a unit and quantity, with its trail. */
export async function priceForLine(db: Db, item: string, unit: string, ratio: UnitRatio, quantity: string, priceList: string | null): Promise<LinePrice> {
  const { list_price: listPrice } = await db.selectFrom('item').select('list_price').where('code', '=', item).executeTakeFirstOrThrow();
  const rows = await db
    .selectFrom('price_break')
    .innerJoin('price_list', 'price_list.code', 'price_break.price_list')
    .select(['price_list', 'price_list.name', 'unit', 'from_quantity as from', 'price'])
    .where('item', '=', item)
    .where('price_list', 'in', priceList === null ? [LIST] : [LIST, priceList])
    .execute();
  const own = priceList === null ? null : await db.selectFrom('price_list').select('name').where('code', '=', priceList).executeTakeFirstOrThrow();
  return priceLine({
    unit,
    quantity,
    ratio,
    listPrice,
    listBreaks: rows.filter((row) => row.price_list === LIST),
    customerList: own && priceList !== LIST ? { name: own.name, breaks: rows.filter((row) => row.price_list === priceList) } : null,
  });
}
