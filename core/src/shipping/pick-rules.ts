import { compareDecimal, type Amount } from '../money';

/** Which orders are released to pick without anybody looking at them, and when. */
export interface PickRules {
  readonly on: boolean;
  /** Local times of day, `HH:MM`, at which what is due is released. */
  readonly times: readonly string[];
  /** An order worth more is looked at; null: none is. */
  readonly mostValue: Amount | null;
  readonly firstOrder: boolean;
  readonly instructions: boolean;
  readonly belowFloor: boolean;
  readonly newAddress: boolean;
  /** An order that would come in more shipments is looked at; null: none is. */
  readonly mostShipments: number | null;
}

/** What of an order the rules look at. */
export interface RuledOrder {
  readonly value: Amount;
  /** Orders the customer had before it. */
  readonly ordersBefore: number;
  readonly hasInstructions: boolean;
  readonly belowFloor: boolean;
  /** Whether anything was shipped to its address before. */
  readonly knownAddress: boolean;
  /** Shipments it would have come in with this one. */
  readonly shipments: number;
}

export type PickStop = 'value' | 'first_order' | 'instructions' | 'below_floor' | 'new_address' | 'shipments';

/** The rules until a manager sets others: nothing is released by itself. */
export const USUAL_RULES: PickRules = {
  on: false,
  times: ['08:00', '11:00'],
  mostValue: '2500',
  firstOrder: true,
  instructions: true,
  belowFloor: true,
  newAddress: true,
  mostShipments: 3,
};

/** Which rules stop an order; none: it is released to pick by itself. */
export function stoppedBy(order: RuledOrder, rules: PickRules): readonly PickStop[] {
  const stops: readonly (readonly [PickStop, boolean])[] = [
    ['value', rules.mostValue !== null && compareDecimal(order.value, rules.mostValue) > 0],
    ['first_order', rules.firstOrder && order.ordersBefore === 0],
    ['instructions', rules.instructions && order.hasInstructions],
    ['below_floor', rules.belowFloor && order.belowFloor],
    ['new_address', rules.newAddress && !order.knownAddress],
    ['shipments', rules.mostShipments !== null && order.shipments > rules.mostShipments],
  ];
  return stops.filter(([, applies]) => applies).map(([stop]) => stop);
}

/** The time of day at which orders are to be released now: the last that has come and was not done today. `done` is the last that was, with its day. */
export function dueRun(rules: PickRules, localTime: string, done: { readonly day: string; readonly time: string } | null): string | null {
  if (!rules.on) return null;
  const [day, clock] = localTime.split('T') as [string, string];
  const last = [...rules.times].sort().findLast((time) => time <= clock);
  if (last === undefined) return null;
  return done !== null && done.day === day && done.time >= last ? null : last;
}

/** How many of past orders rules would have stopped, and by which rule. */
export function tryRules(
  orders: readonly RuledOrder[],
  rules: PickRules,
): { readonly orders: number; readonly stopped: number; readonly by: Readonly<Record<PickStop, number>> } {
  const by: Record<PickStop, number> = { value: 0, first_order: 0, instructions: 0, below_floor: 0, new_address: 0, shipments: 0 };
  let stopped = 0;
  for (const order of orders) {
    const stops = stoppedBy(order, rules);
    if (stops.length > 0) stopped++;
    for (const stop of stops) by[stop]++;
  }
  return { orders: orders.length, stopped, by };
}
