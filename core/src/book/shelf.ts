import { shortDay, type IsoDay } from '../calendar';
import { compareDecimal, minus, sum } from '../money';
import { takeLots, withLot, type LotGoods } from '../supply';
import type { BookRows, LineRow, StockRow } from './book-rows';
import { lastsUntil, type OpenDemand } from './demand';
import type { WarehouseRow } from './live-book';
import { addSupply, bindTo, type SupplyFound } from './supply-found';

/** Adds what is on hand: what is set aside for lines, then what is left of each lot. */
export function addShelves(
  found: SupplyFound,
  { stock }: BookRows,
  { lines, demandOfLine }: OpenDemand,
  warehouses: ReadonlyMap<string, WarehouseRow>,
  today: IsoDay,
): void {
  const shelves = new Map(stock.map((row) => [poolOf(row), shelfOf(row, today)]));
  const add = (row: Pool, { expires, quantity }: LotGoods, target?: string) => {
    const id = ['ON-HAND', poolOf(row), ...(target ? [target] : []), ...(expires ? [expires] : [])].join('/');
    const words = [
      `on hand at ${warehouses.get(row.warehouse)!.name}`,
      ...(expires ? [`expires ${shortDay(expires, today)}`] : []),
      ...(target ? ['set aside for this line'] : []),
    ];
    addSupply(
      found,
      { id, item: row.item, warehouse: row.warehouse, quantity: Number(quantity), ...(target ? { for: target } : {}), ...(expires ? { expires } : {}) },
      { kind: 'on_hand', label: words.join(', '), purchase: null, purchaseLine: null, cost: null, days: '', available: null, awaited: null },
    );
  };
  for (const line of lines) {
    const target = demandOfLine.get(line.id);
    // Set aside for a pick or come in for the line: it serves nobody else.
    const quantity = compareDecimal(line.reserved, line.picking) > 0 ? line.reserved : line.picking;
    if (!target || compareDecimal(quantity, '0') <= 0) continue;
    const { taken, left } = takeLots(shelves.get(poolOf(line)) ?? [], quantity, lastsUntil(line, today));
    shelves.set(poolOf(line), left);
    for (const lot of taken) add(line, lot, target);
    bindTo(found, target, { day: null, quantity: Number(quantity) });
  }
  for (const row of stock) for (const lot of shelves.get(poolOf(row))!) add(row, lot);
}

type Pool = Pick<LineRow, 'item' | 'warehouse'>;

function poolOf({ item, warehouse }: Pool): string {
  return `${item}/${warehouse}`;
}

/** What of an item on hand at a warehouse is not set aside, by the last day it may be used. */
function shelfOf({ on_hand, set_aside, lots }: StockRow, today: string): readonly LotGoods[] {
  const dated = lots ?? [];
  const all = withLot(dated, null, minus(on_hand, sum(dated.map((lot) => lot.quantity))));
  return takeLots(all, set_aside, today).left;
}
