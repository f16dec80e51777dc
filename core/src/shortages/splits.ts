import { type Amount, type Quantity, compareDecimal, minus, times, type Decimal } from '../money';
import type { Way, Given } from './way';

/** Ways that share a quantity, each with its part. */
export type Split = readonly Given[];

const MOST_CANDIDATES = 10;

/**
 * Every split of `quantity` over two or three ways that is worth a look. What a way gives is linear between its steps
 * (days, price breaks, lots, the end of what there is), so an optimum lies where all ways but one stand at a step, or at
 * a whole lot next to one: those are tried, all of them, and handed to `take`.
 */
export function eachSplit(ways: readonly Way[], quantity: Quantity, take: (split: Split) => void): void {
  const candidates = ways.map((way) => candidatesOf(way, ways, quantity));
  for (let a = 0; a < ways.length; a++) {
    for (const first of candidates[a]!) {
      const rest = minus(quantity, first);
      const one = ways[a]!.give(first);
      if (!one.possible) continue;
      for (let b = 0; b < ways.length; b++) {
        if (b === a) continue;
        // Of two, the way with the lower place is at a step or the other is: both orders are gone through.
        const two = ways[b]!.give(rest);
        if (two.possible && fits(ways[b]!, rest)) take([one, two]);
        if (b < a) continue;
        for (const second of candidates[b]!) {
          const last = minus(rest, second);
          if (compareDecimal(last, '0') <= 0) continue;
          const middle = ways[b]!.give(second);
          if (!middle.possible) continue;
          for (let c = 0; c < ways.length; c++) {
            if (c === a || c === b || !fits(ways[c]!, last)) continue;
            const three = ways[c]!.give(last);
            if (three.possible) take([one, middle, three]);
          }
        }
      }
    }
  }
}

/** Beyond so many units a split is left at the steps it was found at. */
const MOST_SHIFTED = 300;

/**
 * A split made better by shifting whole units between two of its ways at a time, as long as that gains anything: lots of two
 * suppliers that do not fit each other leave the best place between their steps. Quantities that are not whole stay.
 */
export function shiftUnits(ways: readonly Way[], found: Split, worth: (split: Split) => number): Split {
  const places = found.map((given) => ways.findIndex((way) => way.give(given.part.quantity) === given));
  let best = { split: found, score: worth(found) };
  for (let gained = true; gained;) {
    gained = false;
    for (let a = 0; a < found.length; a++)
      for (let b = a + 1; b < found.length; b++) {
        const both = Number(best.split[a]!.part.quantity) + Number(best.split[b]!.part.quantity);
        if (!Number.isInteger(both) || both > MOST_SHIFTED) continue;
        for (let units = 1; units < both; units++) {
          const [one, two] = [ways[places[a]!]!.give(String(units)), ways[places[b]!]!.give(String(both - units))];
          if (!one.possible || !two.possible) continue;
          const split = best.split.map((given, at) => (at === a ? one : at === b ? two : given));
          const score = worth(split);
          if (score <= best.score + 1e-9) continue;
          best = { split, score };
          gained = true;
        }
      }
  }
  return best.split;
}

function fits(way: Way, quantity: Quantity): boolean {
  return way.most === null || compareDecimal(quantity, way.most) <= 0;
}

/** The parts of the quantity at which this way is tried: its own steps, what the others' steps leave, and the lots around. */
function candidatesOf(way: Way, ways: readonly Way[], quantity: Quantity): Decimal[] {
  const found = new Map<number, Decimal>();
  const add = (value: Amount) => {
    for (const candidate of way.lot === null ? [value] : lotsAround(value, way.lot)) {
      const inside = compareDecimal(candidate, '0') > 0 && compareDecimal(candidate, quantity) < 0;
      if (inside && fits(way, candidate) && found.size < MOST_CANDIDATES) found.set(Number(candidate), candidate);
    }
  };
  for (const step of way.steps) add(step);
  for (const other of ways) if (other !== way) for (const step of other.steps) add(minus(quantity, step));
  // What is left beside a whole lot, or a whole unit, of another.
  if (way.lot !== null) add(minus(quantity, way.lot));
  return [...found.values()];
}

function lotsAround(value: Amount, lot: Decimal): Decimal[] {
  const lots = Number(value) / Number(lot);
  return [...new Set([Math.floor(lots + 1e-9), Math.ceil(lots - 1e-9)])].map((count) => times(lot, count));
}
