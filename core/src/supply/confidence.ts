import { CARRIER_WEEK, dayNumber, isoDay, type IsoDay, type WorkCalendar } from '../calendar';
import type { ArrivalOdds } from './arrival-odds';

/** Where goods come in: its working days, and how many it takes to put them away. */
export interface Dock {
  readonly calendar: WorkCalendar;
  readonly receivingDays: number;
}

/** Where nothing is put away: what a supplier ships leaves on the day carriers take it. */
export const CARRIER_DOCK: Dock = { calendar: CARRIER_WEEK, receivingDays: 0 };

/** Goods that a promise rests on and that have not come. */
export interface AwaitedSupply {
  readonly expected: IsoDay;
  readonly odds: ArrivalOdds;
}

const FURTHEST_DAYS = 365;

/** How many calendar days late goods may come and still leave on `day`; below 0 where they must come early. */
export function daysToSpare(expected: IsoDay, day: IsoDay, { calendar, receivingDays }: Dock): number {
  const due = dayNumber(expected);
  const leaves = dayNumber(day);
  let spare = leaves - due;
  while (calendar.offset(calendar.ceil(due + spare), receivingDays) > leaves) spare--;
  return spare;
}

/** How often a promise for `day` holds that rests on these goods, 0 to 1. Suppliers are taken to be late independently. */
function holds(supplies: readonly AwaitedSupply[], day: IsoDay, dock: Dock, today: IsoDay): number {
  return supplies.reduce((share, { expected, odds }) => share * odds.withinAfter(daysToSpare(expected, day, dock), dayNumber(today) - dayNumber(expected)), 1);
}

/**
 * How often a promise for `day` holds, and the first day from it on for which one holds with the confidence asked, both
 * 0 to 1; `safe` is null where no day within a year does.
 */
export function safeDay(
  supplies: readonly AwaitedSupply[],
  day: IsoDay,
  dock: Dock,
  today: IsoDay,
  confidence: number,
): { readonly holds: number; readonly safe: IsoDay | null } {
  const share = holds(supplies, day, dock, today);
  if (share >= confidence) return { holds: share, safe: day };
  const first = dayNumber(day);
  for (let at = first + 1; at <= first + FURTHEST_DAYS; at++) {
    if (dock.calendar.isWorkingDay(at) && holds(supplies, isoDay(at), dock, today) >= confidence - 1e-12) return { holds: share, safe: isoDay(at) };
  }
  return { holds: share, safe: null };
}
