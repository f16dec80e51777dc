import { standOnBound, type BookDemand } from '../promise';
import type { SupplierOdds } from '../supply';
import type { BookRows } from './book-rows';
import { openDemand } from './demand';
import { asWarehouse, type BookTime, type LiveBook } from './live-book';
import { addInbound, addPlans, type Arrivals } from './on-the-way';
import { addShelves } from './shelf';
import type { SupplyFound } from './supply-found';

/**
 * The book that the promise engine reads, from the rows of the desk. `odds`: the record of suppliers' arrivals; it is not
 * needed where the rows ask for no confidence.
 */
export function buildBook(rows: BookRows, odds: SupplierOdds | null, time: BookTime): LiveBook {
  const warehouses = rows.warehouses.map(asWarehouse);
  const open = openDemand(rows, time);
  const arrivals: Arrivals = { warehouses: new Map(warehouses.map((row) => [row.code, row])), confidence: rows.confidence, odds, time };
  const found: SupplyFound = { supply: [], supplies: new Map(), bound: new Map() };
  addShelves(found, rows, open, arrivals.warehouses, time.today);
  addInbound(found, rows, open, arrivals);
  addPlans(found, rows, open, arrivals);
  const { orders, turns, demands, demandOfLine } = open;
  return {
    book: {
      asOf: time.localTime,
      warehouses: warehouses.map((row) => row.book),
      items: rows.items.map((id) => ({ id })),
      supply: found.supply,
      orders,
      demand: open.demand.map((row) => onBound(row, found)),
    },
    supplies: found.supplies,
    demands,
    demandOfLine,
    turns,
  };
}

/** What was told rests on what is bound to the line first. */
function onBound(row: BookDemand, { bound }: SupplyFound): BookDemand {
  const goods = bound.get(row.id);
  return goods && row.promised ? { ...row, promised: standOnBound(row.promised, goods, row.quantity) } : row;
}
