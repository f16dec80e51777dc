import type { ContractId, CustomerId, ItemCode, OrderId, ShipToId } from '@nockwright/core/ids';
import { draftLine, type DraftLine, type SoldItem, type WishFault } from '@nockwright/core/orders';
import { afterLines, type LineBefore, type PricedPart, type PricePin } from '@nockwright/core/pricing';
import { sql } from 'kysely';
import { anyOf, type Db } from '../database';
import { invalid } from '../http/refusal';
import { loadPriceSources } from '../pricing';

export interface ItemWish {
  readonly item: ItemCode;
  readonly unit?: string;
  readonly quantity: string;
  readonly pin?: PricePin | null;
}

/** What decides about the prices of an order's lines. */
interface PricedOrder {
  readonly id: number;
  readonly customer_id: CustomerId;
  readonly ship_to_id: ShipToId;
  readonly contract_id: ContractId | null;
}

/** A line as it would be ordered today behind `before`. */
export async function draftedLine(db: Db, order: PricedOrder, wish: ItemWish, before: readonly LineBefore[], today: string): Promise<DraftLine> {
  const item = await loadSoldItem(db, 'body', wish.item, order, today);
  const drafted = draftLine({ ...item, contracts: afterLines(item.contracts, before) }, wish, today);
  if (!drafted.ok) throw refused('body', drafted.fault);
  return drafted.line;
}

/** What an order line stores of a part of it. */
export function storedPart({ unit, ratio }: Pick<DraftLine, 'unit' | 'ratio'>, { quantity, stockQuantity, price }: PricedPart, pin: PricePin | null) {
  return {
    unit,
    ...ratio,
    quantity,
    stock_quantity: stockQuantity,
    price: price.price,
    price_source: price.source,
    price_trail: JSON.stringify(price.trail),
    contract_line_id: price.contractLine,
    price_pin: pin === null ? null : JSON.stringify(pin),
  };
}

/** `place`: where the wish stands in the request. */
export function refused(place: 'body' | 'query', { field, message }: Omit<WishFault, 'at'>) {
  return invalid(`${place}.${field}`, message);
}

/** An item as it is sold on an order, whatever lines there are. */
export async function loadSoldItem(db: Db, place: 'body' | 'query', code: string, order: PricedOrder, today: string): Promise<SoldItem> {
  const [item] = await loadSoldItems(db, [code], order, today);
  if (!item) throw invalid(`${place}.item`, `there is no item ${code}`);
  return item;
}

/** Items as they are sold on an order. */
export async function loadSoldItems(db: Db, codes: readonly string[], order: PricedOrder, today: string): Promise<readonly SoldItem[]> {
  const buyer = { customer: order.customer_id, shipTo: order.ship_to_id, named: order.contract_id };
  const [rows, units, left, sources] = await Promise.all([
    db.selectFrom('item').selectAll().where(anyOf('code', codes)).execute(),
    db.selectFrom('item_unit').selectAll().where(anyOf('item', codes)).execute(),
    loadLeft(db, codes, today),
    loadPriceSources(db, codes, buyer, today),
  ]);
  return rows.map(({ code, item_group: group, description, unit, step, weight, cost, list_price: listPrice, discontinued, successor }) => ({
    code,
    description,
    unit,
    step,
    weight,
    cost,
    listPrice,
    discontinued,
    successor,
    left: discontinued ? (left.get(code) ?? '0') : null,
    units: units.filter((row) => row.item === code).map((row) => ({ unit: row.unit, numerator: row.numerator, denominator: row.denominator, step: row.step })),
    ...sources({ code, group }),
  }));
}

/** The lines of an order with the contracts they are under, in sequence; alternatives take nothing from a contract. */
export async function loadContractUse(
  db: Db,
  orderId: OrderId,
): Promise<readonly (LineBefore & { readonly id: number; readonly lineNo: number; readonly alternative: boolean })[]> {
  const rows = await db
    .selectFrom('order_line')
    .leftJoin('contract_line', 'contract_line.id', 'order_line.contract_line_id')
    .select([
      'order_line.id',
      'order_line.line_no',
      'order_line.contract_line_id',
      'contract_line.contract_id',
      'order_line.stock_quantity',
      'order_line.alternative',
    ])
    .where('order_id', '=', orderId)
    .orderBy('order_line.line_no')
    .execute();
  return rows.map((row) => ({
    id: row.id,
    lineNo: row.line_no,
    alternative: row.alternative,
    contractLine: row.alternative ? null : row.contract_line_id,
    contract: row.contract_id,
    stockQuantity: row.stock_quantity,
  }));
}

/** How many of each item that is discontinued can still be promised, on hand or known to come, at all warehouses; what is brought over counts where it goes. */
export async function loadLeft(db: Db, items: readonly string[], today: string): Promise<ReadonlyMap<string, string>> {
  if (items.length === 0) return new Map();
  const { rows } = await sql<{ item: ItemCode; left: string }>`
    select item, trim_scale(sum(on_hand - set_aside + inbound - committed - expired_on_hand(item, warehouse, ${today}::date)))::text as "left"
    from stock where item in (select code from item where code = any(${items}) and discontinued) group by item`.execute(db);
  return new Map(rows.map((row) => [row.item, row.left]));
}
