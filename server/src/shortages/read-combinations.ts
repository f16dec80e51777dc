import type { Combinations } from '@nockwright/contract/shortages';
import type { OrderId } from '@nockwright/core/ids';
import { lineAmount, sum } from '@nockwright/core/money';
import { combineRoutes } from '@nockwright/core/routing';
import { asksCustomer } from '@nockwright/core/shortages';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import type { QueryContext, Services } from '../http/context';
import { bookReading, readBeside } from '../http/whole-book';
import { notFound } from '../http/refusal';
import { loadRoutingFacts } from './load-facts';
import { routeView } from './route-view';

const reading = bookReading('combinations', (db, now, order: OrderId) => combinationsOf(db, now, order));
export const combinationsTask = reading.task;

/** Every line is looked at four times; each takes about a millisecond of the thread. */
const MOST_LINES_HERE = 6;

/** The combinations for an order; those of a long one are computed beside the thread that answers. */
export async function readCombinations(services: Services, context: QueryContext, order: OrderId): Promise<Combinations> {
  const { count } = await context.db
    .selectFrom('order_line')
    .select(({ fn }) => fn.countAll<string>().as('count'))
    .where('order_id', '=', order)
    .executeTakeFirstOrThrow();
  return Number(count) <= MOST_LINES_HERE ? reading.read(context.db, context.now, order) : readBeside(services, context, combinationsTask, order);
}

/** Options for all short lines of an order together, in the sequence of its lines. */
async function combinationsOf(db: Db, now: Now, orderId: OrderId): Promise<Combinations> {
  const order = await db.selectFrom('sales_order').select(['version', 'state', 'currency']).where('id', '=', orderId).executeTakeFirst();
  if (!order) throw notFound(`order ${orderId}`);
  const lines = await db
    .selectFrom('order_line')
    .select('id')
    .where('order_id', '=', orderId)
    .where('alternative', '=', false)
    .whereRef('shipped', '<', ({ eb }) => eb('stock_quantity', '-', eb.ref('cancelled')))
    .orderBy('line_no')
    .execute();
  if (lines.length === 0 || (order.state !== 'draft' && order.state !== 'released')) return { version: order.version, rows: [] };
  const ids = lines.map((line) => line.id);
  const facts = await loadRoutingFacts(db, now, ids);
  const settled = order.state === 'draft' ? await plannedFor(db, ids) : new Map<number, string>();
  return {
    version: order.version,
    rows: combineRoutes(facts, settled).map(({ lines: rows, margin, ...row }) => ({
      ...row,
      margin: lineAmount('1', margin, order.currency),
      rows: rows.map(({ line, quantity, route }) => ({
        line: line.id,
        lineNo: line.line_no,
        item: line.item,
        unit: line.unit,
        quantity,
        route: route && routeView(route, now.today),
        asks: route !== null && asksCustomer(route),
      })),
    })),
  };
}

/** What of a draft's lines has a route; drop shipments are off the schedule. */
async function plannedFor(db: Db, lines: readonly number[]): Promise<ReadonlyMap<number, string>> {
  const rows = await db.selectFrom('line_route').select(['line_id', 'quantity']).where(anyOf('line_id', lines)).where('kind', '<>', 'drop_ship').execute();
  const planned = new Map<number, string>();
  for (const row of rows) planned.set(row.line_id, sum([planned.get(row.line_id) ?? '0', row.quantity]));
  return planned;
}
