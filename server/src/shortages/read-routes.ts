import type { LineId, OrderId } from '@nockwright/core/ids';
import type { RouteChoices } from '@nockwright/contract/shortages';
import { compareDecimal, least, minus, sum } from '@nockwright/core/money';
import {
  allWays,
  bookAfterLifting,
  lift,
  openOf,
  policyOf,
  shortageOf,
  shortOf,
  takesBack,
  type RoutedLine,
  type RoutingFacts,
} from '@nockwright/core/routing';
import { routesFor, type Lifted, type PolicyName } from '@nockwright/core/shortages';
import type { Now } from '../clock';
import type { Db } from '../database';
import { invalid, notFound } from '../http/refusal';
import { decimal, describeMoved, rippleOf, type RipplePlan } from '../promise';
import { loadRoutingFacts } from './load-facts';
import { routeView } from './route-view';

/** The ways to serve what is short or late of a line; `quantity` (stocking units) asks about a part of it. */
export async function readRoutes(
  db: Db,
  now: Now,
  orderId: OrderId,
  lineId: LineId,
  wish: { readonly quantity?: string; readonly policy?: PolicyName },
): Promise<RouteChoices> {
  const facts = await loadRoutingFacts(db, now, [lineId]);
  const line = facts.lines.get(lineId);
  if (!line || line.order_id !== orderId) throw notFound(`line ${lineId} on this order`);
  const draft = line.state !== 'released';
  const open = openOf(facts, line);
  const { name, policy } = policyOf(facts, line, wish.policy);
  // On a draft what has been given a way is settled, though it is late by that way; drop shipments are off the schedule.
  const settled = draft ? await plannedFor(db, lineId) : '0';
  const unsettled = minus(shortOf(facts, line).short, settled);
  const short = compareDecimal(unsettled, '0') > 0 ? least(unsettled, open) : '0';
  const asked = wish.quantity ?? short;
  if (compareDecimal(asked, open) > 0) throw invalid('query.quantity', `${asked} is more than the ${open} open on this line`);
  if (compareDecimal(asked, '0') <= 0) return { short: '0', unit: line.unit, policy: name, frees: [], takesBack: [], routes: [] };
  const result = lift(facts, line, asked, '0');
  const lifted = draft || !result.ok ? null : result.lifted;
  return {
    short,
    unit: line.unit,
    policy: name,
    frees: lifted ? await freesFor(db, now, facts, line, lifted) : [],
    takesBack: lifted ? takesBack(facts, line, lifted) : [],
    routes: routesFor(shortageOf(facts, allWays(facts), line, asked), policy).map((route) => routeView(route, now.today)),
  };
}

async function plannedFor(db: Db, lineId: LineId): Promise<string> {
  const rows = await db.selectFrom('line_route').select('quantity').where('line_id', '=', lineId).where('kind', '<>', 'drop_ship').execute();
  return sum(rows.map((row) => row.quantity));
}

/** Who could have what a line gives back that it was promised for later, once it is served another way. */
async function freesFor(db: Db, now: Now, facts: RoutingFacts, line: RoutedLine, lifted: Lifted): Promise<RouteChoices['frees']> {
  const after = bookAfterLifting(facts, [{ line: line.id, lifted }]);
  if (!after) return [];
  const plan: RipplePlan = { live: facts.book.live, after, order: line.order_id };
  const offers = rippleOf(plan, []).offers.filter((row) => facts.book.live.demands.get(row.id)!.lineId !== line.id);
  if (offers.length === 0) return [];
  const moved = await describeMoved(db, plan, offers, now.today);
  return moved.map((row) => ({ number: row.number, customer: row.customer, item: row.item, quantity: decimal(Number(row.quantity)), to: row.to }));
}
