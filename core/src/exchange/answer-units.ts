import { divide, times } from '../money';

/** Codes of one single thing, UN/ECE Recommendation 20: each, piece, one. (From memory.) */
const ONE: readonly string[] = ['EA', 'H87', 'C62'];

/** What a supplier's unit holds, in stocking units of the item. */
export type TheirUnits = ReadonlyMap<string, string>;

/** Of one line of an answer: a quantity in a unit, a price for so many of a unit. Null: they say nothing of it. */
export interface AnsweredFigures {
  readonly quantity: string | null;
  readonly unit: string | null;
  readonly price: string | null;
  readonly priceFor: string | null;
  readonly priceUnit: string | null;
}

/**
 * The quantity in stocking units, and the price of one of them to four decimals. No unit said: the one we ordered in, which
 * is the stocking unit. A fault where a unit is not one that we know this supplier's ratio of: a box of theirs is no box of ours.
 */
export function answerInStockingUnits(
  said: AnsweredFigures,
  stockUnit: string,
  theirs: TheirUnits,
): { readonly ok: true; readonly quantity: string | null; readonly price: string | null } | { readonly ok: false; readonly fault: string } {
  const ratioOf = (unit: string | null) => {
    if (unit === null || unit === stockUnit || (ONE.includes(unit) && ONE.includes(stockUnit))) return '1';
    return theirs.get(unit) ?? null;
  };
  const quantityRatio = ratioOf(said.unit);
  if (said.quantity !== null && quantityRatio === null) return { ok: false, fault: unknown('quantity', said.unit!, stockUnit) };
  // A price without a unit is of the unit that the quantity is in.
  const priceUnit = said.priceUnit ?? said.unit;
  const priceRatio = ratioOf(priceUnit);
  if (said.price !== null && priceRatio === null) return { ok: false, fault: unknown('price', priceUnit!, stockUnit) };
  if (said.price !== null && Number(said.priceFor ?? '1') === 0) return { ok: false, fault: 'the price is for 0 of them' };
  return {
    ok: true,
    quantity: said.quantity === null ? null : times(said.quantity, quantityRatio!),
    price: said.price === null ? null : divide(said.price, times(said.priceFor ?? '1', priceRatio!), 4),
  };
}

function unknown(what: string, unit: string, stockUnit: string): string {
  return `the ${what} is in ${unit}, and we do not know how many ${stockUnit} that is of theirs`;
}
