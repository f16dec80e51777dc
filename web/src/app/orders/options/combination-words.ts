import type { OrderView } from '@nockwright/contract/orders';
import type { CombinationView } from '@nockwright/contract/shortages';
import { daysBetween, shortDay, type IsoDay } from '@nockwright/core/calendar';
import { amountInWords, minus } from '@nockwright/core/money';
import { spokenOrder, type ToldLine } from '@nockwright/core/orders';
import { spokenPromise } from '@nockwright/core/promise';

const NAMES: Readonly<Record<CombinationView['name'], string>> = {
  on_time: 'Earliest days',
  cheapest: 'Most margin',
  fewest_shipments: 'Fewest shipments',
  one_day: 'All on one day',
};

/** `Earliest days`. */
export function nameOf({ name }: Pick<CombinationView, 'name'>): string {
  return NAMES[name];
}

/** What the order comes to by it: `All lines ship by Thu 11 Mar, 2 lines later than requested, in 1 shipment.` */
export function resultWords({ lastDay, late, shipments, asks, without }: CombinationView, today: IsoDay): string {
  const lines = (count: number) => `${count} ${count === 1 ? 'line' : 'lines'}`;
  const left = asks + without;
  const later = late === 0 ? 'all lines in time' : `${lines(late)} later than requested`;
  const all = lastDay === null ? `${lines(left)} ${left === 1 ? 'stays' : 'stay'} backordered` : `All lines ship by ${shortDay(lastDay, today)}, ${later}`;
  return `${all}, in ${shipments} ${shipments === 1 ? 'shipment' : 'shipments'}.`;
}

/** How it differs from another: `2 days earlier than Most margin, for 35.00 EUR less margin and 1 more shipment.` Empty where it does not. */
export function againstWords(one: CombinationView, other: CombinationView, currency: string): string {
  const days = one.lastDay && other.lastDay ? daysBetween(other.lastDay, one.lastDay) : 0;
  const margin = Number(minus(one.margin, other.margin));
  const shipments = one.shipments - other.shipments;
  const parts = [
    ...(days === 0 ? [] : [`${count(Math.abs(days), 'day')} ${days < 0 ? 'earlier' : 'later'}`]),
    ...(margin === 0 ? [] : [`${amountInWords(Math.abs(margin).toFixed(2))} ${currency} ${margin < 0 ? 'less' : 'more'} margin`]),
    ...(shipments === 0 ? [] : [`${count(Math.abs(shipments), 'shipment')} ${shipments < 0 ? 'fewer' : 'more'}`]),
    ...(one.complete === other.complete ? [] : [one.complete ? 'all at once' : 'in parts']),
  ];
  return parts.length === 0 ? '' : `Against ${nameOf(other)}: ${parts.join(', ')}.`;
}

/** The sentence to say of the order as it would stand. */
export function sayCombination(order: OrderView, combination: CombinationView, today: IsoDay): string {
  const { rows, complete, lastDay } = combination;
  const told = order.lines
    .filter((line) => !line.alternative && line.state !== 'done')
    .map((line): ToldLine => {
      const routed = rows.find((row) => row.line === line.id);
      const route = routed && !routed.asks ? routed.route : null;
      const stays = line.schedule.filter((entry) => !routed || entry.day <= line.requested).map(({ day, quantity }) => ({ day, quantity: Number(quantity) }));
      const added = (route?.parts ?? []).flatMap((part) => part.leaves.map((leaving) => ({ day: leaving.day, quantity: Number(leaving.quantity) })));
      const all = [...stays, ...added].map((part) => (complete && lastDay ? { ...part, day: lastDay } : part)).sort((a, b) => (a.day < b.day ? -1 : 1));
      const open = routed !== undefined && route === null ? Number(routed.quantity) : 0;
      return {
        description: line.description,
        days: all.map((part) => part.day),
        open: open > 0,
        late: open > 0 || all.some((part) => part.day > line.requested),
        spoken: spokenPromise(all, open, today),
      };
    });
  return spokenOrder(told, today);
}

function count(of: number, what: string): string {
  return `${of} ${what}${of === 1 ? '' : 's'}`;
}
