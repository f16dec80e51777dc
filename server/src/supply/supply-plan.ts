import { type LiveBook } from '@nockwright/core/book';
import { dayNumber, isoDay, leavesAgain } from '@nockwright/core/calendar';
import { compareDecimal, minus } from '@nockwright/core/money';
import type { BookSupply } from '@nockwright/core/promise';
import type { Now } from '../clock';
import type { Db } from '../database';
import { decimal, loadBook, loadWarehouses, type RipplePlan } from '../promise';
import type { PurchaseLineRecord } from './load-purchase';

/** What becomes of a supply of the book: what stands in its place, nothing where the list is empty. */
export type SupplyChange = (supply: BookSupply) => readonly BookSupply[];

/** The id that a purchase line's supply has in a book. */
export function supplyIdOf(purchaseNumber: string, line: Pick<PurchaseLineRecord, 'line_no'>): string {
  return `${purchaseNumber}/${line.line_no}`;
}

/** The book of some items where promises may move. */
export function movingBook(db: Db, now: Now, items: readonly string[]): Promise<LiveBook> {
  return loadBook(db, now, { items: [...new Set(items)], moving: true });
}

/** The plan of a change of some supplies. */
export function planOfSupply(live: LiveBook, changes: ReadonlyMap<string, SupplyChange>): RipplePlan {
  const supply = live.book.supply.flatMap((row) => changes.get(row.id)?.(row) ?? [row]);
  return { live, after: { ...live.book, supply } };
}

/** Another day or another quantity awaited; nothing where that is none. */
export function changedTo(day: string | undefined, open: string | undefined): SupplyChange {
  return (supply) => {
    const quantity = open ?? decimal(supply.quantity);
    return compareDecimal(quantity, '0') > 0 ? [{ ...supply, quantity: Number(quantity), ...(day ? { date: day } : {}) }] : [];
  };
}

/** A part of it has come in; the rest is still awaited, or closed. What comes in for one line stays bound to it. */
export function received(quantity: string, closeRest: boolean): SupplyChange {
  return (supply) => {
    const rest = minus(decimal(supply.quantity), quantity);
    const { date: _, ...arrived } = { ...supply, id: `${supply.id}/in`, quantity: Number(quantity) };
    return [...(arrived.quantity > 0 ? [arrived] : []), ...(compareDecimal(rest, '0') > 0 && !closeRest ? [{ ...supply, quantity: Number(rest) }] : [])];
  };
}

/** The day goods that come in on `day` can leave a warehouse again; what was due and has not come comes tomorrow at the soonest. */
export async function dayAvailable(db: Db, now: Now, warehouseCode: string, day: string): Promise<string> {
  const { book } = (await loadWarehouses(db)).find((row) => row.code === warehouseCode)!;
  return leavesAgain(day < now.today ? isoDay(dayNumber(now.today) + 1) : day, book);
}
