import { CARRIER_WEEK, dayNumber, deliveryDay, isoDay } from '../calendar';

/** Who asks for how many days of life on delivery; null: the customer asks for none of their own. */
export interface LifeAsked {
  readonly item: number;
  readonly customer: number | null;
  /** The carrier's working days on the way. */
  readonly transitDays: number;
}

/** Any week will do: Monday to Sunday. */
const MONDAY = dayNumber('2027-03-01');

/**
 * Days of life that goods must have left on their ship day, so that as many as the item and the customer ask for are left on
 * delivery: the greater of both, and the calendar days on the way, weekends among them, at most.
 */
export function lifeAsked({ item, customer, transitDays }: LifeAsked): number {
  const onTheWay = Array.from({ length: 7 }, (_, at) => MONDAY + at).map((ship) => dayNumber(deliveryDay(isoDay(ship), transitDays, CARRIER_WEEK)) - ship);
  return Math.max(item, customer ?? 0) + Math.max(...onTheWay);
}
