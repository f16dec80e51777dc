import { moveTo } from './assemble';
import { compileBook, type CompiledBook, type CompiledOrder, type Line } from './compiled-book';
import type { OrderBook } from './order-book';
import { peg } from './peg';
import { keepPromises, promiseInParts, promiseWhole, type Entry, type LinePromise } from './promise-line';
import { toResult, type PromiseResult } from './result';

/** `keep`: what was promised stands and only the rest is promised. `resequence`: all is promised anew. */
export type PromiseMode = 'keep' | 'resequence';

/**
 * Promises a whole order book: for every demand the days on which it leaves and the supply each part comes from; for
 * every order its day; and the kept promises that their supply no longer reaches. The book must be faultless
 * (`checkOrderBook`). The same book gives the same result, always.
 */
export function promiseBook(book: OrderBook, mode: PromiseMode = 'keep'): PromiseResult {
  const compiled = compileBook(book);
  const promises = compiled.lines.map((): LinePromise => ({ kept: [], fresh: [] }));
  if (mode === 'keep') {
    for (const order of compiled.sequence) for (const line of order.lines) promises[line.index]!.kept.push(...keepPromises(compiled, line));
  }
  for (const order of compiled.sequence) promiseOrder(compiled, order, promises);
  return toResult(compiled, promises, peg(compiled, promises));
}

function promiseOrder(book: CompiledBook, order: CompiledOrder, promises: readonly LinePromise[]) {
  let whole = true;
  for (const line of order.lines) {
    const promise = promises[line.index]!;
    const wanted = line.quantity - total(promise.kept);
    if (wanted > 0) promise.fresh = line.partial && !order.shipComplete ? promiseInParts(book, line, wanted) : promiseWhole(book, line, wanted);
    whole &&= total(promise.fresh) === wanted;
    freeBound(book, line);
  }
  if (order.shipComplete && whole) shipTogether(book, order, promises);
}

/** Moves what was newly promised of a ship-complete order to the day its last line can leave. */
function shipTogether(book: CompiledBook, order: CompiledOrder, promises: readonly LinePromise[]) {
  const days = order.lines.flatMap(({ index }) => [...promises[index]!.kept, ...promises[index]!.fresh].map((entry) => entry.day));
  const last = Math.max(...days);
  for (const line of order.lines) {
    const { calendar } = book.sites[line.site]!;
    const day = calendar.ceil(last);
    for (const entry of promises[line.index]!.fresh) {
      entry.day = day;
      for (const commitment of entry.commitments) moveTo(commitment, calendar.offset(day, -commitment.lead));
    }
  }
}

/** What was bound to the line and it has not taken serves those that come after it. */
function freeBound(book: CompiledBook, line: Line) {
  for (const piece of line.bound) {
    if (piece.quantity === 0) continue;
    const pool = book.pool(line.item, line.site);
    pool.supplies.push({ ...piece });
    pool.timeline.supply(piece.available, piece.quantity);
  }
}

function total(entries: readonly Entry[]): number {
  return entries.reduce((sum, entry) => sum + entry.quantity, 0);
}
