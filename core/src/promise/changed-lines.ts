import type { PromiseRun } from './promise-run';

/**
 * The lines, of those given by their row in the file, whose days or quantities differ between two answers. A line the
 * first answer does not know is not among them. Kept and new parts of a day count as one.
 */
export function* changedLines(before: PromiseRun, after: PromiseRun, lines: Int32Array): Generator<number> {
  const known = before.arranged.placeOf;
  for (const line of lines) if (line < known.length && differs(before, known[line]!, after, after.arranged.placeOf[line]!)) yield line;
}

function differs(a: PromiseRun, lineA: number, b: PromiseRun, lineB: number): boolean {
  const [keptA, keptB] = [a.keptTo(lineA) - a.keptFrom(lineA), b.keptTo(lineB) - b.keptFrom(lineB)];
  const [freshA, freshB] = [a.freshCount[lineA]!, b.freshCount[lineB]!];
  // The same promises kept and as many new ones: compare those one by one.
  if (keptA === keptB && freshA === freshB) {
    const [fromA, fromB] = [a.freshFrom[lineA]!, b.freshFrom[lineB]!];
    let same = true;
    for (let at = 0; at < freshA && same; at++) {
      same = a.entries.day[fromA + at] === b.entries.day[fromB + at] && a.entries.quantity[fromA + at] === b.entries.quantity[fromB + at];
    }
    for (let at = 0; at < keptA && same; at++) {
      const [x, y] = [a.keptFrom(lineA) + at, b.keptFrom(lineB) + at];
      same = a.entries.day[x] === b.entries.day[y] && a.entries.quantity[x] === b.entries.quantity[y];
    }
    if (same) return false;
  }
  const [byDayA, byDayB] = [quantityByDay(a, lineA), quantityByDay(b, lineB)];
  return byDayA.size !== byDayB.size || [...byDayA].some(([day, quantity]) => byDayB.get(day) !== quantity);
}

function quantityByDay(run: PromiseRun, line: number): ReadonlyMap<number, number> {
  const byDay = new Map<number, number>();
  const add = (entry: number) => byDay.set(run.entries.day[entry]!, (byDay.get(run.entries.day[entry]!) ?? 0) + run.entries.quantity[entry]!);
  for (let entry = run.keptFrom(line); entry < run.keptTo(line); entry++) add(entry);
  for (let at = 0; at < run.freshCount[line]!; at++) add(run.freshFrom[line]! + at);
  return byDay;
}
