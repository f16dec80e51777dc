import type { BodyOf } from '@nockwright/contract/shape';
import type { CancellationPreview, orderRoutes, OrderView } from '@nockwright/contract/orders';
import { compareDecimal, least, minus, plus, sum } from '@nockwright/core/money';
import { cutLine, type Cut } from '@nockwright/core/orders';
import { stepFault, toStockingUnits } from '@nockwright/core/units';
import { sql } from 'kysely';
import { anyOf, type Db, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import {
  boundToParts,
  decimal,
  loadBook,
  loadLocked,
  lockMoving,
  lockPools,
  lockShipments,
  settleRipple,
  storeRemains,
  viewRipple,
  type LiveBook,
  type RipplePlan,
} from '../promise';
import { lockContractLines } from '../pricing';
import { beyondNeed, giveUp, loadBoundSupply, lockBoundSupply, poolsOfBound, standingOf, type BoundSupply } from '../supply';
import { lessOf, promiseBook, type BookDemand, type BookSupply } from '@nockwright/core/promise';
import { reviseAcknowledgement } from '../documents';
import { loadLineFacts, loadOrderLines, type OrderLineRecord } from './load-order';
import { lockReleased, openLine, touchOrder } from './lock-order';
import { readOrder } from './read-order';

type Cancellation = BodyOf<typeof orderRoutes.cancelOrder>;

interface LineCut {
  readonly line: OrderLineRecord;
  readonly quantity: string;
  readonly cut: Cut;
  /** What suppliers still ship of it when that is done. */
  readonly stillDropped: string;
}

/** What a cancellation would free, what hangs on it, and who waits for the goods. */
export async function previewCancellation(
  db: Db,
  now: CommandContext['now'],
  orderId: number,
  what: { readonly line?: number; readonly quantity?: string; readonly purchases?: Cancellation['purchases'] },
  accept: readonly number[],
): Promise<CancellationPreview> {
  const cuts = await decideCuts(db, orderId, what, 'query');
  const live = await loadBook(db, now, { items: [...new Set(cuts.map(({ line }) => line.item))], moving: true });
  const bound = await loadBoundSupply(
    db,
    cuts.map((row) => row.line.id),
  );
  return {
    lines: cuts.map(({ line, quantity, cut }) => ({
      line: line.id,
      lineNo: line.line_no,
      item: line.item,
      quantity,
      frees: cut.promises.map((row) => ({ day: row.day, quantity: row.cut })).sort((a, b) => (a.day < b.day ? -1 : 1)),
    })),
    bound: [
      ...bound.map((row) => ({ kind: row.kind, label: row.label, quantity: row.open, what: `${row.open} due ${row.expected_day}, ${standingOf(row)}` })),
      ...cuts.flatMap(({ line, cut }) =>
        cut.picks.map((pick) => ({ kind: 'pick' as const, label: `pick of line ${line.line_no}`, quantity: pick.cut, what: 'goods go back to the shelf' })),
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
export async function cancelOrder(context: CommandContext, orderId: number, wish: Cancellation): Promise<OrderView> {
  const { trx, now } = context;
  await lockMoving(trx, wish.decision, [orderId]);
  const order = await lockReleased(trx, orderId, wish.version);
  await lockContractLines(
    trx,
    (await loadOrderLines(trx, orderId)).map((line) => line.contract_line_id),
  );
  const ids = (await loadOrderLines(trx, orderId)).map((line) => line.id);
  const bound = await loadBoundSupply(trx, ids);
  await lockBoundSupply(trx, bound);
  await lockShipments(
    trx,
    (await loadLineFacts(trx, ids)).picks.map((row) => row.shipment_id),
  );
  const items = [...new Set((await loadOrderLines(trx, orderId)).map((line) => line.item))];
  const pools = [...(await loadOrderLines(trx, orderId)), ...(await poolsOfBound(trx, bound))];
  const live = wish.decision ? await loadLocked(context, items, pools) : null;
  if (!live) await lockPools(trx, pools);

  const cuts = await decideCuts(trx, orderId, wish, 'body');
  const freed = freedBy(live ?? (await loadBook(trx, now, { items })), cuts);
  const dealt = await applyCuts(context, cuts, wish.purchases, freed);
  // The goods are free now: those who accepted them can be promised.
  if (live && wish.decision) await settleRipple(context, planOf(live, orderId, cuts, wish.purchases), wish.decision, `freed by order ${order.number}`);
  await touchOrder(context, orderId);
  await recordEvent(context, {
    what: `cancelled ${cuts.map(({ line, quantity }) => `${quantity} of line ${line.line_no} (${line.item})`).join(', ')} of order ${order.number}${dealt.length > 0 ? `; ${dealt.join('; ')}` : ''}`,
    why: `${wish.reason.replaceAll('_', ' ')}${wish.note ? `: ${wish.note}` : ''}`,
    before: cuts.map(({ line, cut }) => ({
      lineNo: line.line_no,
      cancelled: line.cancelled,
      freed: cut.promises.map((row) => ({ day: row.day, quantity: row.cut })),
    })),
    after: cuts.map(({ line, quantity }) => ({ lineNo: line.line_no, cancelled: plus(line.cancelled, quantity) })),
    subjects: [{ kind: 'order', key: orderId }, ...cuts.map(({ line }) => ({ kind: 'item' as const, key: line.item }))],
  });
  const view = await readOrder(trx, now, orderId);
  await reviseAcknowledgement(context, view);
  return readOrder(trx, now, orderId);
}

async function decideCuts(db: Db, orderId: number, what: { readonly line?: number; readonly quantity?: string }, place: 'body' | 'query'): Promise<LineCut[]> {
  const lines = await loadOrderLines(db, orderId);
  if (lines.length === 0) throw notFound(`open line on order ${orderId}`);
  const chosen = what.line === undefined ? lines : lines.filter((line) => line.id === what.line);
  if (chosen.length === 0) throw invalid(`${place}.line`, `there is no line ${what.line} on this order`);
  if (what.quantity !== undefined && what.line === undefined) throw invalid(`${place}.quantity`, 'a quantity is cancelled of one line: name it');
  const facts = await loadLineFacts(
    db,
    lines.map((line) => line.id),
  );
  const cuts: LineCut[] = [];
  for (const line of chosen) {
    const open = openLine(line, facts);
    const left = minus(minus(line.stock_quantity, line.shipped), line.cancelled);
    const quantity = what.quantity === undefined ? left : toStockingUnits(what.quantity, line);
    if (quantity === null) throw invalid(`${place}.quantity`, `${what.quantity} ${line.unit} is no exact number of ${line.stock_unit}`);
    const parts = what.quantity === undefined ? null : stepFault(quantity, line.stock_unit, line.stock_step);
    if (parts !== null) throw invalid(`${place}.quantity`, parts);
    if (compareDecimal(quantity, '0') === 0) continue;
    const result = cutLine(open, quantity);
    if (!result.ok) throw invalid(`${place}.quantity`, `${quantity} ${line.stock_unit} is more than the ${result.most} still open on line ${line.line_no}`);
    const dropped = minus(sum(open.dropShipments.map((row) => row.quantity)), sum(result.cut.dropShipments.map((row) => row.cut)));
    cuts.push({ line, quantity, cut: result.cut, stillDropped: dropped });
  }
  if (cuts.length === 0) throw new Refusal('conflict', 'Nothing of it is open: it is shipped or cancelled already.');
  return cuts;
}

/** Writes what is cut of lines and deals with what is bound to them; tells what it did with that. */
async function applyCuts(
  context: CommandContext,
  cuts: readonly LineCut[],
  purchases: Cancellation['purchases'],
  freed: ReadonlyMap<string, string>,
): Promise<string[]> {
  const { trx } = context;
  // Looked up first: what is bound to a line that ends is anyone's.
  const supplies = await loadBoundSupply(
    trx,
    cuts.map(({ line }) => line.id),
  );
  const boundTo = (line: OrderLineRecord) => supplies.filter((row) => row.order_line_id === line.id);
  const dealt: string[] = [];
  for (const { line, cut } of cuts) for (const pick of cut.picks) dealt.push(await cutPick(trx, pick.shipment, line.id, pick.cut));
  await storeCuts(trx, cuts);
  for (const { line, cut } of cuts)
    for (const drop of cut.dropShipments) {
      const bound = boundTo(line).find((row) => row.kind === 'drop_ship' && row.id === drop.purchaseLine)!;
      dealt.push(...(await giveUp(context, bound, drop.cut, 'cancel', BY_CUSTOMER)));
    }
  await forgetPlans(
    trx,
    cuts.filter((cut) => compareDecimal(openAfter(cut), '0') === 0).map(({ line }) => line.id),
  );
  for (const cut of cuts)
    for (const [row, surplus] of givenUp(cut, boundTo(cut.line), freed)) dealt.push(...(await giveUp(context, row, surplus, purchases, BY_CUSTOMER)));
  return dealt;
}

const BY_CUSTOMER = 'cancelled by the customer';

function openAfter({ line, quantity }: LineCut): string {
  return minus(minus(minus(line.stock_quantity, line.shipped), line.cancelled), quantity);
}

async function storeCuts(trx: Trx, cuts: readonly LineCut[]): Promise<void> {
  await storeRemains(
    trx,
    cuts.flatMap(({ line, cut }) => cut.promises.map(({ day, remains }) => ({ line: line.id, day, remains }))),
  );
  const rows = cuts.map((cut) => ({ id: cut.line.id, cancelled: plus(cut.line.cancelled, cut.quantity), reserved: least(cut.line.reserved, openAfter(cut)) }));
  await sql`update order_line l set cancelled = k.cancelled, reserved = k.reserved
    from unnest(${rows.map((row) => row.id)}::int[], ${rows.map((row) => row.cancelled)}::numeric[], ${rows.map((row) => row.reserved)}::numeric[])
      as k(id, cancelled, reserved)
    where l.id = k.id`.execute(trx);
}

/** Nothing is planned any more for lines that have ended. */
async function forgetPlans(trx: Trx, lines: readonly number[]): Promise<void> {
  if (lines.length > 0) await trx.deleteFrom('line_route').where(anyOf('line_id', lines)).where('purchase_line_id', 'is', null).execute();
}

/** How much of what is bound to a line goes: what the parts rested on that are cancelled, and what is beyond all that is left. */
function givenUp(cut: LineCut, bound: readonly BoundSupply[], freed: ReadonlyMap<string, string>): readonly (readonly [BoundSupply, string])[] {
  const open = openAfter(cut);
  const given = new Map(bound.map((row) => [row, row.kind === 'drop_ship' ? '0' : least(freed.get(row.name) ?? '0', row.open)]));
  const rest = bound.map((row) => ({ was: row, ...row, open: minus(row.open, given.get(row)!) }));
  for (const { row, surplus } of beyondNeed(rest, minus(minus(open, cut.stillDropped), least(cut.line.reserved, open)))) {
    const { was } = rest.find((other) => other === row)!;
    given.set(was, plus(given.get(was)!, surplus));
  }
  return [...given].filter(([, surplus]) => compareDecimal(surplus, '0') > 0);
}

/** What is bound to lines and their promises rested on that are cancelled, by its name in the book. */
function freedBy(live: LiveBook, cuts: readonly LineCut[]): ReadonlyMap<string, string> {
  const promises = new Map(promiseBook(live.book).promises.map((promise) => [promise.id, promise]));
  return new Map(
    cuts.flatMap(({ line, cut }) => [...boundToParts(live, promises.get(live.demandOfLine.get(line.id) ?? ''), sum(cut.promises.map((row) => row.cut)))]),
  );
}

async function cutPick(trx: Trx, shipmentId: number, lineId: number, cut: string): Promise<string> {
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
    return `pick ${number} lowered to ${rest}`;
  }
  await trx.deleteFrom('shipment_line').where('shipment_id', '=', shipmentId).where('order_line_id', '=', lineId).execute();
  const left = await trx.selectFrom('shipment_line').select('order_line_id').where('shipment_id', '=', shipmentId).executeTakeFirst();
  if (left) return `line taken off pick ${number}`;
  await trx.updateTable('shipment').set({ state: 'cancelled' }).where('id', '=', shipmentId).execute();
  return `pick ${number} cancelled`;
}

/** The book with what is cancelled taken out: its promises, and what was bought for it closed or freed for anyone. */
function planOf(live: LiveBook, orderId: number, cuts: readonly LineCut[], purchases: Cancellation['purchases']): RipplePlan {
  const cutOf = new Map(cuts.map((row) => [live.demandOfLine.get(row.line.id), row]));
  const freed = freedBy(live, cuts);
  const freedOf = (id: string) => sum(live.book.supply.flatMap((row) => (row.for === id ? (freed.get(row.id) ?? []) : [])));
  const demand = live.book.demand.flatMap((row): BookDemand[] => {
    const found = cutOf.get(row.id);
    if (!found) return [row];
    // What the supplier would have shipped is not in the book: only what stays of the warehouse's part counts here.
    const dropped = sum(found.cut.dropShipments.map((drop) => drop.cut));
    const quantity = minus(decimal(row.quantity), minus(found.quantity, dropped));
    if (compareDecimal(quantity, '0') <= 0) return [];
    let standing = freedOf(row.id);
    const promised = found.cut.promises.reduce(
      (parts, { day, cut, remains }) =>
        parts.flatMap((part) => {
          if (part.date !== day) return [part];
          const stood = least(standing, least(cut, decimal(part.boundQuantity ?? part.quantity)));
          standing = minus(standing, stood);
          return compareDecimal(remains, '0') > 0 ? [lessOf(part, Number(remains), Number(stood))] : [];
        }),
      row.promised ?? [],
    );
    return [{ ...row, quantity: Number(quantity), promised }];
  });
  const open = new Map(demand.map((row) => [row.id, decimal(row.quantity)]));
  const supply = live.book.supply.flatMap((row): BookSupply[] => {
    if (row.for === undefined || !cutOf.has(row.for)) return [row];
    const { for: target, ...free } = row;
    const needed = open.get(target) ?? '0';
    const kept = least(needed, minus(decimal(row.quantity), freed.get(row.id) ?? '0'));
    open.set(target, minus(needed, kept));
    const surplus = minus(decimal(row.quantity), kept);
    const kind = live.supplies.get(row.id)?.kind;
    // Goods of a transfer or an assembly stay where they are.
    const closes = kind === 'transfer' || kind === 'assembly' || (purchases === 'cancel' && kind === 'purchase');
    return [
      ...(compareDecimal(kept, '0') > 0 ? [{ ...row, quantity: Number(kept) }] : []),
      ...(compareDecimal(surplus, '0') > 0 && !closes ? [{ ...free, id: `${row.id}/freed`, quantity: Number(surplus) }] : []),
    ];
  });
  return { live, after: { ...live.book, demand, supply }, order: orderId };
}
