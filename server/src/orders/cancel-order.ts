import type { LineId, OrderId, ShipmentId } from '@nockwright/core/ids';
import type { Cause, Dealing } from '@nockwright/contract/history';
import { takeLocks } from '../locks';
import { boundToParts, type LiveBook } from '@nockwright/core/book';
import type { BodyOf } from '@nockwright/contract/shape';
import type { CancellationPreview, orderRoutes, OrderView } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import { bookAfterCancel, type CancellableLine, type CancelWish, decideCancel, givenUp, type LineCut, openQuantity } from '@nockwright/core/orders';
import { sql } from 'kysely';
import { anyOf, type Db, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { loadBook, loadLocked, lockMoving, settleRipple, storeRemains, viewRipple, type RipplePlan } from '../promise';

import { giveUp, loadBoundSupply, touchedBy, poolsOfBound, standingOf } from '../supply';
import { promiseBook } from '@nockwright/core/promise';
import { reviseAcknowledgement } from '../documents';
import { loadLineFacts, loadOrderLines, type LineFacts, type OrderLineRecord } from './load-order';
import { lockReleased, openLine, touchOrder } from './lock-order';
import { readOrder } from './read-order';

type Cancellation = BodyOf<typeof orderRoutes.cancelOrder>;

/** What is cancelled of an order, with its lines as they are stored. */
interface Decided {
  readonly cuts: readonly LineCut[];
  readonly lineOf: ReadonlyMap<number, OrderLineRecord>;
}

/** What a cancellation would free, linked supply, and who waits for the goods. */
export async function previewCancellation(
  db: Db,
  now: CommandContext['now'],
  orderId: OrderId,
  what: { readonly line?: number; readonly quantity?: string; readonly purchases?: Cancellation['purchases'] },
  accept: readonly number[],
): Promise<CancellationPreview> {
  const { cuts, lineOf } = await decideCuts(db, orderId, what, 'query');
  const live = await loadBook(db, now, { items: [...new Set(cuts.map(({ line }) => lineOf.get(line)!.item))], moving: true });
  const bound = await loadBoundSupply(
    db,
    cuts.map(({ line }) => line),
  );
  return {
    lines: cuts.map(({ line, quantity, cut }) => ({
      line,
      lineNo: lineOf.get(line)!.line_no,
      item: lineOf.get(line)!.item,
      quantity,
      frees: cut.promises.map((row) => ({ day: row.day, quantity: row.cut })).sort((a, b) => (a.day < b.day ? -1 : 1)),
    })),
    bound: [
      ...bound.map((row) => ({
        kind: row.kind,
        label: row.label,
        quantity: row.open,
        what: `${row.open} due ${shortDay(row.expected_day, now.today)}, ${standingOf(row)}`,
      })),
      ...cuts.flatMap(({ line, cut }) =>
        cut.picks.map((pick) => ({
          kind: 'pick' as const,
          label: `pick of line ${lineOf.get(line)!.line_no}`,
          quantity: pick.cut,
          what: 'goods return to stock',
        })),
      ),
    ],
    ripple: await viewRipple(db, planOf(live, orderId, cuts, what.purchases ?? 'cancel'), accept, now.today),
  };
}

/**
 * Cancels a released order, a line, or a quantity of a line. What waits goes first, then promises, then drop shipments
 * that have not left, then picks. Purchases bound to what is cancelled are closed for it, or kept and freed for others;
 * a drop shipment is always closed, since it can go to nobody else.
 */
export async function cancelOrder(context: CommandContext, orderId: OrderId, wish: Cancellation): Promise<OrderView> {
  const { trx, now } = context;
  await lockMoving(trx, wish.decision, [orderId]);
  const order = await lockReleased(trx, orderId, wish.version);
  // The order is locked: its lines, and what is picked of them, stand.
  const lines = await loadOrderLines(trx, orderId);
  const ids = lines.map((line) => line.id);
  const bound = await loadBoundSupply(trx, ids);
  const picks = (await loadLineFacts(trx, ids)).picks.map((row) => row.shipment_id);
  await takeLocks(trx, { contractLines: lines.map((line) => line.contract_line_id), ...touchedBy(bound), shipments: picks });
  const items = [...new Set(lines.map((line) => line.item))];
  const pools = [...lines, ...(await poolsOfBound(trx, bound))];
  const live = wish.decision ? await loadLocked(context, items, pools) : null;
  if (!live) await takeLocks(trx, { pools });

  const decided = await decideCuts(trx, orderId, wish, 'body');
  const { cuts, lineOf } = decided;
  const freed = freedBy(live ?? (await loadBook(trx, now, { items })), cuts);
  const facts = {
    number: order.number!,
    cuts: cuts.map(({ line, quantity }) => ({ lineNo: lineOf.get(line)!.line_no, item: lineOf.get(line)!.item, quantity })),
  };
  const cause = { kind: 'order.cancelled' as const, facts: { ...facts, dealt: [] } };
  const dealt = await applyCuts(context, decided, wish.purchases, freed, cause);
  // The goods are free now: those who accepted them can be promised.
  if (live && wish.decision) await settleRipple(context, planOf(live, orderId, cuts, wish.purchases), wish.decision, cause);
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'order.cancelled',
    facts: { ...facts, dealt },
    why: `${wish.reason.replaceAll('_', ' ')}${wish.note ? `: ${wish.note}` : ''}`,
    before: cuts.map(({ line, cut }) => ({
      lineNo: lineOf.get(line)!.line_no,
      cancelled: lineOf.get(line)!.cancelled,
      freed: cut.promises.map((row) => ({ day: row.day, quantity: row.cut })),
    })),
    after: cuts.map(({ line, quantity }) => ({ lineNo: lineOf.get(line)!.line_no, cancelled: plus(lineOf.get(line)!.cancelled, quantity) })),
    subjects: [{ kind: 'order', key: orderId }, ...cuts.map(({ line }) => ({ kind: 'item' as const, key: lineOf.get(line)!.item }))],
  });
  const view = await readOrder(trx, now, orderId);
  await reviseAcknowledgement(context, view);
  return readOrder(trx, now, orderId);
}

