import { dayNumber, type DayNumber } from '../calendar';
import type { Site } from './book-columns';

/** Reads days once each: a book names few days and names them often. */
export class DayReader {
  private readonly numbers = new Map<string, DayNumber>();
  private readonly shipDays: readonly Map<string, DayNumber>[];

  constructor(private readonly sites: readonly Site[]) {
    this.shipDays = sites.map(() => new Map());
  }

  number(text: string): DayNumber {
    let day = this.numbers.get(text);
    if (day === undefined) this.numbers.set(text, (day = dayNumber(text)));
    return day;
  }

  /** The last working day on or before it, never before the first ship day. */
  shipDay(text: string, site: number): DayNumber {
    let day = this.shipDays[site]!.get(text);
    if (day === undefined) {
      const { calendar, firstShipDay } = this.sites[site]!;
      this.shipDays[site]!.set(text, (day = Math.max(calendar.floor(this.number(text)), firstShipDay)));
    }
    return day;
  }
}
