import type { PromiseRun } from './promise-run';
import type { Scaled } from './quantity';
import { shelfOf } from './goods';
import { pegBoundTakes, pegShelf } from './peg-shelf';
import { bucketSort } from './sort';

/**
 * Says which supply serves which commitment of a group. Each pool hands out its supplies first in, first out to its
 * commitments by day: whoever leaves first takes what is there; priority has already decided who got the day.
 */
export function pegGroup(run: PromiseRun, group: number): void {
  const { arranged, commitments, entries, supplies } = run;
  const [from, to] = [arranged.lineFrom[group]!, arranged.lineFrom[group + 1]!];
  commitments.count = 0;
  for (let line = from; line < to; line++) {
    const keptFrom = run.keptFrom(line);
    const keptTo = run.keptTo(line);
    const freshFrom = run.freshFrom[line]!;
    const freshTo = freshFrom + run.freshCount[line]!;
    const pool = run.book.linePool[line]!;
    // Within a day: kept before new before components. Collected in that order, so a stable sort by day keeps it.
    collectOwn(run, pool, keptFrom, keptTo);
    collectOwn(run, pool, freshFrom, freshTo);
    if (entries.withAssembly) {
      collectTakings(run, keptFrom, keptTo);
      collectTakings(run, freshFrom, freshTo);
    }
    if (supplies.boundFrom !== null && supplies.boundFrom[line]! < supplies.boundFrom[line + 1]!) pegBound(run, line);
  }
  if (commitments.count === 0) return;
  if (arranged.poolFrom[group + 1]! - arranged.poolFrom[group]! > 1) splitByPool(run);
  else pegPool(run, 0, commitments.count);
}

function collectOwn({ commitments, entries }: PromiseRun, pool: number, from: number, to: number) {
  for (let entry = from; entry < to; entry++) {
    if (!entries.isAssembled(entry) && entries.fromPool(entry) > 0) commitments.add(entry, pool, entries.day[entry]!);
  }
}

function collectTakings({ commitments, entries, takings }: PromiseRun, from: number, to: number) {
  for (let entry = from; entry < to; entry++) {
    for (let taking = entries.takingsFrom[entry]!, end = taking + entries.takingsCount[entry]!; taking < end; taking++) {
      commitments.add(~taking, takings.pool[taking]!, takings.day[taking]!);
    }
  }
}

/** Brings the commitments of each pool together, as they stood, and pegs pool by pool. */
function splitByPool(run: PromiseRun) {
  const { commitments } = run;
  const numbers = new Map<number, number>();
  const number = Int32Array.from(commitments.pool.subarray(0, commitments.count), (pool) => {
    if (!numbers.has(pool)) numbers.set(pool, numbers.size);
    return numbers.get(pool)!;
  });
  const starts = new Int32Array(numbers.size + 1);
  const order = bucketSort(number, numbers.size, starts);
  for (const column of [commitments.ref, commitments.pool, commitments.day]) {
    column.set(Float64Array.from(order, (at) => column[at]!));
  }
  for (let pool = 0; pool < numbers.size; pool++) pegPool(run, starts[pool]!, starts[pool + 1]!);
}

function pegPool(run: PromiseRun, from: number, to: number) {
  const shelf = shelfOf(run, run.commitments.pool[from]!);
  if (shelf) pegShelf(run, shelf, from, to);
  else pegTimeline(run, from, to);
}

/** Hands a pool's supplies out to its commitments by day, those of one day as they stand. */
function pegTimeline({ commitments, supplies, entries, takings, pegs, pool: entryPegs, taken }: PromiseRun, from: number, to: number) {
  const { sorted, free } = supplies;
  const pool = commitments.pool[from]!;
  commitments.sorter.sort(commitments.ref, commitments.day, from, to);
  let at = supplies.from[pool]!;
  const end = supplies.from[pool + 1]!;
  let left = at < end ? free[sorted[at]!]! : 0;
  for (let place = from; place < to; place++) {
    const ref = commitments.ref[place]!;
    let missing: Scaled = ref >= 0 ? entries.fromPool(ref) : takings.quantity[~ref]!;
    const first = pegs.count;
    while (missing > 0 && at < end) {
      if (left > 0) {
        const given = left < missing ? left : missing;
        pegs.add(sorted[at]!, given);
        missing -= given;
        left -= given;
      }
      if (left === 0 && ++at < end) left = free[sorted[at]!]!;
    }
    if (missing > 0) pegs.add(-1, missing);
    if (ref >= 0) entryPegs.set(ref, first, pegs.count - first);
    else taken.set(~ref, first, pegs.count - first);
  }
}

