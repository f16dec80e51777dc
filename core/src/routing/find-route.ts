import { dayByName, type IsoDay } from '../calendar';
import type { Quantity } from '../money';
import { chosenRoute, type ChosenPart, type Route } from '../shortages';
import { policyOf, type RoutedLine, type RoutingFacts, type WaysLeft } from './routing-facts';
import { shortageOf } from './shortage-of';

export type RouteFound =
  | { readonly ok: true; readonly route: Route }
  /** `at`: the part that cannot be, and which of its fields; null: the whole. */
  | { readonly ok: false; readonly at: number | null; readonly field: string; readonly why: string };

/** The route that chosen parts make for a quantity of a line, of a draft as of a released order; or why they make none. */
export function findRoute(
  facts: RoutingFacts,
  ways: WaysLeft,
  line: RoutedLine,
  quantity: Quantity,
  { parts, by }: { readonly parts: readonly ChosenPart[]; readonly by?: IsoDay | undefined },
): RouteFound {
  const found = chosenRoute({ ...shortageOf(facts, ways, line, quantity), mayWait: true }, parts, policyOf(facts, line).policy);
  if (!found.ok) return found;
  const late = afterAgreed(found.route, by, facts.time.today);
  return late === null ? found : { ok: false, at: null, field: '', why: late };
}

/** Why a route is not the one that was agreed to: it leaves later, or on no day that is known. Null where it is, or nothing was. */
function afterAgreed({ shipDay }: Route, by: IsoDay | undefined, today: IsoDay): string | null {
  if (by === undefined || (shipDay !== null && shipDay <= by)) return null;
  return `it would leave ${shipDay === null ? 'on a day that is not known' : dayByName(shipDay, today)}, and ${dayByName(by, today)} was agreed to`;
}
