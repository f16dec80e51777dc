import type { ItemCode } from '../ids';
import { type Quantity, type UnitPrice, compareDecimal, priceInWords, type Decimal } from '../money';
import { shortDay } from '../calendar';
import { unitName } from '../units';

/** How many single changes are named; the rest is counted. The event keeps them all. */
const MOST_NAMED = 5;

/** A price of a list, as a change of it is told. */
export interface PriceOf {
  readonly item: ItemCode;
  readonly unit: string;
  readonly from: Decimal;
  readonly price: UnitPrice;
}

/** One price before and after; null where there was none, or is none any more. */
export interface PriceChange<T> {
  readonly before: T | null;
  readonly after: T | null;
}

/** What differs between two lists of prices, those of the second first. */
export function priceChanges(before: readonly PriceOf[], after: readonly PriceOf[]): PriceChange<PriceOf>[] {
  const keyOf = ({ item, unit, from }: PriceOf) => `${item}\u0000${unit}\u0000${Number(from)}`;
  const known = new Map(before.map((row) => [keyOf(row), row]));
  const changes: PriceChange<PriceOf>[] = [];
  for (const row of after) {
    const was = known.get(keyOf(row)) ?? null;
    known.delete(keyOf(row));
    if (!was || compareDecimal(was.price, row.price) !== 0) changes.push({ before: was, after: row });
  }
  return [...changes, ...[...known.values()].map((row) => ({ before: row, after: null }))];
}

/** `JAR each 0.48, was 0.50; LID tray from 10 at 4.20, new; BOX each 0.40, taken off; and 12 more`. */
export function priceChangesInWords(changes: readonly PriceChange<PriceOf>[]): string {
  return named(
    changes.map(({ before, after }) => {
      const { item, unit, from } = (after ?? before)!;
      const what = `${item} ${unitName(unit)}${compareDecimal(from, '1') > 0 ? ` from ${from}` : ''}`;
      if (!after) return `${what} ${priceInWords(before!.price)}, taken off`;
      return `${what} ${priceInWords(after.price)}, ${before ? `was ${priceInWords(before.price)}` : 'new'}`;
    }),
  );
}

/** The terms of a contract line, as a change of it is told. */
export interface TermsOf {
  readonly item: ItemCode | null;
  readonly group: string | null;
  readonly unit: string | null;
  readonly kind: 'fixed' | 'off_list' | 'cost_plus';
  readonly price: UnitPrice | null;
  readonly percent: Decimal | null;
  readonly minimum: Quantity | null;
  readonly most: Quantity | null;
}

/** `JAR 0.45 each, was 0.44 each; Jars 5 % off list, at most 500, new`. */
export function termChangesInWords(changes: readonly PriceChange<TermsOf>[]): string {
  return named(
    changes.map(({ before, after }) => {
      const { item, group } = (after ?? before)!;
      const what = item ?? group!;
      if (!after) return `${what} ${termsInWords(before!)}, taken off`;
      return `${what} ${termsInWords(after)}, ${before ? `was ${termsInWords(before)}` : 'new'}`;
    }),
  );
}

function termsInWords({ kind, price, percent, unit, minimum, most }: TermsOf): string {
  const terms =
    kind === 'fixed'
      ? `${priceInWords(price!)} ${unit === 'EA' ? 'each' : `a ${unitName(unit!)}`}`
      : `${percent} % ${kind === 'off_list' ? 'off list' : 'on cost'}`;
  return [terms, ...(minimum === null ? [] : [`at least ${minimum}`]), ...(most === null ? [] : [`at most ${most}`])].join(', ');
}

/** Name, days and note of a contract, and who buys under it. */
export interface ContractHead {
  readonly name: string;
  readonly firstDay: string;
  readonly lastDay: string;
  readonly note: string;
  readonly buyers: readonly string[];
}

/** `until Fri 31 Dec, was Tue 30 Nov; for Wether Hill and Garrick & Lowe, was Wether Hill`. */
export function headChangesInWords(before: ContractHead, after: ContractHead, today: string): string {
  const days = ({ firstDay, lastDay }: ContractHead) => `${shortDay(firstDay, today)} to ${shortDay(lastDay, today)}`;
  const buyers = (head: ContractHead) => (head.buyers.length === 0 ? 'nobody' : head.buyers.join(' and '));
  const changed = (what: string, to: string, from: string) => (to === from ? [] : [`${what}${to || 'none'}, was ${from || 'none'}`]);
  return [
    ...changed('', after.name, before.name),
    ...changed('', days(after), days(before)),
    ...changed('for ', buyers(after), buyers(before)),
    ...changed('note: ', after.note, before.note),
  ].join('; ');
}

function named(words: readonly string[]): string {
  const more = words.length - MOST_NAMED;
  return [...words.slice(0, MOST_NAMED), ...(more > 0 ? [`and ${more} more`] : [])].join('; ');
}