/**
 * Says which supply serves a line that nothing is bound to and nothing was promised to before, in a run that promised
 * only its group. In a group of one pool, whose supplies go out first in, first out, it is enough to know how much goes
 * out before it.
 */
export function pegNewLine(run: PromiseRun, group: number, line: number): void {
  const { lineFrom, poolFrom } = run.arranged;
  if (poolFrom[group + 1]! - poolFrom[group]! > 1 || (run.shelves && run.shelves.size > 0)) return pegGroup(run, group);
  const first = run.freshFrom[line]!;
  // Of what the others take, how much goes out between one part of the line and the next.
  const between = new Float64Array(run.freshCount[line]!);
  const kept = run.keptFrom(line);
  countBefore(run, first, between, run.keptFrom(lineFrom[group]!), kept, true);
  countBefore(run, first, between, kept, run.keptTo(lineFrom[group + 1]! - 1), false);
  countBefore(run, first, between, run.entries.kept, first, true);
  countBefore(run, first, between, first + between.length, run.entries.count, false);
  handOut(run, line, between);
}

/** `sooner`: whether what leaves on the same day as a part goes out before it. */
function countBefore({ entries }: PromiseRun, first: number, between: Float64Array, from: number, to: number, sooner: boolean) {
  if (between.length === 0) return;
  const last = entries.day[first + between.length - 1]! - (sooner ? 0 : 1);
  for (let entry = from; entry < to; entry++) {
    const day = entries.day[entry]!;
    if (day > last) continue;
    let part = 0;
    while (entries.day[first + part]! < (sooner ? day : day + 1)) part++;
    between[part]! += entries.fromPool(entry);
  }
}

/** Hands a pool's supplies out to the parts of one line, and before each part to nobody what others take. */
function handOut({ book, supplies, entries, freshFrom, pegs, pool: entryPegs }: PromiseRun, line: number, between: Float64Array) {
  const { sorted, free } = supplies;
  const pool = book.linePool[line]!;
  let at = supplies.from[pool]!;
  const end = supplies.from[pool + 1]!;
  let left = at < end ? free[sorted[at]!]! : 0;
  for (let part = 0; part < between.length; part++) {
    const entry = freshFrom[line]! + part;
    const first = pegs.count;
    let others = between[part]!;
    let missing = entries.fromPool(entry);
    while (missing > 0 && at < end) {
      const given = Math.min(left, others > 0 ? others : missing);
      if (others > 0) others -= given;
      else if (given > 0) {
        pegs.add(sorted[at]!, given);
        missing -= given;
      }
      left -= given;
      if (left === 0 && ++at < end) left = free[sorted[at]!]!;
    }
    entryPegs.set(entry, first, pegs.count - first);
  }
}

/** The line's bound supply goes to its entries: earliest promised day to earliest supply, or what each took where goods expire. */
function pegBound(run: PromiseRun, line: number) {
  if (shelfOf(run, run.book.linePool[line]!)) return pegBoundTakes(run, line);
  const { entries, pegs, supplies } = run;
  const users: number[] = [];
  for (let entry = run.keptFrom(line); entry < run.keptTo(line); entry++) if (entries.fromBound[entry]! > 0) users.push(entry);
  const freshTo = run.freshFrom[line]! + run.freshCount[line]!;
  for (let entry = run.freshFrom[line]!; entry < freshTo; entry++) if (entries.fromBound[entry]! > 0) users.push(entry);
  // Kept come first in the list, and the sort is stable.
  users.sort((a, b) => entries.day[a]! - entries.day[b]!);
  // Of each supply its line took what is no longer left of the bound part, earliest first; hand that out again.
  let at = supplies.boundFrom![line]!;
  const gave = (place: number) => supplies.bound[supplies.boundSorted![place]!]! - supplies.boundLeft[supplies.boundSorted![place]!]!;
  let left = gave(at);
  for (const entry of users) {
    let missing = entries.fromBound[entry]!;
    const first = pegs.count;
    while (missing > 0) {
      if (left === 0) left = gave(++at);
      const given = Math.min(left, missing);
      if (given > 0) pegs.add(supplies.boundSorted![at]!, given);
      left -= given;
      missing -= given;
    }
    run.bound.set(entry, first, pegs.count - first);
  }
}
