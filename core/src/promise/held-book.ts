import { isoDay, type DayNumber } from '../calendar';
import { compileBook } from './compile-book';
import type { BookPromise, BookSupply, OrderBook } from './order-book';
import { promiseColumns } from './promise-group';
import type { PromiseRun } from './promise-run';
import { SCALE } from './quantity';
import { ResultReader } from './result';

/**
 * The book with every promise as the computation finds it to stand: on its day where its goods are there by then, on the day
 * they come where that is later, and none where no goods are left for it. In a book that is held so every promise stands on
 * what there is; the book itself where that is so already.
 */
export function heldBook(book: OrderBook): OrderBook {
  const run = promiseColumns(compileBook(book), 'keep');
  const reader = new ResultReader(run);
  // A promise may stand on goods bound to a line that needs them no more, though nothing is at risk.
  const lent = book.supply.some((row) => row.for !== undefined) ? lentBy(run, reader) : NOTHING;
  if (lent.size === 0 && reader.atRisk().next().done) return book;
  const { placeOf } = run.arranged;
  return {
    ...book,
    supply: withoutLent(book.supply, lent),
    demand: book.demand.map((demand, line) =>
      demand.promised && demand.promised.length > 0 ? { ...demand, promised: heldPromises(run, reader, placeOf[line]!) } : demand,
    ),
  };
}

const NOTHING: ReadonlyMap<string, number> = new Map();

/** Of each supply that is bound to a line: how much of it serves what others were promised. */
function lentBy(run: PromiseRun, reader: ResultReader): ReadonlyMap<string, number> {
  const { book } = run;
  const lent = new Map<string, number>();
  for (let line = 0; line < book.lineOrder.length; line++)
    for (let entry = run.keptFrom(line); entry < run.keptTo(line); entry++)
      for (const { supply, quantity, bound } of reader.pegsOf(entry)) {
        if (bound || supply < 0 || book.supplyFor[supply]! < 0) continue;
        const id = book.supplyIds[supply]!;
        lent.set(id, (lent.get(id) ?? 0) + quantity / book.scale);
      }
  return lent;
}

/** Supplies of which what is bound and serves others stands apart, as anyone's. */
function withoutLent(supply: readonly BookSupply[], lent: ReadonlyMap<string, number>): readonly BookSupply[] {
  return supply.flatMap((row) => {
    const others = lent.get(row.id);
    if (others === undefined) return [row];
    const left = Math.round((row.quantity - others) * SCALE) / SCALE;
    const { for: _, ...free } = row;
    // A name no book has.
    const apart = { ...free, id: `${row.id}\u0000`, quantity: others };
    return left > 0 ? [{ ...row, quantity: left }, apart] : [apart];
  });
}

/** A part of what a line was promised, on the day on which it stands. */
interface Held {
  readonly day: DayNumber;
  readonly assembled: boolean;
  quantity: number;
  /** What of it stands on goods bound to the line. */
  bound: number;
}

function heldPromises(run: PromiseRun, reader: ResultReader, line: number): readonly BookPromise[] {
  const { book, entries } = run;
  const parts = new Map<string, Held>();
  const hold = (day: DayNumber, assembled: boolean, quantity: number, bound: number) => {
    const key = `${day} ${assembled}`;
    const part = parts.get(key) ?? { day, assembled, quantity: 0, bound: 0 };
    part.quantity += quantity;
    part.bound += bound;
    parts.set(key, part);
  };
  for (let entry = run.keptFrom(line); entry < run.keptTo(line); entry++) {
    const day = entries.day[entry]!;
    if (entries.isAssembled(entry)) {
      const [risk] = reader.risksOf(line, entry);
      if (!risk) hold(day, true, entries.quantity[entry]!, 0);
      else if (risk.arrives !== null) hold(risk.arrives, true, entries.quantity[entry]!, 0);
      continue;
    }
    for (const { supply, quantity, bound } of reader.pegsOf(entry))
      if (supply >= 0) hold(Math.max(day, book.supplyAvailable[supply]!), false, quantity, bound ? quantity : 0);
  }
  return [...parts.values()]
    .sort((a, b) => a.day - b.day || Number(a.assembled) - Number(b.assembled))
    .map(({ day, assembled, quantity, bound }) => ({
      date: isoDay(day),
      quantity: quantity / book.scale,
      ...(assembled ? { assembled } : { boundQuantity: bound / book.scale }),
    }));
}
