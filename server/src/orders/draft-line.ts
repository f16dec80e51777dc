import { draftLine, type LineFault, type SoldItem } from '@nockwright/core/orders';
import type { Db } from '../database';
import { invalid } from '../http/refusal';
import { loadPriceSources } from '../pricing';

export interface ItemWish {
  readonly item: string;
  readonly unit?: string;
  readonly quantity: string;
}

/** What an order line stores about its item, unit, quantity and price. */
export async function draftedLine(db: Db, wish: ItemWish, priceList: string | null) {
  const item = await loadSoldItem(db, 'body', wish.item, priceList);
  const drafted = draftLine(item, wish);
  if (!drafted.ok) throw refused('body', drafted.fault);
  const { unit, ratio, quantity, stockQuantity, price } = drafted.line;
  return {
    item: item.code,
    unit,
    ...ratio,
    quantity,
    stock_quantity: stockQuantity,
    price: price.price,
    price_source: price.source,
    price_trail: price.trail,
  };
}

/** `place`: where the wish stands in the request. */
export function refused(place: 'body' | 'query', { field, message }: LineFault) {
  return invalid(`${place}.${field}`, message);
}

/** An item as it is sold under a price list (null: none of the customer's own). */
export async function loadSoldItem(db: Db, place: 'body' | 'query', code: string, priceList: string | null): Promise<SoldItem> {
  const item = await db.selectFrom('item').selectAll().where('code', '=', code).executeTakeFirst();
  if (!item) throw invalid(`${place}.item`, `there is no item ${code}`);
  const units = await db.selectFrom('item_unit').select(['unit', 'numerator', 'denominator']).where('item', '=', code).execute();
  const { description, unit, weight, cost, list_price: listPrice, discontinued, successor } = item;
  return { code, description, unit, weight, cost, listPrice, discontinued, successor, units, ...(await loadPriceSources(db, code, priceList)) };
}
