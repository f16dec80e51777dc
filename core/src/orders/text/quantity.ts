import { readUnit } from '../../units';
import { readNumberWords } from './number-words';
import { numberReadings } from './number-readings';
import { isEmpty, singular, type Token } from './words';

/** Something that was understood, with the words it was understood from. */
export interface Understood<T> {
  readonly value: T;
  readonly words: string;
}

/** One, before what is counted in: `a dozen`. */
const ONE = new Set(['a', 'an', 'another']);
/** Behind a number it says that things are counted: `6 no. feeders`, `12 off`. */
const COUNTED = new Set(['no', 'nos', 'nr', 'off']);
/** What a number is followed by where it says how large a thing is, not how many there are. */
const MEASURE = /^(?:g|gr|gram|grams|mm|cm|ml|l|lb|lbs|oz|inch|frame|frames)$/;
export interface QuantityRead {
  /** The likelier reading, where there are several. */
  readonly quantity: Understood<string> | null;
  /** All that the number may mean. */
  readonly readings: readonly string[];
  /** The word behind the number, where it is no unit that is known: it may be one. */
  readonly behind: string | null;
  readonly unit: Understood<string> | null;
  /** What is left to name the item. */
  readonly left: readonly Token[];
}

/**
 * How many and of which unit. A number with its unit behind it comes first, then one marked as a count, then the first
 * of the line, then the last. Sizes (`340 g`) and prices (`@ 0.52`) are none.
 */
export function takeQuantity(tokens: readonly Token[]): QuantityRead {
  const numbers = tokens.flatMap((_, at) => {
    const readings = numbersAt(tokens, at);
    return readings.length === 0 ? [] : [{ at, readings }];
  });
  const marked = ({ at }: { at: number }) => tokens[at + 1]?.word === 'x' || ['x', 'qty', 'quantity'].includes(tokens[at - 1]?.word ?? '');
  const leads = ({ at }: { at: number }) => tokens.slice(0, at).every((token) => isEmpty(token.word));
  const digits = numbers.filter(({ at }) => /^\d/.test(tokens[at]!.word));
  const chosen = numbers.find(({ at }) => unitBehind(tokens, at) !== null) ?? numbers.find(marked) ?? numbers.find(leads) ?? digits[digits.length - 1];
  if (!chosen) return { quantity: null, readings: [], behind: null, unit: null, left: tokens };
  const unit = unitBehind(tokens, chosen.at) ?? unitApart(tokens, chosen.at);
  return {
    quantity: { value: chosen.readings[0]!, words: tokens[chosen.at]!.text },
    readings: chosen.readings,
    behind: unit === null ? wordBehind(tokens, chosen.at) : null,
    unit: unit && { value: unit.code, words: tokens[unit.at]!.text },
    left: tokens.filter(({ word }, at) => at !== chosen.at && at !== unit?.at && !(at === chosen.at + 1 && COUNTED.has(word))),
  };
}

interface UnitAt {
  readonly code: string;
  readonly at: number;
}

function unitBehind(tokens: readonly Token[], number: number): UnitAt | null {
  const at = tokens[number + 1]?.word === 'x' ? number + 2 : number + 1;
  return unitAt(tokens, number, at);
}

/** A unit that stands apart from its number, as in a table: `JAR-340 tray 20`, `10 fondant boxes`. */
function unitApart(tokens: readonly Token[], number: number): UnitAt | null {
  return [tokens.length - 1, number - 1].map((at) => (at > 0 && at !== number ? unitAt(tokens, at - 1, at) : null)).find((unit) => unit !== null) ?? null;
}

function unitAt(tokens: readonly Token[], number: number, at: number): UnitAt | null {
  const word = tokens[at]?.word;
  const code = word === undefined ? null : (readUnit(word) ?? readUnit(singular(word)));
  return code !== null && !isMeasure(tokens, number, at) ? { code, at } : null;
}

/** The word behind a number that is counted by it: not a price, a size, or what says that things are counted. */
function wordBehind(tokens: readonly Token[], number: number): string | null {
  const word = tokens[tokens[number + 1]?.word === 'x' ? number + 2 : number + 1]?.word;
  return word === undefined || COUNTED.has(word) || isEmpty(word) || /\d/.test(word) ? null : word;
}

function numbersAt(tokens: readonly Token[], at: number): readonly string[] {
  const { word, text } = tokens[at]!;
  const next = tokens[at + 1]?.word ?? '';
  if (ONE.has(word)) return readUnit(singular(next)) === null ? [] : ['1'];
  const worded = readNumberWords(word);
  if (worded !== null) return [String(worded)];
  if (MEASURE.test(next)) return [];
  if (tokens[at - 1]?.text.endsWith('@') || /^[@€£$]/.test(text)) return [];
  return numberReadings(word);
}

/** Whether a unit says how large a thing is: always for some, and for weights and volumes where another number counts. */
function isMeasure(tokens: readonly Token[], number: number, unit: number): boolean {
  const { word } = tokens[unit]!;
  if (MEASURE.test(word)) return true;
  if (!/^(?:kg|litres?)$/.test(word)) return false;
  return tokens.some((token, at) => at !== number && numberReadings(token.word).length > 0 && !MEASURE.test(tokens[at + 1]?.word ?? ''));
}
