import { type Quantity, type UnitPrice, compareDecimal, divide, minus, times, type Decimal } from '../money';
import type { UnitRatio } from '../units';
import { bestBreak, cheaperByUnit } from './cheaper';
import { coveredBy, leftOf, offerLabel, offerPrice, whyNot, type ContractOffer, type ContractQuestion, type OfferQuestion } from './contract-offer';
import type { PriceBreak, PriceQuestion, PriceStep } from './price-question';

export interface LinePrice {
  /** For one of the unit ordered, up to four decimals; of a fixed price of another unit as many as it needs. */
  readonly price: UnitPrice;
  readonly source: string;
  /** The contract line it comes from. */
  readonly contractLine: number | null;
  readonly trail: readonly PriceStep[];
}

/** A part of a line at one price. Quantities in the unit ordered and in stocking units. */
export interface PricedPart {
  readonly quantity: Quantity;
  readonly stockQuantity: Quantity;
  readonly price: LinePrice;
}

const PRICE_DECIMALS = 4;
const BY_HAND = 'set by hand';
export const NO_CONTRACTS: ContractQuestion = { offers: [], rules: { choice: 'lowest_price', several: true, mustName: false }, named: null, inUse: [] };

/**
 * A line cut where the contract that prices it has no more left: each part at its price, the rest from the next source.
 * One part where nothing is cut.
 */
export function priceParts(question: PriceQuestion): readonly PricedPart[] {
  const parts: PricedPart[] = [];
  let { quantity, contracts, pin } = question;
  for (;;) {
    const stockQuantity = inStockingUnits(quantity, question.ratio);
    const price = priceLine({ ...question, quantity, contracts, pin });
    const offer = contracts.offers.find((row) => row.id === price.contractLine);
    const covered = offer ? coveredBy(offer, { stockQuantity, ratio: question.ratio }) : stockQuantity;
    if (compareDecimal(covered, stockQuantity) >= 0) return [...parts, { quantity, stockQuantity, price }];
    const units = divide(times(covered, question.ratio.denominator), question.ratio.numerator, PRICE_DECIMALS);
    parts.push({ quantity: units, stockQuantity: covered, price });
    quantity = minus(quantity, units);
    contracts = {
      ...contracts,
      offers: contracts.offers.map((row) => (row === offer ? { ...row, used: row.most! } : row)),
      inUse: [...contracts.inUse, offer!.contract.id],
    };
    pin = null;
  }
}

/**
 * The price of one of the unit ordered: what was settled by hand, then contract lines, then the customer's price list
 * with its quantity breaks, then the list with its breaks, then the list price of the stocking unit times the unit's
 * ratio. The first that answers wins; the trail says of every source what it gave and why it won or lost.
 */
export function priceLine(question: PriceQuestion): LinePrice {
  const { unit, quantity, ratio, listPrice, listBreaks, customerList, pin } = question;
  const fromList = bestBreak(listBreaks, unit, quantity);
  const base = divide(times(listPrice, ratio.numerator), ratio.denominator, PRICE_DECIMALS);
  const asked: OfferQuestion = {
    day: question.day,
    stockQuantity: inStockingUnits(quantity, ratio),
    ratio,
    list: fromList?.price ?? base,
    cost: question.cost,
  };
  const offers = judged(question, asked);
  const sources: Source[] = [
    ...(pin?.kind === 'manual' ? [{ source: BY_HAND, price: pin.price, why: pin.reason }] : []),
    ...offers.map(({ offer, price, why }) => ({
      source: offerLabel(offer),
      price: why.held ? price : null,
      why: why.words,
      offer,
      asks: price,
      holds: why.holds,
    })),
    ...(customerList ? [breakSource(customerList.name, bestBreak(customerList.breaks, unit, quantity), 'no price for this item and unit')] : []),
    breakSource('list', fromList, 'no quantity break for this unit'),
    { source: ratio.numerator === ratio.denominator ? 'list price' : `list price of the stocking unit × ${ratioInWords(ratio)}`, price: base, why: '' },
  ];
  const winner = sources.find((row) => row.price !== null)!;
  const name = winner.source.startsWith('list price') ? 'list price' : winner.source;
  const byUnit = pin?.kind === 'manual' ? null : cheaperByUnit(question, asked.stockQuantity, winner.price!);
  return {
    price: winner.price!,
    source: name,
    contractLine: winner.offer?.id ?? null,
    trail: [...sources.map((row) => stepOf(row, row === winner, winner, sources[0] === winner)), ...(byUnit ? [byUnit] : [])],
  };
}