async function decideCuts(db: Db, orderId: OrderId, what: CancelWish, place: 'body' | 'query'): Promise<Decided> {
  const lines = await loadOrderLines(db, orderId);
  if (lines.length === 0) throw notFound(`open line on order ${orderId}`);
  const facts = await loadLineFacts(
    db,
    lines.map((line) => line.id),
  );
  const decision = decideCancel(
    lines.map((line) => cancellableLine(line, facts)),
    what,
  );
  if (decision.does === 'refuse') throw decision.field === null ? new Refusal('conflict', decision.why) : invalid(`${place}.${decision.field}`, decision.why);
  return { cuts: decision.cuts, lineOf: new Map(lines.map((line) => [line.id, line])) };
}

function cancellableLine(line: OrderLineRecord, facts: LineFacts): CancellableLine {
  const { id, line_no: lineNo, item, unit, numerator, denominator, reserved } = line;
  const open = openQuantity(line);
  return {
    id,
    lineNo,
    item,
    unit,
    numerator,
    denominator,
    stockUnit: line.stock_unit,
    stockStep: line.stock_step,
    open,
    reserved,
    stands: openLine(line, facts),
  };
}

/** Writes what is cut of lines and deals with what is bound to them; tells what it did with that. */
async function applyCuts(
  context: CommandContext,
  { cuts, lineOf }: Decided,
  purchases: Cancellation['purchases'],
  freed: ReadonlyMap<string, string>,
  cause: Cause,
): Promise<Dealing[]> {
  const { trx } = context;
  // Looked up first: what is bound to a line that ends is anyone's.
  const supplies = await loadBoundSupply(
    trx,
    cuts.map(({ line }) => line),
  );
  const boundTo = (line: number) => supplies.filter((row) => row.order_line_id === line);
  const dealt: Dealing[] = [];
  for (const { line, cut } of cuts) for (const pick of cut.picks) dealt.push(await cutPick(trx, pick.shipment, line, pick.cut));
  await storeCuts(trx, cuts, lineOf);
  for (const { line, cut } of cuts)
    for (const drop of cut.dropShipments) {
      const bound = boundTo(line).find((row) => row.kind === 'drop_ship' && row.id === drop.purchaseLine)!;
      dealt.push(...(await giveUp(context, bound, drop.cut, 'cancel', cause)));
    }
  await forgetPlans(
    trx,
    cuts.filter(({ openAfter }) => compareDecimal(openAfter, '0') === 0).map(({ line }) => line),
  );
  for (const cut of cuts)
    for (const { row, quantity } of givenUp(cut, boundTo(cut.line), freed)) dealt.push(...(await giveUp(context, row, quantity, purchases, cause)));
  return dealt;
}

