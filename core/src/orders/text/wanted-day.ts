import type { IsoDay } from '../../calendar';
import { ALONE, daySaid, SOON, WEEKDAY, type DaySaid } from './day-said';
import { isEmpty, textOf, tokensOf, type Token } from './words';

export interface Wish extends DaySaid {
  readonly kind: 'ship_by' | 'deliver_by';
}

const LEAD = /^(?:by|on|for|before|until|till|than|in|within)$/;
const DELIVER = /\b(?:deliver|delivered|delivery|arrive|arrives|arriving|here|there|with us|receive)\b/i;
const NEED = /\b(?:need|needs|needed|want|wanted)\b/i;
const SHIP = /\b(?:ship|shipped|send|sent|leave|leaves|dispatch|dispatched|despatch|despatched|go out|collect|collection|pick up)\b/i;
const LONGEST = 6;

/** The day a line is wanted for, where it ends or begins with one: `by fri`, `for thursday 12 march`, `tomorrow morning`. */
export function takeDay(all: readonly Token[], today: IsoDay): { readonly said: DaySaid | null; readonly left: readonly Token[] } {
  let end = all.length;
  const soon = /as soon as possible$/.test(all.map((token) => token.word).join(' '));
  while (!soon && end > 0 && isEmpty(all[end - 1]!.word) && !SOON.test(all[end - 1]!.word)) end--;
  const tokens = all.slice(0, end);
  for (let length = LONGEST; length > 0; length--) {
    const at = tokens.length - length;
    if (at < 1) continue;
    const introduced = LEAD.test(tokens[at - 1]!.word);
    const said = daySaid(tokens.slice(at), introduced, today);
    if (said === null) continue;
    const from = introduced ? at - 1 : at;
    return { said: { ...said, words: textOf(tokens.slice(from)) }, left: all.slice(0, from) };
  }
  return takeFirst(all, today);
}

/** A day that a line begins with: `friday 12 lids`, `for next thursday 2 trays of jars`. */
function takeFirst(all: readonly Token[], today: IsoDay): ReturnType<typeof takeDay> {
  let first = 0;
  while (first < all.length && isEmpty(all[first]!.word) && !SOON.test(all[first]!.word)) first++;
  const introduced = LEAD.test(all[first - 1]?.word ?? '');
  for (let length = LONGEST; length > 0; length--) {
    const words = all.slice(first, first + length);
    if (words.length < length || first + length >= all.length) continue;
    const begins = words[0]!.word;
    if (!(WEEKDAY.test(begins) || ALONE.test(begins) || SOON.test(begins) || begins === 'next')) continue;
    const said = daySaid(words, introduced, today);
    if (said !== null) return { said, left: all.slice(first + length) };
  }
  return { said: null, left: all };
}

/** When the whole order is wanted: a day in a sentence about shipping or delivering, or that it is wanted soon. */
export function readWish(sentence: string, today: IsoDay): Wish | null {
  const tokens = tokensOf(sentence);
  const delivers = DELIVER.test(sentence);
  const kind = !delivers && SHIP.test(sentence) ? 'ship_by' : 'deliver_by';
  for (let from = 0; from < tokens.length; from++) {
    const introduced = LEAD.test(tokens[from - 1]?.word ?? '');
    for (let length = LONGEST; length > 0; length--) {
      if (from + length > tokens.length) continue;
      const said = daySaid(tokens.slice(from, from + length), introduced, today);
      if (said === null) continue;
      if (!delivers && !NEED.test(sentence) && !SHIP.test(sentence) && !introduced && said.days.length > 0) return null;
      return { ...said, words: sentence, kind };
    }
  }
  return null;
}
