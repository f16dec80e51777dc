import { dayNumber, isoDay, parseClock, parseLocalTime, type DayNumber, type IsoDay } from './day';
import { workCalendar, type WorkCalendar } from './work-calendar';

/** When a warehouse works: working days of the week (1 = Monday), days it is closed, the minute orders of the day must be in by. */
export interface Hours {
  readonly workdays: readonly number[];
  readonly closed?: readonly IsoDay[];
  /** `HH:MM`; none: until midnight. */
  readonly cutoff?: string;
  /** Working days from the day goods come in to the day they can leave again. */
  readonly receivingDays?: number;
}

export function calendarOf({ workdays, closed = [] }: Hours): WorkCalendar {
  return workCalendar(workdays, closed.map(dayNumber));
}

/** The first day goods on hand can leave a warehouse: today before its cut-off, if it works; else the next working day. */
export function firstShipDay(hours: Hours, localTime: string): IsoDay {
  return isoDay(firstShipDayIn(calendarOf(hours), hours.cutoff, localTime));
}

/** The same as a number, of a calendar that is known. */
export function firstShipDayIn(calendar: WorkCalendar, cutoff: string | undefined, localTime: string): DayNumber {
  const { day, minute } = parseLocalTime(localTime)!;
  const leavesToday = calendar.isWorkingDay(day) && (cutoff === undefined || minute < parseClock(cutoff)!);
  return leavesToday ? day : calendar.ceil(day + 1);
}

/** The day goods that come on a day can leave again: they are taken in on a working day and put away. */
export function leavesAgain(comes: IsoDay, hours: Hours): IsoDay {
  return isoDay(leavesAgainIn(calendarOf(hours), hours.receivingDays ?? 0, dayNumber(comes)));
}

/** The same as a number, of a calendar that is known. */
export function leavesAgainIn(calendar: WorkCalendar, receivingDays: number, comes: DayNumber): DayNumber {
  return calendar.offset(calendar.ceil(comes), receivingDays);
}

/** How late something is: calendar days from the day that was asked for to the day it leaves; 0 where it is in time. */
export function daysLate(asked: IsoDay, leaves: IsoDay): number {
  return Math.max(0, dayNumber(leaves) - dayNumber(asked));
}
