import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import { inTurn, placeEntered } from '@nockwright/core/book';
import type { PromiseCheck } from '@nockwright/contract/promise';
import { dayNumber, isoDay, shortDay } from '@nockwright/core/calendar';
import { decimal, promiseBook, spokenPromise, type OrderBook } from '@nockwright/core/promise';
import type { Now } from '../clock';
import type { Db } from '../database';
import { invalid } from '../http/refusal';
import { loadBook } from './load-book';

const MOST_LINES = 100;
const USUAL_PRIORITY = 5;
const CHECKED = 'check';

export interface CheckedOrder {
  readonly warehouse: WarehouseCode;
  /** The day the goods are to leave; today where absent. */
  readonly day?: string;
  /** Items and quantities in stocking units: `JAR-340:120,LID-063:120`. */
  readonly lines: string;
  readonly priority?: number;
  readonly complete?: boolean;
}

/**
 * What an order would be promised if it were released now, without making one: for the shop channel, a portal, a caller
 * who only asks. Nothing is held for it.
 */
export async function checkPromise(db: Db, now: Now, wish: CheckedOrder): Promise<PromiseCheck> {
  const wanted = readLines(wish.lines);
  const day = wish.day ?? now.today;
  if (day < now.today) throw invalid('query.day', `${shortDay(day, now.today)} has passed; expected ${now.today} or later`);
  const live = await loadBook(db, now, { items: [...new Set(wanted.map((line) => line.item))] });
  const known = new Set(live.book.items.map((item) => item.id));
  wanted.forEach(({ item }, at) => {
    if (!known.has(item)) throw invalid(`query.lines[${at}]`, `there is no item ${item}`);
  });
  const warehouse = live.book.warehouses.find((row) => row.id === wish.warehouse);
  if (!warehouse)
    throw invalid('query.warehouse', `there is no warehouse ${wish.warehouse}; there are ${live.book.warehouses.map((row) => row.id).join(', ')}`);

  const priority = wish.priority ?? USUAL_PRIORITY;
  const order = { id: CHECKED, priority, entered: now.localTime, shipComplete: wish.complete ?? false };
  const turns = new Map(live.turns).set(CHECKED, { priority, place: placeEntered(now.localTime) });
  const demand = wanted.map(({ item, quantity }, at) => ({
    id: `${CHECKED}/${at + 1}`,
    order: CHECKED,
    item,
    warehouse: warehouse.id,
    quantity,
    requested: isoDay(dayNumber(day)),
  }));
  const book: OrderBook = { ...live.book, orders: inTurn([...live.book.orders, order], turns), demand: [...live.book.demand, ...demand] };
  const result = promiseBook(book);
  const lines = result.promises.slice(live.book.demand.length).map((promise, at) => {
    const schedule = promise.schedule.map((entry) => ({ day: entry.date, quantity: entry.quantity }));
    return {
      item: wanted[at]!.item,
      quantity: decimal(wanted[at]!.quantity),
      schedule: schedule.map((part) => ({ ...part, quantity: decimal(part.quantity) })),
      uncovered: decimal(promise.uncovered),
      daysLate: promise.daysLate,
      say: spokenPromise(schedule, promise.uncovered, now.today),
    };
  });
  return { day, complete: result.orders[result.orders.length - 1]!.date, lines };
}

const LINE = /^([^:,]+):(\d{1,9}(?:\.\d{1,4})?)$/;

function readLines(text: string): { readonly item: ItemCode; readonly quantity: number }[] {
  const parts = text.split(',');
  if (parts.length > MOST_LINES) throw invalid('query.lines', `at most ${MOST_LINES} lines are checked at once, got ${parts.length}`);
  return parts.map((part, at) => {
    const [, item, quantity] = LINE.exec(part.trim()) ?? [];
    if (item === undefined || quantity === undefined || Number(quantity) === 0)
      throw invalid(`query.lines[${at}]`, `expected an item and a quantity above 0 as JAR-340:120, got ${part.slice(0, 60)}`);
    return { item, quantity: Number(quantity) };
  });
}
