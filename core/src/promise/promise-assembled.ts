import type { DayNumber } from '../calendar';
import { assembledPart, assemble } from './assemble';
import { ownBy, addOwn } from './own';
import type { PromiseRun } from './promise-run';
import type { Scaled } from './quantity';

/** Own supply first and the rest assembled: on one day, or part by part from own supply until the rest can be assembled. */
export function promiseAssembled(run: PromiseRun, line: number, wanted: Scaled, target: DayNumber, inParts: boolean): Scaled {
  const { book } = run;
  const pool = book.linePool[line]!;
  const days = turningDays(run, pool);
  let missing = wanted;
  for (let at = firstAfter(days, target) - 1; at < days.length; at++) {
    const day = Math.max(target, at < 0 ? target : days[at]!);
    if (takeOwnAndAssemble(run, line, day, missing)) return 0;
    if (!inParts) continue;
    const quantity = Math.min(missing, ownBy(run, line, day));
    if (quantity > 0) addOwn(run, line, day, quantity);
    missing -= quantity;
    if (missing === 0) return 0;
  }
  return missing;
}

/** All of `wanted` on `day`, own supply first and the rest assembled; false, with nothing taken, where that cannot be. */
export function takeOwnAndAssemble(run: PromiseRun, line: number, day: DayNumber, wanted: Scaled): boolean {
  const { book, entries, takings } = run;
  const assembled = assembledPart(wanted, ownBy(run, line, day), book.scale);
  if (assembled < 0) return false;
  const from = takings.count;
  if (assembled > 0 && !assemble(run, book.linePool[line]!, assembled, day)) return false;
  if (wanted > assembled) addOwn(run, line, day, wanted - assembled);
  if (assembled > 0) {
    const entry = entries.add(day, assembled);
    entries.assembled[entry] = 1;
    entries.takingsFrom[entry] = from;
    entries.takingsCount[entry] = takings.count - from;
  }
  return true;
}

/**
 * The days on which the answer for an assembled item can change: those on which its own supply grows, and those that a
 * batch reaches which starts when a component's supply grows, at every level.
 */
export function turningDays(run: PromiseRun, pool: number): Int32Array {
  const known = run.turningDays.get(pool);
  if (known) return known;
  const { book, timelines } = run;
  const { calendar, firstShipDay } = book.sites[book.poolSite[pool]!]!;
  const days = new Set<DayNumber>();
  const seen = new Set<string>();
  const stack = [{ pool, lead: 0 }];
  for (let next = stack.pop(); next; next = stack.pop()) {
    const key = `${next.pool} ${next.lead}`;
    if (seen.has(key)) continue;
    seen.add(key);
    days.add(calendar.offset(firstShipDay, next.lead));
    for (let segment = 1; segment < timelines.segments(next.pool); segment++) days.add(calendar.offset(timelines.dayOf(next.pool, segment), next.lead));
    const lead = next.lead + book.poolAssemblyDays[next.pool]!;
    for (let part = book.partFrom[next.pool]!; part < book.partFrom[next.pool + 1]!; part++) stack.push({ pool: book.partPool[part]!, lead });
  }
  const sorted = Int32Array.from(days).sort();
  run.turningDays.set(pool, sorted);
  return sorted;
}

export function firstAfter(days: Int32Array, day: DayNumber): number {
  let [low, high] = [0, days.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (days[middle]! <= day) low = middle + 1;
    else high = middle;
  }
  return low;
}
