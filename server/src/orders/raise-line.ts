import type { LineId, OrderId } from '@nockwright/core/ids';
import { takeLocks } from '../locks';
import type { orderRoutes, OrderView, RaisePreview } from '@nockwright/contract/orders';
import type { BodyOf } from '@nockwright/contract/shape';
import { bookAfterRaise, raisedPromise, type LiveBook } from '@nockwright/core/book';
import { plus } from '@nockwright/core/money';
import { decideRaise, raisedStock, type RaiseDecision, type RaiseFacts } from '@nockwright/core/orders';
import type { Now } from '../clock';
import type { Db, Trx } from '../database';
import { reviseAcknowledgement } from '../documents';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';

import { decimal, loadBook, loadLocked, lockMoving, promiseMore, settleRipple, storePromises, viewRipple, type RipplePlan } from '../promise';
import { checkOwed, owedBefore } from './check-owed';
import { loadLeft } from './draft-line';
import { loadOrder, loadOrderLines, type OrderLineRecord } from './load-order';
import { lockReleased, touchOrder } from './lock-order';
import { lookUpPrices } from './look-up-prices';
import { readOrder } from './read-order';

type Raise = BodyOf<typeof orderRoutes.raiseLine>;

/**
 * What a greater quantity of a released line would be promised: of what is free, or, where it claims its turn, also of
 * what those behind it were promised.
 */
export async function previewRaise(db: Db, now: Now, orderId: OrderId, lineId: LineId, quantity: string, claim: boolean): Promise<RaisePreview> {
  const line = await findLine(db, orderId, lineId);
  const raise = await decide(db, await loadOrder(db, orderId), line, quantity, now.today, 'query');
  // What claims its turn moves others, and all that may move is judged by the suppliers' days; what only takes what is free is promised surely.
  const live = await loadBook(db, now, claim ? { items: [line.item], moving: true } : { items: [line.item], surely: orderId });
  const { plan, demand } = planOf(live, line, raise.more, claim, orderId);
  const { schedule, uncovered } = raisedPromise(live, plan.after, demand, claim);
  return {
    price: raise.price?.price ?? line.price,
    priceSource: raise.price?.source ?? line.price_source,
    schedule: partsByDay(schedule),
    uncovered: decimal(uncovered),
    ripple: claim ? { ...(await viewRipple(db, plan, [], now.today)), offers: [] } : { later: [], earlier: [], offers: [] },
  };
}

/** Raises the quantity of a released line, at the price agreed. What cannot be promised of it waits. */
export async function raiseLine(context: CommandContext, orderId: OrderId, lineId: LineId, wish: Raise): Promise<OrderView> {
  const { trx, now } = context;
  await lockMoving(trx, wish.decision, [orderId]);
  const order = await lockReleased(trx, orderId, wish.version);
  const owed = await owedBefore(context, [orderId]);
  const line = await findLine(trx, orderId, lineId);
  await takeLocks(trx, { contractLines: [line.contract_line_id] });
  const live = await loadLocked(context, [line.item]);
  const raise = await decide(trx, order, line, wish.quantity, now.today, 'body');
  const { plan, demand } = planOf(live, line, raise.more, wish.claim, orderId);
  await store(trx, line, wish.quantity, raise);
  const price = raise.price ? { price: raise.price.price, source: raise.price.source, was: line.price } : null;
  const facts = { lineNo: line.line_no, item: line.item, quantity: wish.quantity, unit: line.unit, was: line.quantity, price };
  if (wish.claim) {
    await settleRipple(context, plan, wish.decision, { kind: 'line.raised', facts, order: order.number! });
    await promiseAsPlanned(context, lineId, raisedPromise(live, plan.after, demand, true).schedule);
  } else await promiseMore(context, line);
  await checkOwed(context, owed);
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'line.raised',
    facts,
    before: { quantity: line.quantity, price: line.price },
    after: { quantity: wish.quantity, price: raise.price?.price ?? line.price },
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'item', key: line.item },
    ],
  });
  await reviseAcknowledgement(context, await readOrder(trx, now, orderId));
  return readOrder(trx, now, orderId);
}

