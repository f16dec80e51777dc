import { dayNumber, isoDay, isoWeekday, readDay, type IsoDay } from '../../calendar';
import { textOf, type Token } from './words';

/**
 * A day as it was said: the days it may mean, the most likely first. One where it is clear; several where it has more than
 * one reading; none where it names no day, or one that does not exist. `why` says what is to be known about it.
 */
export interface DaySaid {
  readonly words: string;
  readonly days: readonly IsoDay[];
  readonly why: string;
  /** Whether a person has to decide. */
  readonly asks: boolean;
}

export const WEEKDAY = /^(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*$/;
export const ALONE = /^(?:\+\d+|today|tomorrow|tom)$/;
/** A date that can be nothing else: `12/03`, but not `1/2`. */
const DATE = /^(?:\d{1,2}\/(?:0[1-9]|1[0-2])(?:\/\d{4})?|\d{4}-\d{2}-\d{2})$/;
/** Two numbers as a date, whichever of them is the month. */
const NUMBERS = /^(\d{1,2})[/.](\d{1,2})(?:[/.](\d{4}))?\.?$/;
export const SOON = /^(?:asap|urgent|urgently|immediately|soonest)$/;
const PART_OF_DAY = /^(?:morning|afternoon|evening|am|pm|noon|midday|lunchtime|latest|first|thing|eod|cob|at|the|in|early|late)$/;
const WEEK_ENDS = 5;

/** The day that just these words say; null where they say none. */
export function daySaid(said: readonly Token[], introduced: boolean, today: IsoDay): DaySaid | null {
  const words = textOf(said);
  const one = (days: readonly IsoDay[], why = '', asks = days.length !== 1): DaySaid => ({ words, days, why, asks });
  const plain = said.map((token) => token.word);
  if (plain.join(' ') === 'as soon as possible' || (plain.length === 1 && SOON.test(plain[0]!)))
    return one([], `“${words}” names no day: the earliest is promised`, false);
  const week = weekSaid(plain, today);
  if (week) return one(week, `“${words}” is a week: its Monday or its Friday?`);
  const end = endOfMonth(plain, today);
  if (end) return one([end]);
  const day = dayOf(plain, introduced, today);
  const numbers = introduced && plain.length === 1 ? NUMBERS.exec(said[0]!.text.replace(/[,;!?]+$/, '')) : plain.length === 1 ? NUMBERS.exec(plain[0]!) : null;
  const otherwise = numbers && (introduced || DATE.test(plain[0]!)) ? swapped(numbers, today) : null;
  if (day !== null && otherwise !== null && otherwise !== day) return one([day, otherwise], `“${words}” is day and month, or month and day?`);
  if (day !== null) return one([day]);
  if (otherwise !== null) return one([otherwise], `“${words}” read as month and day`, true);
  if (numbers && introduced && numbers[0].includes('/')) return one([], `“${words}” is no day`);
  if (numbers && DATE.test(plain[0]!)) return one([], `“${words}” is no day`);
  if (isNoDay(plain, introduced)) return one([], `“${words}” is no day`);
  return withPart(said, introduced, today);
}

/** `tomorrow morning`: the day, and that no hour is promised. */
function withPart(said: readonly Token[], introduced: boolean, today: IsoDay): DaySaid | null {
  let end = said.length;
  while (end > 1 && PART_OF_DAY.test(said[end - 1]!.word)) end--;
  if (end === said.length) return null;
  const day = daySaid(said.slice(0, end), introduced, today);
  const part = textOf(said.slice(end));
  const words = textOf(said);
  if (!day || day.days.length === 0) return null;
  return /latest/i.test(part) ? { ...day, words } : { ...day, words, why: [day.why, `“${part}”: a day is promised, no hour`].filter(Boolean).join('; ') };
}

/** A day and month that does not exist: `30 february`, `31st april`. */
function isNoDay(words: readonly string[], introduced: boolean): boolean {
  const meant = words.filter((word) => word !== 'of' && word !== 'the');
  if (meant.length !== 2 || !/^\d{1,2}(?:st|nd|rd|th)?$/.test(meant[0]!)) return false;
  const suffix = /\D$/.test(meant[0]!);
  return (
    (introduced || suffix) &&
    /^(?:january|february|march|april|june|july|august|september|october|november|december|jan|feb|mar|apr|jun|jul|aug|sept?|oct|nov|dec)$/.test(meant[1]!)
  );
}

/** Month and day, as some write them; null where that is no day. */
function swapped([, first, second, year]: RegExpExecArray, today: IsoDay): IsoDay | null {
  if (Number(first) > 12 || first === second) return null;
  return readDay(`${second}/${first}${year ? `/${year}` : ''}`, today);
}

/** Monday and Friday of a week that is named: `week 50`, `wk 12`, `next week`, `this week`. Weeks are those of ISO 8601. */
function weekSaid(words: readonly string[], today: IsoDay): readonly IsoDay[] | null {
  const said = words.join(' ');
  const now = dayNumber(today);
  const monday = now - isoWeekday(now) + 1;
  const from = (start: number) => [isoDay(start), isoDay(start + WEEK_ENDS - 1)].filter((day) => day >= today);
  if (said === 'next week') return from(monday + 7);
  if (said === 'this week') return from(monday);
  const number = Number(/^(?:week|wk|w\/c week)\.? ?(\d{1,2})$/.exec(said)?.[1] ?? 0);
  if (number < 1 || number > 53) return null;
  // The week with 4 January is the first. One that is over is next year's.
  const year = Number(today.slice(0, 4));
  const weekOf = (of: number) => {
    const fourth = dayNumber(`${of}-01-04`);
    return fourth - isoWeekday(fourth) + 1 + 7 * (number - 1);
  };
  const here = weekOf(year);
  return from(here + WEEK_ENDS - 1 >= now ? here : weekOf(year + 1));
}

/** `end of the month`, `end of march`: its last day. */
function endOfMonth(words: readonly string[], today: IsoDay): IsoDay | null {
  const said = words.filter((word) => word !== 'the').join(' ');
  const named = /^end of (?:month|this month|([a-z]+))$/.exec(said);
  if (!named && said !== 'month end') return null;
  const first = named?.[1] ? readDay(`1 ${named[1]}`, today) : null;
  if (named?.[1] && first === null) return null;
  // The first of a month that runs is next year's: the month itself is meant.
  const running = named?.[1] ? readDay(`${Number(today.slice(8))} ${named[1]}`, today) === today : true;
  const [year, month] = (running ? today : first!).split('-').map(Number) as [number, number];
  return isoDay(dayNumber(month === 12 ? `${year + 1}-01-01` : `${year}-${String(month + 1).padStart(2, '0')}-01`) - 1);
}

/** A weekday before a date is read with it, and belongs to `next week` behind it. A number alone is no day, and a single word only where it can be nothing else. */
function dayOf(words: readonly string[], introduced: boolean, today: IsoDay): IsoDay | null {
  const ahead = introduced || words[0] === 'in' ? /^(?:in |within )?(\d{1,2}) (day|week)s?$/.exec(words.join(' ')) : null;
  if (ahead) return isoDay(dayNumber(today) + Number(ahead[1]) * (ahead[2] === 'week' ? 7 : 1));
  const meant = words.filter((word) => word !== 'of' && word !== 'the');
  const date = meant.length > 1 && WEEKDAY.test(meant[0]!) ? meant.slice(1) : meant;
  if (/^\d+$/.test(date.join(' '))) return null;
  if (words.length === 1 && !introduced && !ALONE.test(words[0]!) && !WEEKDAY.test(words[0]!) && !DATE.test(words[0]!)) return null;
  return readDay(meant.join(' '), today) ?? readDay(date.join(' '), today);
}
