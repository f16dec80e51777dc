import { dayNumber, isoDay, type IsoDay } from './day';
import type { WorkCalendar } from './work-calendar';

/** The day goods that leave on `ship` are delivered: `transitDays` of the carrier's working days later. */
export function deliveryDay(ship: IsoDay, transitDays: number, carrier: WorkCalendar): IsoDay {
  return isoDay(carrier.offset(carrier.ceil(dayNumber(ship)), transitDays));
}

/** The latest day goods can leave to be there on `delivery`: the same sum run backwards. */
export function latestShipDay(delivery: IsoDay, transitDays: number, carrier: WorkCalendar): IsoDay {
  return isoDay(carrier.offset(carrier.floor(dayNumber(delivery)), -transitDays));
}
