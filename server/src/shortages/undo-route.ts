import type { ItemCode, LineId, OrderId, RouteId } from '@nockwright/core/ids';
import type { Dealing } from '@nockwright/contract/history';
import { takeLocks } from '../locks';
import { poolsFor, sureFor } from '@nockwright/core/routing';
import { openQuantity } from '@nockwright/core/orders';
import type { OrderView } from '@nockwright/contract/orders';
import type { Undoing } from '@nockwright/contract/shortages';
import { compareDecimal, least, minus, plus, sum } from '@nockwright/core/money';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { reviseAcknowledgement } from '../documents';
import {
  checkOwed,
  loadLineFacts,
  loadOrderLines,
  loadOrderLinesById,
  lockOrder,
  orderLabel,
  owedBefore,
  readOrder,
  touchOrder,
  type OrderLineRecord,
} from '../orders';
import { callThoseLater, loadBook, toldParts } from '../promise';
import { boughtBeside, giveUp, loadBoundSupply, touchedBy, poolsOfBound, standingOf, type BoundSupply } from '../supply';
import { loadRoutingFacts } from './load-facts';
import { promiseAnew } from './promise-anew';
import { promisedWithout, standingOn, takeBackPromises, toldSince } from './undo-promises';
import { loadRoute, type RouteRow } from './load-route';

/** What taking a route back would do and take, or why it cannot be. */
export async function previewUndo(db: Db, now: Now, orderId: OrderId, lineId: LineId, routeId: RouteId): Promise<Undoing> {
  const route = await loadRoute(db, orderId, lineId, routeId);
  const bound = await boundTo(db, route);
  const [order] = await db.selectFrom('sales_order').select('state').where('id', '=', orderId).execute();
  const line = (await loadOrderLines(db, orderId)).find((row) => row.id === lineId)!;
  const after = order?.state === 'released' ? await promisedWithout(db, now, route, line, bound) : null;
  return { ...undoing(route, bound, await newLineOf(db, route), bound ? await boughtBeside(db, bound) : null), after };
}

/**
 * Takes a route back as long as nothing has left the house: what was bought is struck off the draft, or closed at the
 * supplier, or kept for others; what was to be brought over stays; components go back; what was cut or replaced is owed
 * again. The line then gets what stock and known supply give, and waits for the rest; a customer who was told a day that
 * is not kept so is to be called.
 */
