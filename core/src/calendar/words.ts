import { format } from 'date-fns/format';
import { parseISO } from 'date-fns/parseISO';
import type { IsoDay } from './day';

/** A day as the desk writes it: `Thu 12 Mar`, with the year where it is not the year of `today`. */
export function shortDay(day: IsoDay, today: IsoDay): string {
  return format(parseISO(day), day.slice(0, 4) === today.slice(0, 4) ? 'EEE d MMM' : 'EEE d MMM yyyy');
}

/** Several days in a row, the month said once where it is the same: `Fri 12 + Tue 16 Mar`. */
export function shortDays(days: readonly IsoDay[], today: IsoDay): string {
  const distinct = [...new Set(days)].sort();
  return distinct.map((day, at) => (distinct[at + 1]?.slice(0, 7) === day.slice(0, 7) ? format(parseISO(day), 'EEE d') : shortDay(day, today))).join(' + ');
}

/** A day as it is said on the phone: `Thursday the 12th of March`, `today`, `tomorrow`. */
export function spokenDay(day: IsoDay, today: IsoDay): string {
  const gap = Math.round((parseISO(day).getTime() - parseISO(today).getTime()) / 86_400_000);
  if (gap === 0) return 'today';
  if (gap === 1) return 'tomorrow';
  return dayByName(day, today);
}

/** The same by its name only, for what may still be read tomorrow. */
export function dayByName(day: IsoDay, today: IsoDay): string {
  const gap = daysBetween(today, day);
  const sameYear = day.slice(0, 4) === today.slice(0, 4);
  return format(parseISO(day), gap >= 0 && gap < 14 ? "EEEE 'the' do" : sameYear ? "EEEE 'the' do 'of' MMMM" : "EEEE 'the' do 'of' MMMM yyyy");
}

/** Calendar days from `from` to `to`; negative where `to` is earlier. */
export function daysBetween(from: IsoDay, to: IsoDay): number {
  return Math.round((Date.parse(`${to}T00:00Z`) - Date.parse(`${from}T00:00Z`)) / 86_400_000);
}
