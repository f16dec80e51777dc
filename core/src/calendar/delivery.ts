import { dayNumber, isoDay, type IsoDay } from './day';
import { workCalendar, type WorkCalendar } from './work-calendar';

/** Carriers drive Monday to Friday. */
export const CARRIER_WEEK = workCalendar([1, 2, 3, 4, 5], []);

/** The day goods that leave on `ship` are delivered: `transitDays` of the carrier's working days later. */
export function deliveryDay(ship: IsoDay, transitDays: number, carrier: WorkCalendar): IsoDay {
  return isoDay(carrier.offset(carrier.ceil(dayNumber(ship)), transitDays));
}

/** The latest day goods can leave to be there on `delivery`: the same sum run backwards. */
export function latestShipDay(delivery: IsoDay, transitDays: number, carrier: WorkCalendar): IsoDay {
  return isoDay(carrier.offset(carrier.floor(dayNumber(delivery)), -transitDays));
}
