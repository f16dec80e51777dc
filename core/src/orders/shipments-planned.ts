import type { IsoDay } from '../calendar';

/** A part of an order that is still to leave: whose house, to which address, on which day. */
export interface Departure {
  readonly house: string;
  readonly to: number | null;
  readonly day: IsoDay;
}

/** How many shipments the customer gets of an order: those that have left, and one for each house, address and day of what is to leave. */
export function shipmentsPlanned(shipped: number, departures: readonly Departure[]): number {
  return shipped + new Set(departures.map(({ house, to, day }) => `${house}\u0000${to ?? ''}\u0000${day}`)).size;
}
