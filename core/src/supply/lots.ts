import { type Quantity, compareDecimal, least, minus, plus } from '../money';

/** Goods on hand by the last day they may be used; null: they keep. */
export interface LotGoods {
  readonly expires: string | null;
  readonly quantity: Quantity;
}

export interface LotsTaken {
  readonly taken: readonly LotGoods[];
  readonly left: readonly LotGoods[];
}

/**
 * Takes a quantity of goods on hand in the sequence in which they leave: first expired, first out, then what keeps; what
 * does not last until `until` (today for goods that only must not have expired) comes last. Takes less where there is less.
 */
export function takeLots(lots: readonly LotGoods[], quantity: Quantity, until: string): LotsTaken {
  const spoilt = ({ expires }: LotGoods) => expires !== null && expires < until;
  const sequence = [...lots].sort((a, b) => Number(spoilt(a)) - Number(spoilt(b)) || compareEnds(a.expires, b.expires));
  const taken: LotGoods[] = [];
  const left: LotGoods[] = [];
  let missing = quantity;
  for (const lot of sequence) {
    const part = compareDecimal(missing, '0') > 0 ? least(missing, lot.quantity) : '0';
    missing = minus(missing, part);
    if (compareDecimal(part, '0') > 0) taken.push({ ...lot, quantity: part });
    const rest = minus(lot.quantity, part);
    if (compareDecimal(rest, '0') > 0) left.push({ ...lot, quantity: rest });
  }
  return { taken, left };
}

function compareEnds(a: string | null, b: string | null): number {
  if (a === b) return 0;
  if (a === null) return 1;
  return b === null || a < b ? -1 : 1;
}

/** Goods with one more lot among them; a quantity below 0 takes from it. */
export function withLot(lots: readonly LotGoods[], expires: string | null, quantity: Quantity): readonly LotGoods[] {
  const there = lots.find((lot) => lot.expires === expires)?.quantity ?? '0';
  const sum = plus(there, quantity);
  const others = lots.filter((lot) => lot.expires !== expires);
  return compareDecimal(sum, '0') > 0 ? [...others, { expires, quantity: sum }] : others;
}
