import { dayNumber, isoDay, isoWeekday, parseDay, type DayNumber, type IsoDay } from './day';

const WEEKDAYS = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
const MONTHS = ['january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september', 'october', 'november', 'december'];
const LEAST_LETTERS = 3;

/**
 * The day that `text` means to somebody who says it on `today`; null where it means none. Understood: `today`,
 * `tomorrow`, `+3` (days), `fri` (the next one, today included), `next fri` and `fri next week` (next week's), `friday week`
 * (seven days after `fri`),
 * `12` (the next 12th), `12 mar`, `12/3`, `12.3.`, `12 mar 2028` and `2028-03-12`. A day and month that have passed this
 * year are next year's. Weeks begin on Monday.
 */
export function readDay(text: string, today: IsoDay): IsoDay | null {
  const words = text.trim().toLowerCase();
  if (words === '') return null;
  const iso = parseDay(words);
  if (iso !== null) return isoDay(iso);
  if (words === 'today' || words === 'tod') return today;
  const now = dayNumber(today);
  if (words === 'tomorrow' || words === 'tom') return isoDay(now + 1);
  const ahead = /^\+(\d{1,3})$/.exec(words);
  if (ahead) return isoDay(now + Number(ahead[1]));
  const weekday = startOf(WEEKDAYS, words);
  if (weekday !== null) return isoDay(now + ((weekday + 1 - isoWeekday(now) + 7) % 7));
  const far = inAnotherWeek(words, now);
  if (far !== null) return isoDay(far);
  return readDayAndMonth(words, today);
}

/** `friday next week`, `next week friday`, `next friday`: of the week that begins on the next Monday. `friday week`: a week after the next Friday. */
function inAnotherWeek(words: string, now: DayNumber): DayNumber | null {
  const said = /^(?:(?<name>[a-z]+) (?<next>next )?week|next (?:week )?(?<after>[a-z]+))$/.exec(words)?.groups;
  const weekday = said ? startOf(WEEKDAYS, said['name'] ?? said['after']!) : null;
  if (!said || weekday === null) return null;
  if (said['next'] || said['after']) return now - isoWeekday(now) + 8 + weekday;
  return now + ((weekday + 1 - isoWeekday(now) + 7) % 7) + 7;
}

function readDayAndMonth(words: string, today: IsoDay): IsoDay | null {
  const parts = /^(\d{1,2})(?:st|nd|rd|th)?\.?(?:[\s/.-]*([a-z]+|\d{1,2})\.?(?:[\s/.-]+(\d{4}))?)?$/.exec(words);
  if (!parts) return null;
  const day = Number(parts[1]);
  const [year, month] = [Number(today.slice(0, 4)), Number(today.slice(5, 7))];
  if (parts[2] === undefined) {
    const here = makeDay(year, month, day);
    return here !== null && here >= today ? here : makeDay(month === 12 ? year + 1 : year, (month % 12) + 1, day);
  }
  const named = /^\d+$/.test(parts[2]) ? Number(parts[2]) : (startOf(MONTHS, parts[2]) ?? -1) + 1;
  if (parts[3] !== undefined) return makeDay(Number(parts[3]), named, day);
  const here = makeDay(year, named, day);
  return here !== null && here >= today ? here : makeDay(year + 1, named, day);
}

function makeDay(year: number, month: number, day: number): IsoDay | null {
  const text = `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  return parseDay(text) === null ? null : text;
}

/** The index of the one name that begins with `letters`, at least three of them. */
function startOf(names: readonly string[], letters: string): number | null {
  if (letters.length < LEAST_LETTERS) return null;
  const found = names.findIndex((name) => name.startsWith(letters));
  return found < 0 ? null : found;
}
