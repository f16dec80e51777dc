import type { CustomerId, LineId, OrderId } from '@nockwright/core/ids';
import type { orderRoutes, OrderView } from '@nockwright/contract/orders';
import type { BodyOf } from '@nockwright/contract/shape';
import type { RouteWish } from '@nockwright/contract/shortages';
import { compareDecimal, sum } from '@nockwright/core/money';
import { allWays, decideDraftRoute, type DraftRoute, type DraftStanding } from '@nockwright/core/routing';
import { anyOf, type Db } from '../database';
import { changedSince, recordEvents } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { changeLine, changeOrder, loadOrderLines, lockOrder, orderLabel, readOrder, removeLine, touchOrder, type OrderLineRecord } from '../orders';
import { insertSubstitute } from './insert-substitute';
import { loadRoutingFacts } from './load-facts';
import { routeLines } from './route-lines';
import { routeColumns } from './store-routing';

export interface RouteChosen {
  readonly parts: readonly RouteWish[];
  /** Of a released order as it was looked at. */
  readonly version?: number;
  /** The customer has said yes to it, and need not be told. */
  readonly agreed?: boolean;
  /** The day they said yes to. */
  readonly by?: string;
}

/**
 * Routes a quantity (stocking units) of a line over up to three ways. On a draft a route is a plan, carried out on
 * release; what is cut or replaced there is changed at once. On a released order all is carried out at once.
 */
export async function chooseRoute(
  context: CommandContext,
  orderId: OrderId,
  lineId: LineId,
  { parts, version, agreed = false, by }: RouteChosen,
): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockOrder(trx, orderId);
  if (order.state !== 'draft' && order.state !== 'released') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}.`);
  const line = (await loadOrderLines(trx, orderId)).find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on this order`);
  if (order.state === 'released' && version !== undefined && version !== order.version)
    throw new Refusal('conflict', `${orderLabel(order)} has changed since it was looked at.`);
  if (order.state === 'draft') await routeDraft(context, orderId, [{ line, parts, field: 'body.parts', ...(by ? { by } : {}) }]);
  else {
    const { left } = await routeLines(context, [{ line: lineId, parts, ...(by ? { by } : {}) }], { agreed });
    if (left.length > 0) throw invalid('body.parts', left[0]!.why);
  }
  return readOrder(trx, now, orderId);
}

/**
 * Gives several lines of an order their options in one act; all or none. `complete`: a draft leaves complete from now on.
 * Each takes what those before it leave.
 */
export async function routeOrder(
  context: CommandContext,
  orderId: OrderId,
  { version, complete = false, choices }: BodyOf<typeof orderRoutes.routeOrder>,
): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockOrder(trx, orderId);
  if (order.version !== version)
    throw await changedSince(trx, { kind: 'order', key: orderId, label: orderLabel(order), given: version, current: order.version });
  if (order.state !== 'draft' && order.state !== 'released') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}.`);
  const lines = new Map((await loadOrderLines(trx, orderId)).map((line) => [line.id, line]));
  for (const [at, { line }] of choices.entries()) {
    if (!lines.has(line)) throw invalid(`body.choices[${at}].line`, `${line} is no line of this order`);
    if (choices.findIndex((other) => other.line === line) < at) throw invalid(`body.choices[${at}].line`, `line ${lines.get(line)!.line_no} stands twice`);
  }
  if (order.state === 'released') {
    if (complete) throw invalid('body.complete', 'only a draft is made to ship complete');
    const { left } = await routeLines(context, choices);
    if (left.length > 0) throw new Refusal('conflict', left.map((row) => `Line ${lines.get(row.line)!.line_no}: ${row.why}`).join('. '));
    return readOrder(trx, now, orderId);
  }
  if (complete && !order.ship_complete) await changeOrder(context, orderId, { version, shipComplete: true });
  await routeDraft(
    context,
    orderId,
    choices.map(({ line, parts }, at) => ({ line: lines.get(line)!, parts, field: `body.choices[${at}].parts` })),
  );
  return readOrder(trx, now, orderId);
}

interface DraftChoice extends Pick<RouteChosen, 'parts' | 'by'> {
  readonly line: OrderLineRecord;
  /** Where its parts stand in the request. */
  readonly field: string;
}

/** Routes lines of a draft: what is cut or replaced is no longer ordered, all else is planned. */
async function routeDraft(context: CommandContext, orderId: OrderId, choices: readonly DraftChoice[]): Promise<void> {
  const { trx, now } = context;
  const ids = choices.map(({ line }) => line.id);
  const facts = await loadRoutingFacts(trx, now, ids);
  const ways = allWays(facts);
  const standing = await loadStanding(trx, ids, facts.lines.get(ids[0]!)!.customer_id);
  const decisions = choices.map(({ line, parts, by, field }) => {
    const decision = decideDraftRoute(facts, facts.lines.get(line.id)!, { parts, ...(by ? { by } : {}) }, standing(line.id), ways);
    if (!decision.ok) throw invalid(`${field}${decision.field}`, `line ${line.line_no}: ${decision.why}`);
    return { line, decision };
  });
  const plans = decisions.flatMap(({ line, decision }) =>
    decision.plans.map(({ part, unitCost, workDays }) => ({ line_id: line.id, ...routeColumns(part), unit_cost: unitCost, work_days: workDays })),
  );
  if (plans.length > 0) await trx.insertInto('line_route').values(plans).execute();
  await touchOrder(context, orderId);
  await recordEvents(
    context,
    choices.map(({ line, parts }) => ({
      kind: 'route.planned',
      facts: { lineNo: line.line_no, item: line.item, parts },
      after: parts,
      subjects: [
        { kind: 'order', key: orderId },
        { kind: 'item', key: line.item },
      ],
    })),
  );
  for (const { line, decision } of decisions) await lessen(context, orderId, line, decision);
}

async function loadStanding(db: Db, lines: readonly LineId[], customer: CustomerId): Promise<(line: LineId) => DraftStanding> {
  const planned = await db.selectFrom('line_route').select(['line_id', 'quantity']).where(anyOf('line_id', lines)).execute();
  const addresses = (await db.selectFrom('ship_to').select('id').where('customer_id', '=', customer).execute()).map((row) => row.id);
  return (line) => ({ planned: sum(planned.filter((row) => row.line_id === line).map((row) => row.quantity)), addresses });
}

/** Takes what is cut of a draft's line off it, and adds what goes instead. */
async function lessen(context: CommandContext, orderId: OrderId, line: OrderLineRecord, { replaced, quantity }: DraftRoute<RouteWish>): Promise<void> {
  const { trx } = context;
  if (quantity === null) return;
  const whole = compareDecimal(quantity, '0') === 0;
  for (const { part, ratio } of replaced) await insertSubstitute(context, line, part.item!, part.quantity, ratio, whole ? null : line.id);
  if (whole) {
    await removeLine(context, orderId, line.id);
    return;
  }
  const kept = await trx.selectFrom('line_route').selectAll().where('line_id', '=', line.id).execute();
  const { version } = await trx.selectFrom('sales_order').select('version').where('id', '=', orderId).executeTakeFirstOrThrow();
  await changeLine(context, orderId, line.id, { version, quantity });
  // The line is for less; what was routed of it stays as it was.
  if (kept.length > 0)
    await trx
      .insertInto('line_route')
      .values(kept.map(({ id: _, told_before: told, ...row }) => ({ ...row, told_before: told && JSON.stringify(told) })))
      .execute();
}
