import type { RoutePlan } from '@nockwright/contract/shortages';
import { roundMoney } from '@nockwright/core/money';
import { bookAfterLifting, planRouting } from '@nockwright/core/routing';
import type { PolicyName } from '@nockwright/core/shortages';
import type { Now } from '../clock';
import type { Db } from '../database';
import type { QueryContext, Services } from '../http/context';
import { bookReading, readBeside } from '../http/whole-book';
import { viewRipple } from '../promise';
import { loadRoutingFacts } from './load-facts';
import { routeView } from './route-view';

export interface WantedPlan {
  readonly lines: readonly number[];
  readonly policy?: PolicyName;
  readonly accept: readonly number[];
}

const planReading = bookReading('planOfRoutes', (db, now, { lines, ...how }: WantedPlan) => planRoutes(db, now, lines, how));
export const planOfRoutesTask = planReading.task;

/** The ways of so many lines are looked at in the thread that answers; each takes about a millisecond of it. */
const MOST_LINES_HERE = 20;

/** The plan for some lines; that for many is computed beside the thread that answers. */
export function readPlan(services: Services, context: QueryContext, wanted: WantedPlan): Promise<RoutePlan> {
  return wanted.lines.length <= MOST_LINES_HERE ? planReading.read(context.db, context.now, wanted) : readBeside(services, context, planOfRoutesTask, wanted);
}

const NOBODY = { later: [], earlier: [], offers: [] };

/**
 * The best way for each of many lines, in the sequence of their orders: each chooses from what those before it leave, and
 * purchases of one supplier for one warehouse are one. With what that makes and what it frees for others.
 */
export async function planRoutes(
  db: Db,
  now: Now,
  lineIds: readonly number[],
  { policy: wanted, accept = [] }: { readonly policy?: PolicyName; readonly accept?: readonly number[] },
): Promise<RoutePlan> {
  const facts = await loadRoutingFacts(db, now, lineIds);
  const { rows, gathered, asks, liftings } = planRouting(facts, wanted);
  const after = bookAfterLifting(facts, liftings);
  return {
    rows: rows.map(({ line, quantity, route, takesBack }) => ({
      line: line.id,
      order: line.order_id,
      version: line.version,
      number: line.number ?? '',
      lineNo: line.line_no,
      customer: line.customer,
      item: line.item,
      unit: line.unit,
      quantity,
      route: route && routeView(route, now.today),
      takesBack,
    })),
    gathered: gathered.map((row) => ({ ...row, value: roundMoney(row.value, facts.desk.currency) })),
    asks,
    without: rows.filter((row) => row.route === null).length,
    ripple: after ? await viewRipple(db, { live: facts.book.live, after }, accept, now.today) : NOBODY,
  };
}
