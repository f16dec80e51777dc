import { isoWeekday, type DayNumber } from './day';

/** The working days of a place: which days count, and walking over them. */
export interface WorkCalendar {
  isWorkingDay(day: DayNumber): boolean;
  /** The last working day on or before `day`. */
  floor(day: DayNumber): DayNumber;
  /** The first working day on or after `day`. */
  ceil(day: DayNumber): DayNumber;
  /** The working day `count` working days after `day` (before it, where negative). `day` must be a working day. */
  offset(day: DayNumber, count: number): DayNumber;
}

// 1970-01-05, a Monday: weeks are counted from here.
const FIRST_MONDAY = 4;

/**
 * A calendar of the ISO weekdays in `workdays` (1 = Monday; at least one) without the days in `closed`.
 * Every walk is O(log closed), however far: a working day has a rank (how many come before it since a fixed Monday),
 * ranks come from whole weeks less the closed days, and a rank is turned back into its day by bisection.
 */
export function workCalendar(workdays: readonly number[], closed: readonly DayNumber[]): WorkCalendar {
  const open = new Set(workdays);
  if (open.size === 0) throw new RangeError('workdays: expected at least one, got none');
  const weekdays = [...open].sort((a, b) => a - b);
  const shut = [...new Set(closed)].filter((day) => open.has(isoWeekday(day))).sort((a, b) => a - b);
  const shutDays = new Set(shut);

  const isWorkingDay = (day: DayNumber) => open.has(isoWeekday(day)) && !shutDays.has(day);

  /** Working weekdays from the first Monday to `day`, `day` not counted, closed days not yet taken off. */
  const weekdaysBefore = (day: DayNumber) => {
    const week = Math.floor((day - FIRST_MONDAY) / 7);
    const weekday = isoWeekday(day);
    let inWeek = 0;
    while (inWeek < weekdays.length && weekdays[inWeek]! < weekday) inWeek++;
    return week * weekdays.length + inWeek;
  };
  const weekdayAt = (index: number) => {
    const week = Math.floor(index / weekdays.length);
    return FIRST_MONDAY + week * 7 + weekdays[index - week * weekdays.length]! - 1;
  };
  const shutBefore = (day: DayNumber) => {
    let [low, high] = [0, shut.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (shut[middle]! < day) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  const rank = (day: DayNumber) => weekdaysBefore(day) - shutBefore(day);
  /** The working day of that rank: skipping k closed days moves it k weekdays on; k is found by bisection. */
  const atRank = (wanted: number) => {
    let [low, high] = [0, shut.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (weekdaysBefore(shut[middle]!) - middle <= wanted) low = middle + 1;
      else high = middle;
    }
    return weekdayAt(wanted + low);
  };

  return {
    isWorkingDay,
    floor: (day) => (isWorkingDay(day) ? day : atRank(rank(day) - 1)),
    ceil: (day) => (isWorkingDay(day) ? day : atRank(rank(day))),
    offset: (day, count) => (count === 0 ? day : atRank(rank(day) + count)),
  };
}
