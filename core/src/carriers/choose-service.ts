import type { IsoDay } from '../calendar';
import { compareDecimal, type Amount } from '../money';

/** What a carrier offers for a shipment. */
export interface ServiceOffer {
  readonly service: string;
  readonly cost: Amount;
  /** The day it arrives. */
  readonly arrives: IsoDay;
}

export interface ServiceChoice {
  readonly offer: ServiceOffer;
  /** Whether it arrives on the day promised; where none does, it is the one that arrives first. */
  readonly inTime: boolean;
}

/**
 * The service to send by: the cheapest of those that arrive by the day promised, the earlier one of two that cost the same. Where
 * none does, the one that arrives first, the cheapest of those. Null where nobody offers.
 */
export function chooseService(offers: readonly ServiceOffer[], by: IsoDay): ServiceChoice | null {
  const inTime = offers.filter((offer) => offer.arrives <= by);
  const cheapest = [...inTime].sort((a, b) => compareDecimal(a.cost, b.cost) || compareText(a.arrives, b.arrives) || compareText(a.service, b.service))[0];
  if (cheapest) return { offer: cheapest, inTime: true };
  const first = [...offers].sort((a, b) => compareText(a.arrives, b.arrives) || compareDecimal(a.cost, b.cost) || compareText(a.service, b.service))[0];
  return first ? { offer: first, inTime: false } : null;
}

function compareText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
