import { toStockingUnits, unitName, type UnitRatio } from '@nockwright/core/units';
import type { Db } from '../database';
import { invalid } from '../http/refusal';
import { priceForLine } from '../pricing';
import type { OrderLineRecord } from './load-order';

export interface LineWish {
  readonly item: string;
  readonly unit?: string;
  readonly quantity: string;
}

/** What an order line says about its item, unit, quantity and price; `place` is where the wish stands in the request. */
export async function draftLine(db: Db, place: 'body' | 'query', wish: LineWish, priceList: string | null) {
  const item = await db.selectFrom('item').selectAll().where('code', '=', wish.item).executeTakeFirst();
  if (!item) throw invalid(`${place}.item`, `there is no item ${wish.item}`);
  if (item.discontinued) throw invalid(`${place}.item`, `${item.code} is discontinued${item.successor ? `; ${item.successor} follows it` : ''}`);
  const unit = wish.unit ?? item.unit;
  const ratio = await unitRatio(db, place, item.code, item.unit, unit);
  const stockQuantity = toStockingUnits(wish.quantity, ratio);
  if (stockQuantity === null)
    throw invalid(
      `${place}.quantity`,
      `${wish.quantity} ${unitName(unit, wish.quantity)} is no exact number of ${unitName(item.unit, '2')} (1 ${unitName(unit)} = ${ratio.numerator}/${ratio.denominator})`,
    );
  const price = await priceForLine(db, item.code, unit, ratio, wish.quantity, priceList);
  return {
    item: item.code,
    unit,
    ...ratio,
    quantity: wish.quantity,
    stock_quantity: stockQuantity,
    price: price.price,
    price_source: price.source,
    price_trail: price.trail,
    description: item.description,
    stock_unit: item.unit,
    cost: item.cost,
    weight: item.weight,
  };
}

/** A line as it would stand on the order, for looking at before it is added. */
export function unsavedLine(
  wish: Awaited<ReturnType<typeof draftLine>>,
  orderId: number,
  lineNo: number,
  warehouse: string,
  requestedDay: string | null,
): OrderLineRecord {
  return {
    ...wish,
    price_trail: [...wish.price_trail],
    id: 0,
    order_id: orderId,
    line_no: lineNo,
    warehouse,
    requested_day: requestedDay,
    shipped: '0',
    cancelled: '0',
    reserved: '0',
    note: '',
  };
}

async function unitRatio(db: Db, place: string, item: string, stockUnit: string, unit: string): Promise<UnitRatio> {
  if (unit === stockUnit) return { numerator: 1, denominator: 1 };
  const units = await db.selectFrom('item_unit').select(['unit', 'numerator', 'denominator']).where('item', '=', item).execute();
  const found = units.find((row) => row.unit === unit);
  if (!found) throw invalid(`${place}.unit`, `${item} is not sold by ${unit}; it is sold by ${[stockUnit, ...units.map((row) => row.unit)].join(', ')}`);
  return { numerator: found.numerator, denominator: found.denominator };
}
