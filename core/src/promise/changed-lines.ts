import type { PromiseRun } from './promise-run';

/**
 * The lines, of those given by their row in the file, whose days or quantities differ between two answers of a book and
 * of the same book with lines added. A line the first answer does not know is not among them. Kept and new parts of a
 * day count as one.
 */
export function changedLines(before: PromiseRun, after: PromiseRun, lines: Int32Array): number[] {
  const known = before.arranged.placeOf;
  const places = after.arranged.placeOf;
  const unit = after.book.scale / before.book.scale;
  const changed: number[] = [];
  for (const line of lines) {
    if (line >= known.length || sameFresh(before, known[line]!, after, places[line]!, unit)) continue;
    if (differs(quantityByDay(before, known[line]!), quantityByDay(after, places[line]!), unit)) changed.push(line);
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
