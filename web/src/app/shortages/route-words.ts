import type { ChosenRoute, RouteChoice, RouteWish } from '@nockwright/contract/shortages';
import { shortDay, spokenDay } from '@nockwright/core/calendar';
import { unitName } from '@nockwright/core/units';
import type { Choice } from '../paper';
import type { RulerPart } from '../ruler';

/** What each kind of route is called once it is chosen. */
export const ROUTE_NAMES: Readonly<Record<ChosenRoute['kind'], string>> = {
  backorder: 'backorder',
  special_order: 'special order',
  drop_ship: 'drop ship',
  transfer: 'transfer',
  assemble: 'assembly',
  substitute: 'substitute',
  cut: 'cancelled',
};

export type PolicyName = 'on_time' | 'cheapest' | 'fewest_shipments';

export const POLICY_CHOICES: readonly Choice<PolicyName>[] = [
  ['on_time', 'on time first'],
  ['cheapest', 'cheapest first'],
  ['fewest_shipments', 'fewest shipments'],
];

/** What is asked for when a way is taken. */
export function wishesOf({ parts }: RouteChoice, shipTo?: number): RouteWish[] {
  return parts.map(({ kind, quantity, supplier, warehouse, item, more }) => ({
    kind,
    quantity,
    ...(supplier === null ? {} : { supplier }),
    ...(warehouse === null ? {} : { warehouse }),
    ...(item === null ? {} : { item }),
    ...(Number(more) > 0 ? { more } : {}),
    ...(kind === 'drop_ship' && shipTo !== undefined ? { shipTo } : {}),
  }));
}

/** The customer has to be asked before it may be done. */
export function asksCustomer({ obliges }: Pick<RouteChoice, 'obliges'>): boolean {
  return obliges.some((row) => row.kind === 'consent');
}

/** The days of a route as the ruler draws them; the bar of a part reaches from the last of its days to the one that is sure. */
export function scheduleOf({ parts, possible }: Pick<RouteChoice, 'parts' | 'possible'>): readonly RulerPart[] {
  return parts.flatMap((part) =>
    part.leaves.map((leaving, at) => ({
      ...leaving,
      kept: true,
      dropShip: part.kind === 'drop_ship',
      arrives: null,
      broken: false,
      ...(possible && at === part.leaves.length - 1 ? { holds: part.holds, safeDay: part.safeDay } : {}),
    })),
  );
}

/** `3 days late`, `in time`. */
export function lateWords(days: number): string {
  return days === 0 ? 'in time' : `${days} ${days === 1 ? 'day' : 'days'} late`;
}

/** The question to a customer about a way, to be said or written. */
export function questionFor(
  route: RouteChoice,
  line: { readonly item: string; readonly description: string; readonly stockUnit: string },
  today: string,
): string {
  // Thirty of a thing, not “30 each”.
  const unit = (quantity: string) => (line.stockUnit === 'EA' ? '' : `${unitName(line.stockUnit, quantity)} `);
  const goods = (quantity: string) => `${quantity} ${unit(quantity)}${line.item} (${line.description})`;
  const said = route.parts.map(({ kind, quantity, item, shipDay }) => {
    const day = shipDay === null ? '' : spokenDay(shipDay, today);
    const when = day === '' || day === 'today' || day === 'tomorrow' ? day : `on ${day}`;
    if (kind === 'cut') return `take ${quantity} off your order`;
    if (kind === 'substitute') return `send ${item} instead of ${quantity}, at the same price, ${when}`;
    return `send ${quantity} ${when}`;
  });
  return `We are short of ${goods(route.quantity)}. May we ${said.join(', and ')}?`;
}

/** What a route is once chosen: `12 special order from Tarnbeck Glass, Tue 16 Mar`. */
export function chosenWords({ kind, from, day }: ChosenRoute, today: string): string {
  const who = from === null ? '' : kind === 'substitute' ? ` ${from}` : ` from ${from}`;
  return `${ROUTE_NAMES[kind]}${who}${day === null ? '' : `, ${shortDay(day, today)}`}`;
}
