import type { IsoDay } from '../calendar';
import { daysLate } from '../calendar';
import { requestedDayOf } from '../book';
import { compareDecimal, minus, sum, type Decimal, type Quantity } from '../money';
import { shipmentsPlanned, type Departure } from '../orders';
import { asksCustomer, POLICIES, routesFor, type PolicyName, type Route, type RoutePolicy } from '../shortages';
import { bestRoute, quantityToRoute } from './plan-routing';
import { policyOf, type RoutedLine, type RoutingFacts } from './routing-facts';
import { shortageOf } from './shortage-of';
import { promisedInTime } from './short-of';
import { allWays, takeWays } from './ways-left';

/** What a combination aims at; `one_day`: all of the order leaves at once, as early as that can be, at the least cost. */
export const COMBINATION_NAMES = ['on_time', 'cheapest', 'fewest_shipments', 'one_day'] as const;
export type CombinationName = (typeof COMBINATION_NAMES)[number];

export interface CombinedLine {
  readonly line: RoutedLine;
  readonly quantity: Quantity;
  /** Null where there is none that nobody need be asked about. */
  readonly route: Route | null;
}

/** One way to serve every short line of an order, and what the order comes to by it. */
export interface Combination {
  readonly name: CombinationName;
  /** The order leaves complete by it. */
  readonly complete: boolean;
  readonly lines: readonly CombinedLine[];
  /** The day the last of the order leaves; null where something of it has none. */
  readonly lastDay: IsoDay | null;
  /** Lines that leave later than requested, or without a day, and by how many days the latest. */
  readonly late: number;
  readonly worstLate: number | null;
  /** Of the whole order. */
  readonly shipments: number;
  /** Of the lines that are routed, in the order's currency. */
  readonly margin: Decimal;
  /** Short lines whose customer must be asked, and those for which there is no option with a day: both are left as they are. */
  readonly asks: number;
  readonly without: number;
}

/**
 * The combinations of options for all short lines of one order: the best of each line by each policy, and all on one day.
 * Each line chooses from what those before it leave. What the customer prefers stands first; what comes to the same
 * choices stands once. `settled`: what has a route already, by line. Nothing where no line is short.
 */
export function combineRoutes(facts: RoutingFacts, settled: ReadonlyMap<number, Quantity>): readonly Combination[] {
  const lines = [...facts.lines.values()];
  const [first] = lines;
  if (!first || lines.every((line) => compareDecimal(toRoute(facts, line, settled), '0') <= 0)) return [];
  const weights = facts.desk.policy.weights;
  const best = (name: PolicyName) => combine(facts, settled, { name, complete: first.ship_complete, policy: weights[name] });
  const preferred = policyOf(facts, first).name;
  const earliest = best('on_time');
  const others = COMBINATION_NAMES.flatMap((name): readonly Combination[] => {
    if (name === 'on_time') return [earliest];
    if (name !== 'one_day') return [best(name)];
    return first.state === 'released' || earliest.lastDay === null || earliest.without + earliest.asks > 0
      ? []
      : [combine(facts, settled, { name, complete: true, policy: POLICIES.cheapest, by: earliest.lastDay })];
  });
  return distinct([...others.filter((row) => row.name === preferred), ...others.filter((row) => row.name !== preferred)]);
}

interface Aim {
  readonly name: CombinationName;
  readonly complete: boolean;
  readonly policy: RoutePolicy;
  /** No later than this. */
  readonly by?: IsoDay;
}

function combine(facts: RoutingFacts, settled: ReadonlyMap<number, Quantity>, { name, complete, policy, by }: Aim): Combination {
  const ways = allWays(facts);
  const combined: CombinedLine[] = [];
  const departures: Departure[] = [];
  let [asks, without, late, worst] = [0, 0, 0, 0];
  let hasNoDay = false;
  for (const line of facts.lines.values()) {
    const to = line.ship_to_id;
    const stands = promisedInTime(facts, line);
    const quantity = toRoute(facts, line, settled);
    const days = [...stands];
    departures.push(...stands.map((day) => ({ house: line.warehouse, to, day })));
    if (compareDecimal(quantity, '0') > 0) {
      const routes = routesFor(shortageOf(facts, ways, line, quantity), policy);
      const found = bestRoute(by === undefined ? routes : routes.filter((route) => route.shipDay !== null && route.shipDay <= by));
      const asked = found !== null && asksCustomer(found);
      combined.push({ line, quantity, route: found });
      if (found === null) without++;
      else if (asked) asks++;
      if (found === null || asked) {
        hasNoDay = true;
        late++;
        continue;
      }
      takeWays(facts, ways, line, found);
      for (const part of found.parts)
        for (const { day } of part.leaves) {
          days.push(day);
          departures.push({ house: part.kind === 'drop_ship' ? `drop ${part.supplier}` : line.warehouse, to, day });
        }
    }
    const last = days.reduce((a, b) => (a > b ? a : b), '');
    const behind = last === '' ? 0 : daysLate(requestedDayOf(line, line), last);
    if (behind > 0) late++;
    worst = Math.max(worst, behind);
  }
  const lastDay = hasNoDay || departures.length === 0 ? null : departures.map(({ day }) => day).reduce((a, b) => (a > b ? a : b));
  return {
    name,
    complete,
    lines: combined,
    lastDay,
    late,
    worstLate: hasNoDay ? null : worst,
    shipments: shipmentsPlanned(0, complete && lastDay !== null ? departures.map((row) => ({ ...row, day: lastDay })) : departures),
    margin: sum(combined.flatMap(({ route }) => (route && !asksCustomer(route) ? [route.marginAmount] : []))),
    asks,
    without,
  };
}

function toRoute(facts: RoutingFacts, line: RoutedLine, settled: ReadonlyMap<number, Quantity>): Quantity {
  return minus(quantityToRoute(facts, line), settled.get(line.id) ?? '0');
}

/** Each set of choices once. */
function distinct(combinations: readonly Combination[]): readonly Combination[] {
  const known = new Map<string, Combination>();
  for (const row of combinations) {
    const key = JSON.stringify([row.complete, row.lines.map(({ line, route }) => [line.id, route?.label ?? '', route?.parts.map((part) => part.quantity)])]);
    if (!known.has(key)) known.set(key, row);
  }
  return [...known.values()];
}
