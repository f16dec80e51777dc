import { dayNumber } from '../calendar';
import { compileBook } from './compile-book';
import type { OrderBook } from './order-book';
import { promiseColumns, type Progress } from './promise-group';
import { replan, type PlannedLine } from './replan';
import { toResult } from './result';
import { isEarlier, moved, type Moved } from './ripple';

/** How late a set of lines is. */
export interface Lateness {
  /** Lines that leave after the day asked for, in part or whole. */
  readonly lateLines: number;
  /** Calendar days late, summed over the lines that have a last day. */
  readonly lateDays: number;
  /** Value of the quantities that leave late. */
  readonly lateValue: number;
  /** Lines of which something has no day. */
  readonly withoutDay: number;
}

export interface Resequenced {
  readonly before: Lateness;
  readonly after: Lateness;
  /** The same by owner, for those whose lateness changes; most late value saved first. */
  readonly owners: readonly { readonly owner: number; readonly before: Lateness; readonly after: Lateness }[];
  readonly later: readonly Moved[];
  readonly earlier: readonly Moved[];
}

/**
 * The whole book promised anew in the sequence of orders, against how it stands: told promises on the days their goods
 * really come, what waits without a day. `worth`: whose each demand is, and the value of one stocking unit of it.
 */
export function resequence(
  book: OrderBook,
  worth: ReadonlyMap<string, { readonly owner: number; readonly unitValue: number }>,
  progress?: Progress,
): Resequenced {
  const before = replan(book, () => 'hold');
  const result = toResult(promiseColumns(compileBook(book), 'resequence', progress));
  const after = result.promises.map(({ id, schedule, uncovered }): PlannedLine => ({ id, schedule, uncovered }));
  const changes = after.flatMap((line, at) => moved(before[at], line) ?? []);

  const owners = new Map<number, { before: Lateness; after: Lateness }>();
  let [allBefore, allAfter] = [NONE, NONE];
  book.demand.forEach((demand, at) => {
    const { owner, unitValue } = worth.get(demand.id) ?? { owner: 0, unitValue: 0 };
    const [was, becomes] = [latenessOf(before[at]!, demand.requested, unitValue), latenessOf(after[at]!, demand.requested, unitValue)];
    const known = owners.get(owner) ?? { before: NONE, after: NONE };
    owners.set(owner, { before: plus(known.before, was), after: plus(known.after, becomes) });
    allBefore = plus(allBefore, was);
    allAfter = plus(allAfter, becomes);
  });
  return {
    before: allBefore,
    after: allAfter,
    owners: [...owners]
      .map(([owner, both]) => ({ owner, ...both }))
      .filter(
        (row) => row.before.lateDays !== row.after.lateDays || row.before.lateValue !== row.after.lateValue || row.before.withoutDay !== row.after.withoutDay,
      )
      .sort((a, b) => b.before.lateValue - b.after.lateValue - (a.before.lateValue - a.after.lateValue)),
    later: changes.filter((row) => !isEarlier(row)).sort((a, b) => (b.days ?? Infinity) - (a.days ?? Infinity)),
    earlier: changes.filter(isEarlier),
  };
}

const NONE: Lateness = { lateLines: 0, lateDays: 0, lateValue: 0, withoutDay: 0 };

function latenessOf(line: PlannedLine, requested: string, unitValue: number): Lateness {
  const late = line.schedule.filter((part) => part.date > requested);
  const last = late[late.length - 1];
  return {
    lateLines: last ? 1 : 0,
    lateDays: last ? dayNumber(last.date) - dayNumber(requested) : 0,
    lateValue: late.reduce((sum, part) => sum + part.quantity * unitValue, 0),
    withoutDay: line.uncovered > 0 ? 1 : 0,
  };
}

function plus(a: Lateness, b: Lateness): Lateness {
  return {
    lateLines: a.lateLines + b.lateLines,
    lateDays: a.lateDays + b.lateDays,
    lateValue: a.lateValue + b.lateValue,
    withoutDay: a.withoutDay + b.withoutDay,
  };
}
