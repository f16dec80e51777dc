import { CARRIER_WEEK, dayNumber, isoDay, type IsoDay, latestShipDay } from '../calendar';

/** A day asked for: for leaving the warehouse, or for being delivered after so many working days on the way. */
export interface Asked {
  readonly day: IsoDay;
  readonly deliverBy: boolean;
  readonly transitDays: number;
}

/** The ship day that is asked for: a delivery day is run back by the transit. */
export function requestedShipDay({ day, deliverBy, transitDays }: Asked): IsoDay {
  return deliverBy ? latestShipDay(day, transitDays, CARRIER_WEEK) : day;
}

/** The first day from this one on that a carrier collects. */
export function nextCarrierDay(day: IsoDay): IsoDay {
  return isoDay(CARRIER_WEEK.ceil(dayNumber(day)));
}
