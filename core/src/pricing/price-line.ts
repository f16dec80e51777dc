import { compareDecimal, divide, times, type Decimal } from '../money';
import type { UnitRatio } from '../units';

/** A price of an item in a unit, from a quantity on. */
export interface PriceBreak {
  readonly unit: string;
  readonly from: Decimal;
  readonly price: Decimal;
}

export interface PriceQuestion {
  readonly unit: string;
  /** In the unit ordered. */
  readonly quantity: Decimal;
  readonly ratio: UnitRatio;
  /** The list price of one stocking unit. */
  readonly listPrice: Decimal;
  readonly listBreaks: readonly PriceBreak[];
  /** The customer's own price list, where they have one. */
  readonly customerList: { readonly name: string; readonly breaks: readonly PriceBreak[] } | null;
}

/** One source that was asked for a price, in the order asked. */
export interface PriceStep {
  readonly source: string;
  readonly price: Decimal | null;
  readonly why: string;
  readonly chosen: boolean;
}

export interface LinePrice {
  /** For one of the unit ordered, up to four decimals. */
  readonly price: Decimal;
  readonly source: string;
  readonly trail: readonly PriceStep[];
}

const PRICE_DECIMALS = 4;

/**
 * The price of one of the unit ordered: the customer's price list with its quantity breaks, then the list with its
 * breaks, then the list price of the stocking unit times the unit's ratio. The first that answers wins; the trail says
 * of every source what it gave and why it won or lost.
 */
export function priceLine(question: PriceQuestion): LinePrice {
  const { unit, quantity, ratio, listPrice, listBreaks, customerList } = question;
  const sources: { source: string; found: PriceBreak | null; none: string }[] = [];
  if (customerList) sources.push({ source: customerList.name, found: bestBreak(customerList.breaks, unit, quantity), none: 'no price for this item and unit' });
  sources.push({ source: 'list', found: bestBreak(listBreaks, unit, quantity), none: 'no quantity break for this unit' });

  const steps: PriceStep[] = [];
  let chosen: { price: Decimal; source: string } | null = null;
  for (const { source, found, none } of sources) {
    const wins = found !== null && chosen === null;
    const label = found && compareDecimal(found.from, '1') > 0 ? `${source}, from ${found.from}` : source;
    if (wins) chosen = { price: found.price, source: label };
    steps.push({
      source: label,
      price: found?.price ?? null,
      why: found ? (wins ? 'first source with a price' : `${chosen!.source} comes first`) : none,
      chosen: wins,
    });
  }
  const base = divide(times(listPrice, ratio.numerator), ratio.denominator, PRICE_DECIMALS);
  const wins = chosen === null;
  const why = wins ? 'no source before it has a price' : `${chosen!.source} comes first`;
  const source = ratio.numerator === ratio.denominator ? 'list price' : `list price of the stocking unit × ${ratioInWords(ratio)}`;
  steps.push({ source, price: base, why, chosen: wins });
  return { ...(chosen ?? { price: base, source: 'list price' }), trail: steps };
}

/** The break with the highest `from` that the quantity reaches. */
function bestBreak(breaks: readonly PriceBreak[], unit: string, quantity: Decimal): PriceBreak | null {
  let best: PriceBreak | null = null;
  for (const step of breaks) {
    if (step.unit !== unit || compareDecimal(step.from, quantity) > 0) continue;
    if (!best || compareDecimal(step.from, best.from) > 0) best = step;
  }
  return best;
}

function ratioInWords({ numerator, denominator }: UnitRatio) {
  return denominator === 1 ? String(numerator) : `${numerator}/${denominator}`;
}
