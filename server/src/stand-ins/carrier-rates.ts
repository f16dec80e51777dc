import { CARRIER_WEEK, deliveryDay } from '@nockwright/core/calendar';
import { billableWeight } from '@nockwright/core/carriers';
import type { Destination, Parcel, Rate } from '../carriers';

/** A service of a carrier: what it costs and what it takes. Invented tariffs. */
export interface Tariff {
  readonly days: number;
  /** Cubic centimetres that count as a kilogram. */
  readonly divisor: number;
  readonly base: number;
  readonly perHalfKilo: number;
  /** The most that one parcel may weigh. */
  readonly most: number;
}

export const TARIFFS: Readonly<Record<string, Readonly<Record<string, Tariff>>>> = {
  HARROW: {
    GROUND: { days: 1, divisor: 6000, base: 4.2, perHalfKilo: 0.32, most: 40 },
    EXPRESS: { days: 1, divisor: 5000, base: 9.8, perHalfKilo: 0.71, most: 30 },
  },
  TARN: {
    PALLET: { days: 2, divisor: 6000, base: 38, perHalfKilo: 0.06, most: 1000 },
    ISLES: { days: 4, divisor: 6000, base: 14.5, perHalfKilo: 0.54, most: 70 },
  },
};

const HEAVY = { from: 25, costs: 9.5 };
const LONG = { from: 120, costs: 14 };
const FUEL = 0.08;

/** What a service asks for parcels, or why it does not take them. Zone 1 is the nearest, by the first letters of the postcode. */
export function rateOf(service: string, tariff: Tariff, day: string, to: Destination, parcels: readonly Parcel[]): Rate | { readonly fault: string } {
  const heaviest = Math.max(...parcels.map((parcel) => parcel.weight));
  if (heaviest > tariff.most) return { fault: `a parcel of ${heaviest} kg is above the ${tariff.most} kg that ${service} takes` };
  const zone = zoneOf(to);
  const cost = parcels.reduce((sum, parcel) => sum + costOf(parcel, tariff, zone), 0) * (1 + FUEL);
  return { service, cost: (Math.round(cost * 100) / 100).toFixed(2), arrives: deliveryDay(day, tariff.days + (zone > 3 ? 1 : 0), CARRIER_WEEK) };
}

function costOf(parcel: Parcel, tariff: Tariff, zone: number): number {
  const halves = billableWeight(parcel.weight, parcel, tariff.divisor) * 2;
  const longest = Math.max(parcel.length, parcel.width, parcel.height);
  return (
    (tariff.base + halves * tariff.perHalfKilo) * (1 + (zone - 1) * 0.15) +
    (parcel.weight > HEAVY.from ? HEAVY.costs : 0) +
    (longest > LONG.from ? LONG.costs : 0)
  );
}

function zoneOf({ postcode }: Destination): number {
  return ([...postcode.toUpperCase().slice(0, 2)].reduce((sum, letter) => sum + letter.charCodeAt(0), 0) % 4) + 1;
}
