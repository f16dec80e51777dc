import type { ItemCode } from '../ids';
import { readDay, type IsoDay } from '../calendar';
import { readUnit } from '../units';
import { numberReadings } from './text';

/** What a line typed as text was understood as, each piece with the words it came from. */
export interface QuickLine {
  /** Words to find the item by. */
  readonly item: ItemCode;
  /** Decimal text; null where none was typed, or one that has two readings. */
  readonly quantity: string | null;
  /** Of a number that has more than one reading, what it may be. */
  readonly quantities: readonly string[];
  readonly unit: { readonly code: string; readonly words: string } | null;
  readonly day: { readonly day: IsoDay; readonly words: string } | null;
}

type Tail = Pick<QuickLine, 'unit' | 'day'>;

/**
 * Reads a line as it is typed: item, quantity, unit, day, as in `jar-340 20 tray fri`, or with the quantity first, as in
 * `3 dozen brush`. Unit and day may be left out or change places. The last number is the quantity; whatever stands before it
 * is the item, numbers in it too.
 */
export function readQuickLine(text: string, today: IsoDay): QuickLine {
  const words = text.trim().split(/\s+/).filter(Boolean);
  const at = lastQuantity(words, today);
  // `2 jar 454`: either may be how many.
  if (at === words.length - 1 && at > 1 && isQuantity(words[0]!))
    return { item: words.slice(1).join(' '), quantity: null, quantities: [words[0]!, words[at]!], unit: null, day: null };
  if (at >= 0) return { item: words.slice(0, at).join(' '), ...quantityOf(words[at]!), ...readTail(words.slice(at + 1), today)! };
  return readQuantityFirst(words, today) ?? { item: words.join(' '), quantity: null, quantities: [], unit: null, day: null };
}

/** The last number that is followed only by a unit and a day, and comes after at least one word of the item. */
function lastQuantity(words: readonly string[], today: IsoDay): number {
  for (let at = words.length - 1; at > 0; at--) {
    if (!isQuantity(words[at]!) || !readTail(words.slice(at + 1), today) || isDayOfMonth(words, at)) continue;
    // `3 dozen jar 454`: the number that leads with its unit is how many; what comes last is in the item's name.
    if (isQuantity(words[0]!) && readUnit(words[1] ?? '') !== null && at > 1 && at === words.length - 1) return -1;
    return at;
  }
  return -1;
}

/** `3 dozen brush`, `12 brush fri`: the quantity leads, its unit stands behind it, a day at the end. */
function readQuantityFirst(words: readonly string[], today: IsoDay): QuickLine | null {
  if (words.length < 2 || !isQuantity(words[0]!)) return null;
  const unit = readUnit(words[1]!);
  const from = unit === null ? 1 : 2;
  for (let end = from + 1; end <= words.length; end++) {
    const day = end === words.length ? null : readTail(words.slice(end), today);
    if (end < words.length && (day === null || day.unit !== null)) continue;
    const item = words
      .slice(from, end)
      .join(' ')
      .replace(/^(?:of|x)\s+/i, '');
    return { item, ...quantityOf(words[0]!), unit: unit === null ? null : { code: unit, words: words[1]! }, day: day?.day ?? null };
  }
  return null;
}

function isQuantity(word: string): boolean {
  return numberReadings(word).length > 0;
}

function quantityOf(word: string): Pick<QuickLine, 'quantity' | 'quantities'> {
  const readings = numberReadings(word);
  return { quantity: readings.length === 1 ? readings[0]! : null, quantities: readings };
}

/** `20 12 mar`: the 12 belongs to the day, not to the quantity. */
function isDayOfMonth(words: readonly string[], at: number) {
  return at >= 2 && isQuantity(words[at - 1]!) && /^[a-z]{3,}$/i.test(words[at + 1] ?? '') && readUnit(words[at + 1]!) === null;
}

function readTail(words: readonly string[], today: IsoDay): Tail | null {
  if (words.length === 0) return { unit: null, day: null };
  const [first, ...rest] = words;
  const last = words[words.length - 1]!;
  const unitFirst = readUnit(first!);
  if (unitFirst) return rest.length === 0 ? { unit: { code: unitFirst, words: first! }, day: null } : withDay({ code: unitFirst, words: first! }, rest, today);
  const unitLast = words.length > 1 ? readUnit(last) : null;
  return unitLast ? withDay({ code: unitLast, words: last }, words.slice(0, -1), today) : withDay(null, words, today);
}

function withDay(unit: QuickLine['unit'], words: readonly string[], today: IsoDay): Tail | null {
  const text = words.join(' ');
  // A number alone is a quantity, not a day of the month: too much would be guessed.
  const day = /^[\d.,]+$/.test(text) ? null : readDay(text, today);
  return day === null ? null : { unit, day: { day, words: text } };
}
