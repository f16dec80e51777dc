import { readDay, type IsoDay } from '../calendar';
import { readUnit } from '../units';

/** What a line typed as text was understood as, each piece with the words it came from. */
export interface QuickLine {
  /** Words to find the item by. */
  readonly item: string;
  /** Decimal text; null where none was typed. */
  readonly quantity: string | null;
  readonly unit: { readonly code: string; readonly words: string } | null;
  readonly day: { readonly day: IsoDay; readonly words: string } | null;
}

const QUANTITY = /^\d{1,9}(\.\d{1,4})?$/;

/**
 * Reads a line as it is typed: item, quantity, unit, day, as in `jar-340 20 tray fri`. Unit and day may be left out or
 * change places. The last number is the quantity; whatever stands before it is the item, numbers in it too.
 */
export function readQuickLine(text: string, today: IsoDay): QuickLine {
  const words = text.trim().split(/\s+/).filter(Boolean);
  const at = lastQuantity(words, today);
  if (at < 0) return { item: words.join(' '), quantity: null, unit: null, day: null };
  const tail = readTail(words.slice(at + 1), today)!;
  return { item: words.slice(0, at).join(' '), quantity: words[at]!, ...tail };
}

/** The last number that is followed only by a unit and a day, and comes after at least one word of the item. */
function lastQuantity(words: readonly string[], today: IsoDay): number {
  for (let at = words.length - 1; at > 0; at--) {
    if (QUANTITY.test(words[at]!) && Number(words[at]) > 0 && readTail(words.slice(at + 1), today) && !isDayOfMonth(words, at)) return at;
  }
  return -1;
}

/** `20 12 mar`: the 12 belongs to the day, not to the quantity. */
function isDayOfMonth(words: readonly string[], at: number) {
  return at >= 2 && QUANTITY.test(words[at - 1]!) && /^[a-z]{3,}$/i.test(words[at + 1] ?? '') && readUnit(words[at + 1]!) === null;
}

function readTail(words: readonly string[], today: IsoDay): Pick<QuickLine, 'unit' | 'day'> | null {
  if (words.length === 0) return { unit: null, day: null };
  const [first, ...rest] = words;
  const last = words[words.length - 1]!;
  const unitFirst = readUnit(first!);
  if (unitFirst) return rest.length === 0 ? { unit: { code: unitFirst, words: first! }, day: null } : withDay({ code: unitFirst, words: first! }, rest, today);
  const unitLast = words.length > 1 ? readUnit(last) : null;
  return unitLast ? withDay({ code: unitLast, words: last }, words.slice(0, -1), today) : withDay(null, words, today);
}

function withDay(unit: QuickLine['unit'], words: readonly string[], today: IsoDay): Pick<QuickLine, 'unit' | 'day'> | null {
  const text = words.join(' ');
  // A number alone is a quantity, not a day of the month: too much would be guessed.
  const day = /^\d+$/.test(text) ? null : readDay(text, today);
  return day === null ? null : { unit, day: { day, words: text } };
}
