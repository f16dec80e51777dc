import { type Quantity, compareDecimal, plus, sum } from '../money';
import { asksCustomer, routesFor, type PolicyName, type Route } from '../shortages';
import type { Lifting } from './after-lifting';
import { Gathering, type Gathered } from './gathering';
import { policyOf, type RoutedLine, type RoutingFacts } from './routing-facts';
import { lift, shortOf, takesBack } from './short-of';
import { shortageOf } from './shortage-of';
import { allWays, takeWays } from './ways-left';

export interface PlannedLine {
  readonly line: RoutedLine;
  readonly quantity: Quantity;
  /** Null where there is no way that nobody need be asked about. */
  readonly route: Route | null;
  readonly takesBack: readonly string[];
}

export interface Planned {
  readonly rows: readonly PlannedLine[];
  readonly gathered: readonly Gathered[];
  /** Lines whose customer must be asked: they are in no document. */
  readonly asks: number;
  readonly liftings: readonly Lifting[];
}

/**
 * The best way for each of many lines, in the sequence of their orders: each chooses from what those before it leave, and
 * purchases of one supplier for one warehouse are one.
 */
export function planRouting(facts: RoutingFacts, wanted?: PolicyName): Planned {
  const ways = allWays(facts);
  const gathering = new Gathering(facts, ways);
  const rows: PlannedLine[] = [];
  const liftings: Lifting[] = [];
  let asks = 0;
  for (const line of facts.lines.values()) {
    const quantity = quantityToRoute(facts, line);
    if (compareDecimal(quantity, '0') <= 0) continue;
    const route = bestRoute(routesFor(shortageOf(facts, ways, line, quantity), policyOf(facts, line, wanted).policy));
    const of = (waits: boolean) => sum((route?.parts ?? []).filter((part) => (part.kind === 'backorder') === waits).map((part) => part.quantity));
    const result = lift(facts, line, of(false), of(true));
    rows.push({ line, quantity, route, takesBack: result.ok ? takesBack(facts, line, result.lifted) : [] });
    if (!route) continue;
    if (asksCustomer(route)) {
      asks++;
      continue;
    }
    gathering.add(line, route);
    takeWays(facts, ways, line, route);
    if (result.ok) liftings.push({ line: line.id, lifted: result.lifted });
  }
  return { rows, gathered: gathering.rows(), asks, liftings };
}

/**
 * How much of a line needs a route: of a released line what waits or goes astray, and where there is none what was told for
 * a later day; of a draft's all that is without supply or late.
 */
export function quantityToRoute(facts: RoutingFacts, line: RoutedLine): Quantity {
  const { waiting, astray, short } = shortOf(facts, line);
  if (line.state !== 'released') return short;
  const pressing = plus(waiting, astray);
  return compareDecimal(pressing, '0') > 0 ? pressing : short;
}

/**
 * What is done where nobody chooses: nothing is cut unasked, nothing left to a purchase that nobody makes, and what needs
 * no question comes before what does.
 */
export function bestRoute(routes: readonly Route[]): Route | null {
  const possible = routes.filter((route) => route.possible && route.parts.every((part) => part.kind !== 'cut' && !part.unbought));
  return possible.find((route) => !asksCustomer(route)) ?? possible[0] ?? null;
}