export async function undoRoute(context: CommandContext, orderId: OrderId, lineId: LineId, routeId: RouteId, supplier?: 'cancel' | 'keep'): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockOrder(trx, orderId);
  if (order.state !== 'draft' && order.state !== 'released') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}.`);
  const owed = await owedBefore(context, [orderId]);
  const known = await loadRoute(trx, orderId, lineId, routeId);
  const before = await boundTo(trx, known);
  const given = before ? [before] : [];
  await takeLocks(trx, touchedBy(given));
  const facts = await loadRoutingFacts(trx, now, [lineId]);
  await takeLocks(trx, { pools: [...poolsFor(facts, facts.lines.get(lineId)!), ...(await poolsOfBound(trx, given))] });

  const route = await loadRoute(trx, orderId, lineId, routeId);
  const bound = await boundTo(trx, route);
  const newLine = await newLineOf(trx, route);
  const { barred, asksSupplier } = undoing(route, bound, newLine, null);
  if (barred.length > 0) throw new Refusal('conflict', barred.join(' '));
  if (asksSupplier && supplier === undefined) throw invalid('body.supplier', 'the supplier has the order: cancel it with them, or keep the goods for others');
  const line = (await loadOrderLines(trx, orderId)).find((row) => row.id === lineId)!;
  const dealt: Dealing[] = [];
  const what = { lineNo: line.line_no, item: line.item, kind: route.kind, quantity: route.quantity };
  const cause = { kind: 'route.undone' as const, facts: { ...what, dealt: [] } };
  const told = (await toldParts(trx, [lineId])).get(lineId) ?? [];
  if (bound) {
    const quantity = least(route.quantity, bound.open);
    if (order.state === 'released' && bound.kind !== 'drop_ship') {
      const live = await loadBook(trx, now, { items: [line.item] });
      await takeBackPromises(context, line, standingOn(live, line, bound, quantity));
    }
    dealt.push(...(await giveUp(context, bound, quantity, supplier ?? 'cancel', cause)));
  }
  if (newLine) await dropLine(context, newLine);
  if (order.state === 'released' && (route.kind === 'cut' || route.kind === 'substitute'))
    await trx
      .updateTable('order_line')
      .set({ cancelled: minus(line.cancelled, least(route.quantity, line.cancelled)) })
      .where('id', '=', lineId)
      .execute();
  await trx.deleteFrom('line_route').where('id', '=', routeId).execute();
  if (order.state === 'released') {
    await promiseAnew(context, (of) => sureFor(facts, of), await loadOrderLinesById(trx, [lineId]));
    // Who has heard nothing since knows what they were told before the route: back to that, there is nothing to tell.
    const knows = route.told_before !== null && !(await toldSince(trx, route, orderId)) ? route.told_before : told;
    await callThoseLater(context, [{ order: orderId, line: lineId, item: line.item, told: knows, givenUp: '0' }], cause);
  }
  await checkOwed(context, owed);
  await touchOrder(context, orderId);
  await recordUndone(context, line, bound, { ...what, dealt });
  const view = await readOrder(trx, now, orderId);
  await reviseAcknowledgement(context, view);
  return readOrder(trx, now, orderId);
}

function recordUndone(
  context: CommandContext,
  line: OrderLineRecord,
  bound: BoundSupply | null,
  facts: Pick<RouteRow, 'kind' | 'quantity'> & { readonly lineNo: number; readonly item: ItemCode; readonly dealt: readonly Dealing[] },
) {
  return recordEvent(context, {
    kind: 'route.undone',
    facts,
    before: { kind: facts.kind, quantity: facts.quantity },
    subjects: [
      { kind: 'order', key: line.order_id },
      { kind: 'item', key: line.item },
      ...(bound && bound.kind !== 'transfer' && bound.kind !== 'assembly' ? [{ kind: 'purchase' as const, key: bound.document }] : []),
    ],
  });
}

/** What the route has led to and is not done. */
async function boundTo(db: Db, route: RouteRow): Promise<BoundSupply | null> {
  const id = route.purchase_line_id ?? route.transfer_line_id ?? route.assembly_id;
  if (id === null) return null;
  const kinds = route.purchase_line_id !== null ? ['purchase', 'drop_ship'] : route.transfer_line_id !== null ? ['transfer'] : ['assembly'];
  return (await loadBoundSupply(db, [route.line_id])).find((row) => row.id === id && kinds.includes(row.kind)) ?? null;
}

interface NewLine {
  readonly record: OrderLineRecord;
  readonly picked: string;
}

async function newLineOf(db: Db, route: RouteRow): Promise<NewLine | null> {
  if (route.new_line_id === null) return null;
  const [record] = await loadOrderLinesById(db, [route.new_line_id]);
  const facts = await loadLineFacts(db, [route.new_line_id]);
  return record ? { record, picked: sum(facts.picks.map((pick) => pick.quantity)) } : null;
}

function undoing(route: RouteRow, bound: BoundSupply | null, newLine: NewLine | null, beside: string | null): Omit<Undoing, 'after'> {
  const led = route.purchase_line_id !== null || route.transfer_line_id !== null || route.assembly_id !== null;
  const barred: string[] = [];
  const does: string[] = [];
  if (led && !bound) barred.push(route.kind === 'drop_ship' ? 'It has left the supplier.' : 'All of it has come in: cancel the quantity, or let it ship.');
  if (newLine && compareDecimal(newLine.record.shipped, '0') > 0) barred.push(`${newLine.record.shipped} ${newLine.record.item} have left the house.`);
  if (newLine && compareDecimal(newLine.picked, '0') > 0) barred.push(`${newLine.record.item} is being picked: return the pick to stock first.`);
  if (bound) {
    const come = minus(route.quantity, bound.open);
    if (compareDecimal(come, '0') > 0) does.push(`${come} have come in already and stay with the line`);
    does.push(`${bound.label}: ${standingOf(bound)}`);
    if (beside !== null) does.push(bound.state === 'draft' ? `${beside} for stock go off the draft with it` : `${beside} for stock come in all the same`);
  }
  if (newLine) does.push(`line ${newLine.record.line_no} (${newLine.record.item}) is cancelled`);
  if (route.kind === 'cut' || route.kind === 'substitute') does.push(`${route.quantity} are open again`);
  else does.push(`${route.quantity} get what stock and known supply give, and wait for the rest`);
  const asksSupplier = bound?.kind === 'purchase' && bound.state !== 'draft';
  return { does, asksSupplier, barred };
}

/** The line that went instead is cancelled, its promises with it. */
async function dropLine({ trx }: CommandContext, { record }: NewLine): Promise<void> {
  await trx.deleteFrom('line_promise').where('line_id', '=', record.id).execute();
  await trx.deleteFrom('line_route').where('line_id', '=', record.id).where('kind', '=', 'backorder').execute();
  const open = openQuantity(record);
  await trx
    .updateTable('order_line')
    .set({ cancelled: plus(record.cancelled, open), reserved: '0' })
    .where('id', '=', record.id)
    .execute();
}