type Raised = Extract<RaiseDecision, { readonly ok: true }>;

/** Loads what decides about it, and decides; refused at the quantity. */
async function decide(
  db: Db,
  order: Parameters<typeof lookUpPrices>[1],
  record: OrderLineRecord,
  quantity: string,
  today: string,
  where: 'query' | 'body',
): Promise<Raised> {
  const line = { ...record, fixed: record.price_pin?.kind === 'manual' || record.contract_line_id !== null };
  const asked = raisedStock(line, quantity);
  if (!asked.ok) throw invalid(`${where}.quantity`, asked.why);
  const item = await db.selectFrom('item').select(['code', 'unit', 'discontinued', 'successor']).where('code', '=', line.item).executeTakeFirstOrThrow();
  const left = item.discontinued ? ((await loadLeft(db, [item.code], today)).get(item.code) ?? '0') : null;
  const raised = { ...record, quantity, stock_quantity: asked.stock };
  const decided = decideRaise(
    {
      line,
      contract: await loadContract(db, record.contract_line_id),
      item: { ...item, left },
      prices: line.fixed ? [] : ((await lookUpPrices(db, order, [raised], today)).get(record.id) ?? []),
    },
    quantity,
    today,
  );
  if (!decided.ok) throw invalid(`${where}.quantity`, decided.why);
  return decided;
}

async function loadContract(db: Db, contractLine: number | null): Promise<RaiseFacts['contract']> {
  if (contractLine === null) return null;
  return db
    .selectFrom('contract_line')
    .innerJoin('contract', 'contract.id', 'contract_line.contract_id')
    .select(['most', 'used', 'contract.last_day as lastDay', 'contract.number'])
    .where('contract_line.id', '=', contractLine)
    .executeTakeFirstOrThrow();
}

function planOf(live: LiveBook, line: OrderLineRecord, more: string, claim: boolean, order: number): { readonly plan: RipplePlan; readonly demand: string } {
  const demand = live.demandOfLine.get(line.id);
  const after = bookAfterRaise(live, demand, Number(more));
  if (demand === undefined || after === null) throw invalid('path.line', `nothing of line ${line.line_no} is open any more: enter a new line`);
  return { plan: { live, after, claims: new Set(claim ? [demand] : []), order }, demand };
}

async function store(trx: Trx, line: OrderLineRecord, quantity: string, { stock, price }: Raised): Promise<void> {
  await trx
    .updateTable('order_line')
    .set({
      quantity,
      stock_quantity: stock,
      ...(price ? { price: price.price, price_source: price.source, price_trail: JSON.stringify(price.trail) } : {}),
    })
    .where('id', '=', line.id)
    .execute();
}

/** What it holds after its turn, in place of all it was promised. */
async function promiseAsPlanned(context: CommandContext, line: number, schedule: ReturnType<typeof raisedPromise>['schedule']): Promise<void> {
  await context.trx.deleteFrom('line_promise').where('line_id', '=', line).execute();
  await storePromises(
    context,
    schedule.map((part) => ({ lineId: line, day: part.date, quantity: decimal(part.quantity) })),
  );
}

/** Kept and new parts of a day are one promise. */
function partsByDay(schedule: readonly { readonly date: string; readonly quantity: number }[]): RaisePreview['schedule'] {
  const byDay = new Map<string, string>();
  for (const { date, quantity } of schedule) byDay.set(date, plus(byDay.get(date) ?? '0', decimal(quantity)));
  return [...byDay].map(([day, quantity]) => ({ day, quantity }));
}

async function findLine(db: Db, orderId: OrderId, lineId: LineId): Promise<OrderLineRecord> {
  const line = (await loadOrderLines(db, orderId)).find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on order ${orderId}`);
  return line;
}
