import type { Sort } from '../ids';

/** A calendar day as a count of days since 1970-01-01 (proleptic Gregorian). Cheap to compare and add. */
export type DayNumber = number;

/** A calendar day as text, `YYYY-MM-DD` (ISO 8601 calendar date). */
export type IsoDay = Sort<string, 'day'>;

const MS_PER_DAY = 86_400_000;
const DAY = /^(\d{4})-(\d{2})-(\d{2})$/;
const LOCAL_TIME = /^(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2})$/;
const CLOCK = /^([01]\d|2[0-3]):([0-5]\d)$/;

/** The day number of `text`, or null where it is not exactly a day that exists (`2027-02-29` is not). */
export function parseDay(text: string): DayNumber | null {
  const match = DAY.exec(text);
  if (!match) return null;
  const [year, month, dayOfMonth] = [Number(match[1]), Number(match[2]), Number(match[3])];
  const date = new Date(0);
  // Not Date.UTC: it reads the years 0 to 99 as 1900 to 1999.
  date.setUTCFullYear(year, month - 1, dayOfMonth);
  if (date.getUTCMonth() !== month - 1 || date.getUTCDate() !== dayOfMonth) return null;
  return date.getTime() / MS_PER_DAY;
}

/** The day number of a day known to exist. Throws where it does not: a broken promise of the caller, not bad input. */
export function dayNumber(text: IsoDay): DayNumber {
  const day = parseDay(text);
  if (day === null) throw new RangeError(`day: expected YYYY-MM-DD, got ${text}`);
  return day;
}

/** `YYYY-MM-DD` of a day number. */
export function isoDay(day: DayNumber): IsoDay {
  return new Date(day * MS_PER_DAY).toISOString().slice(0, -14);
}

/** Day and minute of the day of a local time `YYYY-MM-DDTHH:MM`, or null where there is no such time. */
export function parseLocalTime(text: string): { readonly day: DayNumber; readonly minute: number } | null {
  const match = LOCAL_TIME.exec(text);
  if (!match) return null;
  const day = parseDay(match[1]!);
  const minute = parseClock(match[2]!);
  return day === null || minute === null ? null : { day, minute };
}

/** Minute of the day (0 to 1439) of `HH:MM`, or null where there is no such time. */
export function parseClock(text: string): number | null {
  const match = CLOCK.exec(text);
  return match ? Number(match[1]) * 60 + Number(match[2]) : null;
}

/** ISO 8601 weekday: 1 = Monday to 7 = Sunday. 1970-01-01 was a Thursday. */
export function isoWeekday(day: DayNumber): number {
  return ((((day + 3) % 7) + 7) % 7) + 1;
}
