/** What a bin holds, in whole ten-thousandths of the stocking unit, and where it lies on the walk. */
export interface BinGoods {
  readonly walk: number;
  readonly holds: number;
}

/** Sets that are looked at before the best found so far is taken. */
const MOST_STEPS = 20_000;

/**
 * The bins that `quantity` is taken from, and how much from each (0: none), in the sequence of `bins`. Aims, each before the next:
 * as many whole handling units as there can be, the fewest bins, the least sum of places on the walk. All quantities are whole
 * ten-thousandths; `unit` is 0 where goods are handled one by one. The bins hold at least `quantity` together. Exact but for
 * more than MOST_STEPS sets, where the best of those is taken.
 */
export function chooseBins(bins: readonly BinGoods[], quantity: number, unit: number): number[] {
  const sequence = bins.map((_, at) => at).filter((at) => bins[at]!.holds > 0);
  sequence.sort((a, b) => bins[a]!.walk - bins[b]!.walk || a - b);
  const sorted = sequence.map((at) => bins[at]!);
  const units = sorted.map(({ holds }) => (unit > 0 ? Math.floor(holds / unit) : 0));
  const whole =
    unit > 0
      ? Math.min(
          Math.floor(quantity / unit),
          units.reduce((sum, each) => sum + each, 0),
        )
      : 0;
  const chosen = smallestCover(sorted, units, quantity, whole);
  const taken = new Array<number>(bins.length).fill(0);
  let [unitsLeft, looseLeft] = [whole, quantity - whole * unit];
  for (const at of chosen) {
    const count = Math.min(units[at]!, unitsLeft);
    unitsLeft -= count;
    taken[sequence[at]!] = count * unit;
  }
  for (const at of chosen) {
    const loose = Math.min(sorted[at]!.holds - taken[sequence[at]!]!, looseLeft);
    looseLeft -= loose;
    taken[sequence[at]!]! += loose;
  }
  return taken;
}

/**
 * The fewest of `bins`, sorted by their walk, that hold `quantity` and `whole` units together; of sets as small the one whose
 * places on the walk have the least sum. A bin of such a set is always needed: without it the others would be a smaller set.
 */
function smallestCover(bins: readonly BinGoods[], units: readonly number[], quantity: number, whole: number): readonly number[] {
  const holds = bins.map((bin) => bin.holds);
  for (let size = Math.max(fewest(holds, quantity), fewest(units, whole), 1); size < bins.length; size++) {
    const found = coverOf(size, bins, units, quantity, whole);
    if (found) return found;
  }
  return bins.map((_, at) => at);
}

/** How many of the largest values reach `sum`: no set can have fewer. */
function fewest(values: readonly number[], sum: number): number {
  let left = sum;
  const sorted = [...values].sort((a, b) => b - a);
  const at = sorted.findIndex((value) => (left -= value) <= 0);
  return at < 0 ? values.length : sum <= 0 ? 0 : at + 1;
}

function coverOf(size: number, bins: readonly BinGoods[], units: readonly number[], quantity: number, whole: number): readonly number[] | null {
  const mostHeld = largestFrom(bins.map((bin) => bin.holds));
  const mostUnits = largestFrom(units);
  let best: readonly number[] | null = null;
  let least = Infinity;
  let steps = 0;
  const chosen: number[] = [];
  const look = (from: number, held: number, counted: number, walk: number): void => {
    const missing = size - chosen.length;
    if (missing === 0) {
      if (held >= quantity && counted >= whole && walk < least) [best, least] = [[...chosen], walk];
      return;
    }
    for (let at = from; at <= bins.length - missing; at++) {
      // Later bins lie further along the walk: none of them makes the sum smaller.
      if (walk + bins[at]!.walk * missing >= least || (steps++ > MOST_STEPS && best !== null)) return;
      if (held + mostHeld(at, missing) < quantity || counted + mostUnits(at, missing) < whole) return;
      chosen.push(at);
      look(at + 1, held + bins[at]!.holds, counted + units[at]!, walk + bins[at]!.walk);
      chosen.pop();
    }
  };
  look(0, 0, 0, 0);
  return best;
}

/** A function that gives the sum of the `count` largest of the values from a position on. */
function largestFrom(values: readonly number[]): (from: number, count: number) => number {
  const known: number[][] = [];
  return (from, count) => {
    const sums = (known[from] ??= values
      .slice(from)
      .sort((a, b) => b - a)
      .reduce<number[]>((all, value) => [...all, all.at(-1)! + value], [0]));
    return sums[Math.min(count, sums.length - 1)]!;
  };
}