async function storeCuts(trx: Trx, cuts: readonly LineCut[], lineOf: Decided['lineOf']): Promise<void> {
  await storeRemains(
    trx,
    cuts.flatMap(({ line, cut }) => cut.promises.map(({ day, remains }) => ({ line, day, remains }))),
  );
  const cancelled = cuts.map(({ line, quantity }) => plus(lineOf.get(line)!.cancelled, quantity));
  await sql`update order_line l set cancelled = k.cancelled, reserved = k.reserved
    from unnest(${cuts.map((row) => row.line)}::int[], ${cancelled}::numeric[], ${cuts.map((row) => row.reservedAfter)}::numeric[])
      as k(id, cancelled, reserved)
    where l.id = k.id`.execute(trx);
}

/** Nothing is planned any more for lines that have ended. */
async function forgetPlans(trx: Trx, lines: readonly number[]): Promise<void> {
  if (lines.length > 0) await trx.deleteFrom('line_route').where(anyOf('line_id', lines)).where('purchase_line_id', 'is', null).execute();
}

/** What is bound to lines and their promises rested on that are cancelled, by its name in the book. */
function freedBy(live: LiveBook, cuts: readonly LineCut[]): ReadonlyMap<string, string> {
  const promises = new Map(promiseBook(live.book).promises.map((promise) => [promise.id, promise]));
  return new Map(
    cuts.flatMap(({ line, cut }) => [...boundToParts(live, promises.get(live.demandOfLine.get(line) ?? ''), sum(cut.promises.map((row) => row.cut)))]),
  );
}

async function cutPick(trx: Trx, shipmentId: ShipmentId, lineId: LineId, cut: string): Promise<Dealing> {
  const { number } = await trx.selectFrom('shipment').select('number').where('id', '=', shipmentId).executeTakeFirstOrThrow();
  const { quantity } = await trx
    .selectFrom('shipment_line')
    .select('quantity')
    .where('shipment_id', '=', shipmentId)
    .where('order_line_id', '=', lineId)
    .executeTakeFirstOrThrow();
  const rest = minus(quantity, cut);
  if (compareDecimal(rest, '0') > 0) {
    await trx.updateTable('shipment_line').set({ quantity: rest }).where('shipment_id', '=', shipmentId).where('order_line_id', '=', lineId).execute();
    return { did: 'pick_cut', pick: number, rest, ended: false };
  }
  await trx.deleteFrom('shipment_line').where('shipment_id', '=', shipmentId).where('order_line_id', '=', lineId).execute();
  const left = await trx.selectFrom('shipment_line').select('order_line_id').where('shipment_id', '=', shipmentId).executeTakeFirst();
  if (left) return { did: 'pick_cut', pick: number, rest: null, ended: false };
  await trx.updateTable('shipment').set({ state: 'cancelled' }).where('id', '=', shipmentId).execute();
  return { did: 'pick_cut', pick: number, rest: null, ended: true };
}

/** The plan of a cancellation. Goods of a transfer or an assembly that are given up stay where they are. */
function planOf(live: LiveBook, orderId: OrderId, cuts: readonly LineCut[], purchases: Cancellation['purchases']): RipplePlan {
  const cutOf = new Map(
    cuts.flatMap((row) => {
      const demand = live.demandOfLine.get(row.line);
      return demand ? [[demand, row] as const] : [];
    }),
  );
  const closes = (supply: string) => {
    const kind = live.supplies.get(supply)?.kind;
    return kind === 'transfer' || kind === 'assembly' || (purchases === 'cancel' && kind === 'purchase');
  };
  return { live, after: bookAfterCancel(live.book, cutOf, freedBy(live, cuts), closes), order: orderId };
}
