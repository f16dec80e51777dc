import { readDay, type IsoDay } from '../../calendar';
import type { Understood } from './quantity';
import { isEmpty, textOf, tokensOf, type Token } from './words';

export interface Wish extends Understood<IsoDay> {
  readonly kind: 'ship_by' | 'deliver_by';
}

const WEEKDAY = /^(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*$/;
const ALONE = /^(?:\+\d+|today|tomorrow|tom)$/;
const LEAD = /^(?:by|on|for|before|until|till|than)$/;
/** A date that can be nothing else: `12/03`, but not `1/2`. */
const DATE = /^(?:\d{1,2}\/(?:0[1-9]|1[0-2])(?:\/\d{4})?|\d{4}-\d{2}-\d{2})$/;
const DELIVER = /\b(?:deliver|delivered|delivery|arrive|arrives|arriving|here|there|with us|receive)\b/i;
const NEED = /\b(?:need|needs|needed|want|wanted)\b/i;
const SHIP = /\b(?:ship|shipped|send|sent|leave|leaves|dispatch|dispatched|despatch|despatched|go out|collect|collection|pick up)\b/i;
const LONGEST = 4;

/** The day a line is wanted for, where it ends with one: `by fri`, `for thursday 12 march`, `tomorrow`. */
export function takeDay(all: readonly Token[], today: IsoDay): { readonly found: Understood<IsoDay> | null; readonly left: readonly Token[] } {
  let end = all.length;
  while (end > 0 && isEmpty(all[end - 1]!.word)) end--;
  const tokens = all.slice(0, end);
  for (let length = LONGEST; length > 0; length--) {
    const at = tokens.length - length;
    if (at < 1) continue;
    const introduced = LEAD.test(tokens[at - 1]!.word);
    const value = dayOf(tokens.slice(at), introduced, today);
    if (value === null) continue;
    const from = introduced ? at - 1 : at;
    return { found: { value, words: textOf(tokens.slice(from)) }, left: all.slice(0, from) };
  }
  return takeFirst(all, today);
}

/** A day that a line begins with: `friday 12 lids`, `for next thursday 2 trays of jars`. */
function takeFirst(all: readonly Token[], today: IsoDay): ReturnType<typeof takeDay> {
  let first = 0;
  while (first < all.length && isEmpty(all[first]!.word)) first++;
  const introduced = LEAD.test(all[first - 1]?.word ?? '');
  for (let length = LONGEST; length > 0; length--) {
    const said = all.slice(first, first + length);
    if (said.length < length || first + length >= all.length || !(WEEKDAY.test(said[0]!.word) || ALONE.test(said[0]!.word) || said[0]!.word === 'next'))
      continue;
    const value = dayOf(said, introduced, today);
    if (value !== null) return { found: { value, words: textOf(said) }, left: all.slice(first + length) };
  }
  return { found: null, left: all };
}

/** When the whole order is wanted: a day in a sentence about shipping or delivering. */
export function readWish(sentence: string, today: IsoDay): Wish | null {
  const tokens = tokensOf(sentence);
  const delivers = DELIVER.test(sentence);
  for (let from = 0; from < tokens.length; from++) {
    const introduced = LEAD.test(tokens[from - 1]?.word ?? '');
    for (let length = LONGEST; length > 0; length--) {
      if (from + length > tokens.length) continue;
      const value = dayOf(tokens.slice(from, from + length), introduced, today);
      if (value === null) continue;
      if (!delivers && !NEED.test(sentence) && !SHIP.test(sentence) && !introduced) return null;
      return { value, words: sentence, kind: !delivers && SHIP.test(sentence) ? 'ship_by' : 'deliver_by' };
    }
  }
  return null;
}

/** A weekday before a date is read with it, and belongs to `next week` behind it. A number alone is no day, and a single word only where it can be nothing else. */
function dayOf(said: readonly Token[], introduced: boolean, today: IsoDay): IsoDay | null {
  const words = said.map((token) => token.word);
  const meant = words.filter((word) => word !== 'of' && word !== 'the');
  const date = meant.length > 1 && WEEKDAY.test(meant[0]!) ? meant.slice(1) : meant;
  if (/^\d+$/.test(date.join(' '))) return null;
  if (words.length === 1 && !introduced && !ALONE.test(words[0]!) && !WEEKDAY.test(words[0]!) && !DATE.test(words[0]!)) return null;
  return readDay(meant.join(' '), today) ?? readDay(date.join(' '), today);
}
