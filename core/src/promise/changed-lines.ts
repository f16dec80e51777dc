import type { PromiseRun } from './promise-run';

/** A line, by its row in the file, with what leaves on each day in two answers. */
export interface ChangedLine {
  readonly line: number;
  readonly before: ReadonlyMap<number, number>;
  readonly after: ReadonlyMap<number, number>;
}

/**
 * Of the lines at places `from` to `to - 1` of the second answer those whose days or quantities differ between two answers
 * of a book and of the same book with lines added. `placeBefore`: where a line stood in the first, -1 where it is new.
 * Kept and new parts of a day count as one; quantities are scaled as each book scales.
 */
export function changedLines(before: PromiseRun, after: PromiseRun, from: number, to: number, placeBefore: (place: number) => number): ChangedLine[] {
  const unit = after.book.scale / before.book.scale;
  const changed: ChangedLine[] = [];
  for (let place = from; place < to; place++) {
    const known = placeBefore(place);
    if (known < 0 || sameFresh(before, known, after, place, unit)) continue;
    const days = { before: quantityByDay(before, known), after: quantityByDay(after, place) };
    if (differs(days.before, days.after, unit)) changed.push({ line: after.arranged.lineAt[place]!, ...days });
  }
  return changed;
}

/** Whether a line is newly promised the same in both; what it was promised before is the same in any case. */
function sameFresh(a: PromiseRun, lineA: number, b: PromiseRun, lineB: number, unit: number): boolean {
  const count = a.freshCount[lineA]!;
  if (count !== b.freshCount[lineB]!) return false;
  for (let at = 0, x = a.freshFrom[lineA]!, y = b.freshFrom[lineB]!; at < count; at++, x++, y++) {
    if (a.entries.day[x]! !== b.entries.day[y]! || a.entries.quantity[x]! * unit !== b.entries.quantity[y]!) return false;
  }
  return true;
}

function differs(a: ReadonlyMap<number, number>, b: ReadonlyMap<number, number>, unit: number): boolean {
  return a.size !== b.size || [...a].some(([day, quantity]) => b.get(day) !== quantity * unit);
}

function quantityByDay(run: PromiseRun, line: number): ReadonlyMap<number, number> {
  const byDay = new Map<number, number>();
  const add = (entry: number) => byDay.set(run.entries.day[entry]!, (byDay.get(run.entries.day[entry]!) ?? 0) + run.entries.quantity[entry]!);
  for (let entry = run.keptFrom(line); entry < run.keptTo(line); entry++) add(entry);
  for (let at = 0; at < run.freshCount[line]!; at++) add(run.freshFrom[line]! + at);
  return byDay;
}
