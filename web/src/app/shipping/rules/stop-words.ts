import type { PickTrial, ReadyOrder } from '@nockwright/contract/shipping';

type Stop = ReadyOrder['stops'][number];

/** Why a rule keeps an order from being released to pick by itself. */
export const STOPS: Readonly<Record<Stop, string>> = {
  value: 'large value',
  first_order: 'first order of the customer',
  instructions: 'instructions',
  below_floor: 'margin below the floor',
  new_address: 'new address',
  shipments: 'many shipments',
};

/** `Would have stopped 14 of 612: large value 8, new address 6.` */
export function trialWords({ orders, stopped, by }: PickTrial): string {
  if (orders === 0) return 'No order was shipped in the last 90 days.';
  const each = (Object.keys(STOPS) as Stop[]).filter((stop) => by[stop] > 0).map((stop) => `${STOPS[stop]} ${by[stop]}`);
  return `Would have stopped ${stopped} of ${orders} orders of the last 90 days${each.length > 0 ? `: ${each.join(', ')}` : ''}.`;
}
