import type { BrokenPromise, ReschedulePreview } from '@nockwright/contract/supply';
import { daysBetween, spokenDay } from '@nockwright/core/calendar';
import { compareDecimal, divide, lineAmount, times } from '@nockwright/core/money';
import { promiseBook, type AtRisk, type BookSupply } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { decimal, loadBook, type LiveBook } from '../promise';

/** What a change of one supply of the book does to kept promises: those it makes late or impossible, and those it mends. */
export async function effectOf(
  db: Db,
  now: Now,
  live: LiveBook,
  supplyId: string,
  change: (supply: BookSupply) => BookSupply | null,
): Promise<Pick<ReschedulePreview, 'breaks' | 'mends'>> {
  const before = promiseBook(live.book).atRisk;
  const after = promiseBook(withSupply(live, supplyId, change).book).atRisk;
  return { breaks: await describe(db, now, live, beyond(after, before)), mends: await describe(db, now, live, beyond(before, after)) };
}

/** The book with one supply changed, or without it. */
export function withSupply(live: LiveBook, supplyId: string, change: (supply: BookSupply) => BookSupply | null): LiveBook {
  const supply = live.book.supply.flatMap((row) => (row.id === supplyId ? (change(row) ?? []) : [row]));
  return { ...live, book: { ...live.book, supply } };
}

/** The book of a purchase line's item, and the id its supply has there. */
export async function bookOf(db: Db, now: Now, item: string, number: string, lineNo: number): Promise<{ live: LiveBook; supplyId: string }> {
  return { live: await loadBook(db, now, { items: [item] }), supplyId: `${number}/${lineNo}` };
}

/** Rows of `rows` that are not in `others` in the same way. */
function beyond(rows: readonly AtRisk[], others: readonly AtRisk[]): AtRisk[] {
  const known = new Set(others.map((row) => JSON.stringify(row)));
  return rows.filter((row) => !known.has(JSON.stringify(row)));
}

async function describe(db: Db, now: Now, live: LiveBook, rows: readonly AtRisk[]): Promise<BrokenPromise[]> {
  const lines = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .select(['order_line.id', 'customer.name', 'order_line.price', 'order_line.numerator', 'order_line.denominator', 'sales_order.currency'])
    .where(
      anyOf(
        'order_line.id',
        rows.map((row) => live.demands.get(row.id)!.lineId),
      ),
    )
    .execute();
  const broken = rows.map(({ id, date, quantity, arrives }): BrokenPromise => {
    const info = live.demands.get(id)!;
    const line = lines.find((row) => row.id === info.lineId)!;
    return {
      order: info.orderId,
      number: info.orderNumber,
      lineNo: info.lineNo,
      customer: line.name,
      item: info.item,
      quantity: decimal(quantity),
      promised: date,
      arrives,
      daysLate: arrives === null ? null : daysBetween(date, arrives),
      value: lineAmount(decimal(quantity), divide(times(line.price, line.denominator), line.numerator, 6), line.currency),
      say: whatToSay(decimal(quantity), info.item, date, arrives, now.today),
    };
  });
  // Worst first: no supply at all, then the most days, then the most money.
  return broken.sort((a, b) => (b.daysLate ?? Infinity) - (a.daysLate ?? Infinity) || compareDecimal(b.value, a.value));
}

function whatToSay(quantity: string, item: string, promised: string, arrives: string | null, today: string): string {
  const opening = `The ${quantity} ${item} we promised for ${spokenDay(promised, today)}`;
  return arrives === null
    ? `${opening} have lost their supply; I am looking for another way and will call you back.`
    : `${opening} will leave on ${spokenDay(arrives, today)} instead.`;
}
