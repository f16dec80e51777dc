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
  const same = sameFresh(before, after, unit);
  const changed: ChangedLine[] = [];
  for (let place = from; place < to; place++) {
    const known = placeBefore(place);
    if (known < 0 || same(known, place)) continue;
    const days = { before: quantityByDay(before, known), after: quantityByDay(after, place) };
    if (differs(days.before, days.after, unit)) changed.push({ line: after.arranged.lineAt[place]!, ...days });
  }
  return changed;
}

/** Tells of a line whether it is newly promised the same in both; what it was promised before is the same in any case. */
function sameFresh(a: PromiseRun, b: PromiseRun, unit: number): (lineA: number, lineB: number) => boolean {
  // Taken out of the runs once: it is asked of every line.
  const [countA, countB, fromA, fromB] = [a.freshCount, b.freshCount, a.freshFrom, b.freshFrom];
  const { day: dayA, quantity: quantityA } = a.entries;
  const { day: dayB, quantity: quantityB } = b.entries;
  return (lineA, lineB) => {
    const count = countA[lineA]!;
    if (count !== countB[lineB]!) return false;
    for (let at = 0, x = fromA[lineA]!, y = fromB[lineB]!; at < count; at++, x++, y++) {
      if (dayA[x]! !== dayB[y]! || quantityA[x]! * unit !== quantityB[y]!) return false;
    }
    return true;
  };
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
