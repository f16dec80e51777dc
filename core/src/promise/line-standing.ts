import type { IsoDay } from '../calendar';
import type { BookSupply, OrderBook } from './order-book';
import { promiseBook } from './promise-book';
import type { AtRisk, DemandPromise } from './result';

/** What of a line is short, and why. */
export interface Short {
  /** Promised to nobody yet; its goods come late; its goods are gone. */
  readonly kind: 'waiting' | 'late' | 'broken';
  readonly quantity: number;
  /** The day it was promised for; null where it waits. */
  readonly promisedDay: IsoDay | null;
  /** The day all of it could leave; null where no supply is known for it. */
  readonly possibleDay: IsoDay | null;
}

/** Where a line stands today. Quantities in stocking units. */
export interface LineStanding {
  readonly id: string;
  readonly short: readonly Short[];
  /** What its promises find on the shelf, and the first day that was promised for. */
  readonly onHand: number;
  readonly readyDay: IsoDay | null;
  /** Whether all that is open of it is on the shelf. */
  readonly whole: boolean;
}

/** Where every line of a book stands: what of it is short, and what could leave now. Lines in file order. */
export function lineStandings(book: OrderBook): readonly LineStanding[] {
  const { promises, atRisk } = promiseBook(book);
  const shelf = new Set(book.supply.filter(isOnHand).map((row) => row.id));
  const risks = new Map<string, AtRisk[]>();
  for (const risk of atRisk) risks.set(risk.id, [...(risks.get(risk.id) ?? []), risk]);
  return promises.map((promise) => ({
    id: promise.id,
    short: [...waitingOf(promise), ...(risks.get(promise.id) ?? []).map(lostOf)],
    ...onShelf(promise, shelf),
  }));
}

function isOnHand(row: BookSupply): boolean {
  return row.date === undefined;
}

/** What was never promised; it can leave when the last of it can. */
function waitingOf({ schedule, uncovered }: DemandPromise): Short[] {
  const offered = schedule.filter((entry) => !entry.kept);
  const quantity = added([uncovered, ...offered.map((entry) => entry.quantity)]);
  if (quantity <= 0) return [];
  return [{ kind: 'waiting', quantity, promisedDay: null, possibleDay: uncovered > 0 ? null : (offered.at(-1)?.date ?? null) }];
}

function lostOf({ date, quantity, arrives }: AtRisk): Short {
  return { kind: arrives === null ? 'broken' : 'late', quantity, promisedDay: date, possibleDay: arrives };
}

function onShelf({ schedule, uncovered }: DemandPromise, shelf: ReadonlySet<string>): Pick<LineStanding, 'onHand' | 'readyDay' | 'whole'> {
  const ready = schedule.filter((entry) => entry.kept && entry.from.some((part) => shelf.has(part.supply)));
  const onHand = added(ready.flatMap((entry) => entry.from.filter((part) => shelf.has(part.supply)).map((part) => part.quantity)));
  const open = added([uncovered, ...schedule.map((entry) => entry.quantity)]);
  return { onHand, readyDay: ready[0]?.date ?? null, whole: onHand >= open };
}

/** Quantities have at most four decimals. */
function added(quantities: readonly number[]): number {
  return Math.round(quantities.reduce((sum, quantity) => sum + quantity, 0) * 10_000) / 10_000;
}

/**
 * Orders that must leave complete and whose lines hang on each other: one of them waits, is late or has lost its goods, or they
 * are promised for different days. In a part of the book their other items must be there, too.
 */
export function ordersThatTie(book: OrderBook, standings: readonly LineStanding[]): ReadonlySet<string> {
  const complete = new Set(book.orders.filter((order) => order.shipComplete).map((order) => order.id));
  const days = new Map<string, IsoDay>();
  const tie = new Set<string>();
  for (const [at, { order, promised = [] }] of book.demand.entries()) {
    if (!complete.has(order)) continue;
    if (standings[at]!.short.length > 0) tie.add(order);
    for (const { date } of promised) {
      if ((days.get(order) ?? date) !== date) tie.add(order);
      days.set(order, date);
    }
  }
  return tie;
}
