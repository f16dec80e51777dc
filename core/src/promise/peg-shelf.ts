import type { DayNumber } from '../calendar';
import type { PromiseRun } from './promise-run';
import type { Scaled } from './quantity';
import type { Shelf } from './shelf';

/** A commitment, or a part of one, on the day on which it is served. */
interface Served {
  readonly ref: number;
  readonly day: DayNumber;
  /** The last day its goods must last. */
  readonly until: DayNumber;
  /** The day it was committed on, and its place among those of that day. */
  readonly own: DayNumber;
  readonly place: number;
  readonly quantity: Scaled;
}

/**
 * Hands the goods of a pool that expire out to its commitments `from` to `to - 1`, which stand in the sequence in which those
 * of one day have their turn: by the day on which they are served, each from the supplies that suit it, what expires first
 * first. Taken so, the tightest fit by rising day, all that was promised together is served. What of a kept commitment is
 * served on no day finds no supply.
 */
export function pegShelf(run: PromiseRun, shelf: Shelf, from: number, to: number): void {
  const { book, commitments, pegs, supplies } = run;
  const parts: Served[] = [];
  const found = new Map<number, { supply: number; quantity: Scaled }[]>();
  for (let place = from; place < to; place++) {
    const ref = commitments.ref[place]!;
    found.set(ref, []);
    for (const part of partsOf(run, shelf, ref, place)) {
      if (part) parts.push(part);
    }
  }
  parts.sort((a, b) => a.day - b.day || a.own - b.own || a.place - b.place);

  const pool = commitments.pool[from]!;
  const shelfLife = book.supplyExpires!;
  const goods = [...supplies.sorted.subarray(supplies.from[pool]!, supplies.from[pool + 1]!)]
    .map((supply, place) => ({ supply, place, expires: shelfLife[supply]!, available: book.supplyAvailable[supply]!, left: supplies.free[supply]! }))
    .sort((a, b) => (a.expires === b.expires ? a.place - b.place : a.expires - b.expires));
  for (const { ref, day, until, quantity } of parts) {
    let missing = quantity;
    for (const row of goods) {
      if (missing === 0) break;
      if (row.left === 0 || row.available > day || row.expires < until) continue;
      const given = Math.min(row.left, missing);
      found.get(ref)!.push({ supply: row.supply, quantity: given });
      row.left -= given;
      missing -= given;
    }
  }
  for (const [ref, given] of found) {
    const first = pegs.count;
    let missing = wantedOf(run, ref);
    for (const { supply, quantity } of given) {
      pegs.add(supply, quantity);
      missing -= quantity;
    }
    if (missing > 0) pegs.add(-1, missing);
    (ref >= 0 ? run.pool : run.taken).set(ref >= 0 ? ref : ~ref, first, pegs.count - first);
  }
}

/** A commitment as it is served: on its day, and where it was kept and could not be, in part or whole on later ones. */
function partsOf(run: PromiseRun, shelf: Shelf, ref: number, place: number): readonly Served[] {
  const { entries, takings } = run;
  const kept = shelf.keptOf(ref);
  if (kept) {
    const part = (day: DayNumber, quantity: Scaled): Served => ({ ref, day, until: day + kept.life, own: kept.day, place, quantity });
    return [...(kept.served > 0 ? [part(kept.day, kept.served)] : []), ...kept.moved.map(({ day, quantity }) => part(day, quantity))];
  }
  const day = ref >= 0 ? entries.day[ref]! : takings.day[~ref]!;
  const life = ref >= 0 ? run.entryLife.get(ref)! : 0;
  return [{ ref, day, until: day + life, own: day, place, quantity: wantedOf(run, ref) }];
}

function wantedOf({ entries, takings }: PromiseRun, ref: number): Scaled {
  return ref >= 0 ? entries.fromPool(ref) : takings.quantity[~ref]!;
}

/** Each entry of a line is pegged to the bound supply that it took. */
export function pegBoundTakes(run: PromiseRun, line: number): void {
  const peg = (entry: number) => {
    const first = run.pegs.count;
    for (const { supply, quantity } of run.boundTakes.get(entry) ?? []) run.pegs.add(supply, quantity);
    run.bound.set(entry, first, run.pegs.count - first);
  };
  for (let entry = run.keptFrom(line); entry < run.keptTo(line); entry++) peg(entry);
  const fresh = run.freshFrom[line]!;
  for (let entry = fresh; entry < fresh + run.freshCount[line]!; entry++) peg(entry);
}
