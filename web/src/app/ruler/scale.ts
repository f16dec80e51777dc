import { dayNumber, isoDay, isoWeekday, type IsoDay } from '@nockwright/core/calendar';
import { scaleLinear, type ScaleLinear } from 'd3-scale';

/** One scale for all the lines of a sheet: days from left to right. */
export interface RulerScale {
  readonly first: IsoDay;
  readonly last: IsoDay;
  readonly width: number;
  /** Where the middle of a day stands; days beyond the ends stand at the ends. */
  x(day: IsoDay): number;
  /** Every day of the scale. */
  days(): readonly RulerDay[];
}

export interface RulerDay {
  readonly day: IsoDay;
  readonly left: number;
  readonly middle: number;
  readonly width: number;
  readonly weekend: boolean;
  readonly monday: boolean;
}

const LEAST_DAYS = 19;
/** A wide ruler shows more days, none wider than this. */
const WIDEST_DAY = 18;
const MOST_DAYS = 64;
const BEFORE = 1;
const AFTER = 3;

/** A scale that shows today and every day of `days`, at least three weeks, more where it is wide, and at most nine. */
export function rulerScale(today: IsoDay, days: readonly IsoDay[], width: number): RulerScale {
  const now = dayNumber(today);
  const furthest = days.reduce((last, day) => Math.max(last, dayNumber(day)), now);
  const first = now - BEFORE;
  const last = Math.min(Math.max(furthest + AFTER, now + LEAST_DAYS, now + Math.floor(width / WIDEST_DAY)), now + MOST_DAYS);
  const scale: ScaleLinear<number, number> = scaleLinear([first, last + 1], [0, width]).clamp(true);
  return {
    first: isoDay(first),
    last: isoDay(last),
    width,
    x: (day) => Math.min(width - 6, Math.max(6, scale(dayNumber(day) + 0.5))),
    days: () =>
      Array.from({ length: last - first + 1 }, (_, at) => {
        const day = first + at;
        const weekday = isoWeekday(day);
        return {
          day: isoDay(day),
          left: scale(day),
          middle: scale(day + 0.5),
          width: scale(day + 1) - scale(day),
          weekend: weekday > 5,
          monday: weekday === 1,
        };
      }),
  };
}
