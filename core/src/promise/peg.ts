import type { Commitment } from './assemble';
import { compareSupply, type CompiledBook, type Pool, type SupplyPiece } from './compiled-book';
import type { Entry, LinePromise } from './promise-line';
import type { Scaled } from './quantity';

/** A part of a commitment and the supply it takes; `supply` is null where none is left. */
export interface Peg {
  readonly supply: SupplyPiece | null;
  readonly quantity: Scaled;
}

/** The pegs of each entry's own commitments in order, and those of its bound part. */
export interface Pegs {
  readonly bound: ReadonlyMap<Entry, readonly Peg[]>;
  readonly pool: ReadonlyMap<Commitment, readonly Peg[]>;
}

/**
 * Says which supply serves which commitment. Each pool hands out its supplies first in, first out to its commitments by
 * day: whoever leaves first takes what is there; priority has already decided who got the day.
 */
export function peg(book: CompiledBook, promises: readonly LinePromise[]): Pegs {
  const commitments = new Map<Pool, Commitment[]>();
  const bound = new Map<Entry, readonly Peg[]>();
  for (const order of book.sequence) {
    for (const line of order.lines) {
      const { kept, fresh } = promises[line.index]!;
      const entries = [...kept, ...fresh];
      // Within a day: kept before new before components. Collected in that order, so a stable sort by day keeps it.
      for (const assembled of [false, true]) {
        for (const entry of entries) {
          if (entry.assembled !== assembled) continue;
          for (const commitment of entry.commitments) collect(commitments, commitment);
        }
      }
      pegBound(line.bound, entries, bound);
    }
  }
  const pool = new Map<Commitment, readonly Peg[]>();
  for (const [{ supplies }, taken] of commitments) {
    taken.sort((a, b) => a.day - b.day);
    const source = firstInFirstOut([...supplies].sort(compareSupply));
    for (const commitment of taken) pool.set(commitment, source(commitment.quantity));
  }
  return { bound, pool };
}

function collect(commitments: Map<Pool, Commitment[]>, commitment: Commitment) {
  const list = commitments.get(commitment.pool);
  if (list) list.push(commitment);
  else commitments.set(commitment.pool, [commitment]);
}

/** The line's bound supply goes to its entries: earliest promised day to earliest supply. */
function pegBound(pieces: readonly SupplyPiece[], entries: readonly Entry[], bound: Map<Entry, readonly Peg[]>) {
  const users = entries.filter((entry) => entry.fromBound > 0);
  if (users.length === 0) return;
  // `quantity` now is what was not taken; the pieces were taken earliest first, so hand them out again in full.
  const source = firstInFirstOut(pieces.map((piece) => ({ ...piece, quantity: piece.initial - piece.quantity })));
  for (const entry of users.sort((a, b) => a.day - b.day || Number(b.kept) - Number(a.kept))) bound.set(entry, source(entry.fromBound));
}

/** A tap on a list of supplies: each call gives the next `quantity` of them, and null as the supply of what is missing. */
function firstInFirstOut(supplies: readonly SupplyPiece[]): (quantity: Scaled) => Peg[] {
  let at = 0;
  let used = 0;
  return (quantity) => {
    const pegs: Peg[] = [];
    let missing = quantity;
    while (missing > 0 && at < supplies.length) {
      const supply = supplies[at]!;
      const given = Math.min(missing, supply.quantity - used);
      if (given > 0) pegs.push({ supply, quantity: given });
      missing -= given;
      used += given;
      if (used === supply.quantity) {
        at++;
        used = 0;
      }
    }
    if (missing > 0) pegs.push({ supply: null, quantity: missing });
    return pegs;
  };
}