interface Source {
  readonly source: string;
  readonly price: UnitPrice | null;
  readonly why: string;
  readonly offer?: ContractOffer;
  /** What a contract line would ask, whether it is in the running or not. */
  readonly asks?: Decimal;
  readonly holds?: boolean;
}

function stepOf({ source, price, why, offer, asks, holds }: Source, chosen: boolean, winner: Source, first: boolean): PriceStep {
  // A list that asks less than a contract, or the stocking unit's price than a break: by the rule it loses, and nobody would think so.
  const lower = !chosen && !offer && winner.source !== BY_HAND && price !== null && compareDecimal(price, winner.price!) < 0;
  const reason = lower
    ? `lower than ${winner.source}: ask which of them holds`
    : chosen
      ? first
        ? 'first source with a price'
        : 'no source before it has a price'
      : `${winner.source} comes first`;
  return {
    source,
    price: asks ?? price,
    why: why || reason,
    chosen,
    ...(lower ? { lower } : {}),
    ...(offer ? { contract: { line: offer.id, name: offer.contract.name, holds: holds!, left: leftOf(offer), lastDay: offer.lastDay } } : {}),
  };
}

interface Judged {
  readonly offer: ContractOffer;
  readonly price: UnitPrice;
  /** `holds`: it could be chosen; `held`: it is. */
  readonly why: { readonly holds: boolean; readonly held: boolean; readonly words: string };
}

/** The contract lines, those that hold first and of them the one chosen first. */
function judged({ contracts, pin }: PriceQuestion, asked: OfferQuestion): Judged[] {
  const { rules, named } = contracts;
  const rows = contracts.offers.map((offer) => ({ offer, price: offerPrice(offer.terms, asked), why: whyNot(offer, asked, contracts) }));
  const pinned = pin?.kind === 'contract' ? pin.line : null;
  const rank = ({ offer, why }: (typeof rows)[number]) => (why !== null ? 3 : offer.id === pinned ? 0 : offer.contract.id === named ? 1 : 2);
  rows.sort(
    (a, b) =>
      rank(a) - rank(b) ||
      (rules.choice === 'ends_first' ? a.offer.lastDay.localeCompare(b.offer.lastDay) : 0) ||
      compareDecimal(a.price, b.price) ||
      Number(a.offer.group !== null) - Number(b.offer.group !== null) ||
      a.offer.lastDay.localeCompare(b.offer.lastDay) ||
      a.offer.id - b.offer.id,
  );
  const several = rows.filter((row) => row.why === null).length > 1;
  return rows.map(({ offer, price, why }, at) => {
    if (why !== null) return { offer, price, why: { holds: false, held: false, words: why } };
    if (pin && pin.kind !== 'contract')
      return { offer, price, why: { holds: true, held: false, words: pin.kind === 'list' ? 'set aside by hand' : 'the price is set by hand' } };
    const held = at === 0;
    return {
      offer,
      price,
      why: { holds: true, held, words: held ? chosenBecause(offer, pinned, named, rules.choice, several) : 'holds too; another is chosen' },
    };
  });
}

function chosenBecause(offer: ContractOffer, pinned: number | null, named: number | null, choice: 'lowest_price' | 'ends_first', several: boolean): string {
  if (offer.id === pinned) return 'chosen by hand';
  if (offer.contract.id === named) return 'the contract this order names';
  if (!several) return offer.group === null ? 'contract line for this item' : `contract line for ${offer.group}`;
  return choice === 'lowest_price'
    ? 'the lowest of those that hold: choose another, if they ask for it'
    : 'ends first of those that hold: choose another, if they ask for it';
}

function breakSource(name: string, found: PriceBreak | null, none: string): Source {
  if (!found) return { source: name, price: null, why: none };
  return { source: compareDecimal(found.from, '1') > 0 ? `${name}, from ${found.from}` : name, price: found.price, why: '' };
}

function inStockingUnits(quantity: Quantity, ratio: UnitRatio): Decimal {
  return divide(times(quantity, ratio.numerator), ratio.denominator, PRICE_DECIMALS);
}

function ratioInWords({ numerator, denominator }: UnitRatio) {
  return denominator === 1 ? String(numerator) : `${numerator}/${denominator}`;
}
