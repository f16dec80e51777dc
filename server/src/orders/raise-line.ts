import type { BodyOf } from '@nockwright/contract/shape';
import type { orderRoutes, OrderView, RaisePreview } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { compareDecimal, minus, plus } from '@nockwright/core/money';
import type { LinePrice } from '@nockwright/core/pricing';
import { beyondLeft } from '@nockwright/core/orders';
import { promiseBook, ripple } from '@nockwright/core/promise';
import { stepFault, toStockingUnits } from '@nockwright/core/units';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { lockContractLines } from '../pricing';
import { decimal, loadBook, loadLocked, lockMoving, promiseMore, settleRipple, viewRipple, type LiveBook, type RipplePlan } from '../promise';
import { checkOwed, owedBefore } from './check-owed';
import { reviseAcknowledgement } from '../documents';
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
export async function previewRaise(db: Db, now: Now, orderId: number, lineId: number, quantity: string, claim: boolean): Promise<RaisePreview> {
  const line = await findLine(db, orderId, lineId);
  const stock = checkRaise(line, quantity, 'query');
  await checkContract(db, line, stock, 'query', now.today);
  await checkLeft(db, line, stock, 'query', now.today);
  const order = await loadOrder(db, orderId);
  const price = await raisedPrice(db, order, line, { quantity, stock_quantity: stock }, now.today);
  // What claims its turn moves others, and all that may move is judged by the suppliers' days; what only takes what is free is promised surely.
  const live = await loadBook(db, now, claim ? { items: [line.item], moving: true } : { items: [line.item], surely: orderId });
  const plan = planOf(live, line, stock, claim, orderId);
  const { schedule, uncovered } = plannedLine(plan);
  return {
    price: price?.price ?? line.price,
    priceSource: price?.source ?? line.price_source,
    schedule: partsByDay(schedule),
    uncovered: decimal(uncovered),
    ripple: claim ? { ...(await viewRipple(db, plan, [], now.today)), offers: [] } : { later: [], earlier: [], offers: [] },
  };
}

/** Raises the quantity of a released line, at the price agreed. What cannot be promised of it waits. */
export async function raiseLine(context: CommandContext, orderId: number, lineId: number, wish: Raise): Promise<OrderView> {
  const { trx, now } = context;
  await lockMoving(trx, wish.decision, [orderId]);
  const order = await lockReleased(trx, orderId, wish.version);
  const owed = await owedBefore(context, [orderId]);
  const line = await findLine(trx, orderId, lineId);
  const stock = checkRaise(line, wish.quantity, 'body');
  await lockContractLines(trx, [line.contract_line_id]);
  await checkContract(trx, line, stock, 'body', now.today);
  const price = await raisedPrice(trx, order, line, { quantity: wish.quantity, stock_quantity: stock }, now.today);
  const live = await loadLocked(context, [line.item]);
  await checkLeft(trx, line, stock, 'body', now.today);
  const plan = planOf(live, line, stock, wish.claim, orderId);
  await trx
    .updateTable('order_line')
    .set({
      quantity: wish.quantity,
      stock_quantity: stock,
      ...(price ? { price: price.price, price_source: price.source, price_trail: JSON.stringify(price.trail) } : {}),
    })
    .where('id', '=', lineId)
    .execute();
  const what = `line ${line.line_no} (${line.item}) raised to ${wish.quantity} ${line.unit}, was ${line.quantity}${price ? `, at ${price.price} (${price.source}), was ${line.price}` : ''}`;
  if (wish.claim) {
    await settleRipple(context, plan, wish.decision, `order ${order.number}: ${what}`);
    const { schedule } = plannedLine(plan);
    await trx.deleteFrom('line_promise').where('line_id', '=', lineId).execute();
    if (schedule.length > 0)
      await trx
        .insertInto('line_promise')
        .values(schedule.map((part) => ({ line_id: lineId, day: part.date, quantity: decimal(part.quantity) })))
        .execute();
  } else await promiseMore(context, line);
  await checkOwed(context, owed);
  await touchOrder(context, orderId);
  await recordEvent(context, {
    what,
    before: { quantity: line.quantity, price: line.price },
    after: { quantity: wish.quantity, price: price?.price ?? line.price },
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'item', key: line.item },
    ],
  });
  const view = await readOrder(trx, now, orderId);
  await reviseAcknowledgement(context, view);
  return readOrder(trx, now, orderId);
}

function planOf(live: LiveBook, line: OrderLineRecord, stock: string, claim: boolean, order: number): RipplePlan {
  const more = Number(minus(stock, line.stock_quantity));
  const id = live.demandOfLine.get(line.id);
  if (id === undefined) throw invalid('path.line', `nothing of line ${line.line_no} is open any more: enter a new line`);
  const demand = live.book.demand.map((row) => (row.id === id ? { ...row, quantity: Math.round((row.quantity + more) * 10_000) / 10_000 } : row));
  return { live, after: { ...live.book, demand }, claims: new Set(claim ? [id] : []), order };
}

/** How the raised line stands when it is done. */
function plannedLine({ live, after, claims }: RipplePlan) {
  const raised = after.demand.find((row, at) => row.quantity !== live.book.demand[at]!.quantity)!.id;
  if (claims!.size > 0) return ripple(live.book, after, claims).claimed[0]!;
  return promiseBook(after).promises.find((row) => row.id === raised)!;
}

/** Kept and new parts of a day are one promise. */
function partsByDay(schedule: readonly { readonly date: string; readonly quantity: number }[]): RaisePreview['schedule'] {
  const byDay = new Map<string, string>();
  for (const { date, quantity } of schedule) byDay.set(date, plus(byDay.get(date) ?? '0', decimal(quantity)));
  return [...byDay].map(([day, quantity]) => ({ day, quantity }));
}

async function findLine(db: Db, orderId: number, lineId: number): Promise<OrderLineRecord> {
  const line = (await loadOrderLines(db, orderId)).find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on order ${orderId}`);
  return line;
}

/** The price the greater quantity reaches, where that is lower than the one agreed: a break of a list. Null: as agreed. */
async function raisedPrice(
  db: Db,
  order: Parameters<typeof lookUpPrices>[1],
  line: OrderLineRecord,
  raised: Pick<OrderLineRecord, 'quantity' | 'stock_quantity'>,
  today: string,
): Promise<LinePrice | null> {
  if (line.price_pin?.kind === 'manual' || line.contract_line_id !== null) return null;
  const [part, ...more] = (await lookUpPrices(db, order, [{ ...line, ...raised }], today)).get(line.id)!;
  return more.length === 0 && part!.price.contractLine === null && compareDecimal(part!.price.price, line.price) < 0 ? part!.price : null;
}

/** What is raised is bought at the price agreed: under its contract, as long as that is in force and has enough left. */
async function checkContract(db: Db, line: OrderLineRecord, stock: string, where: 'query' | 'body', today: string) {
  if (line.contract_line_id === null) return;
  const { most, used, last_day, number } = await db
    .selectFrom('contract_line')
    .innerJoin('contract', 'contract.id', 'contract_line.contract_id')
    .select(['most', 'used', 'contract.last_day', 'contract.number'])
    .where('contract_line.id', '=', line.contract_line_id)
    .executeTakeFirstOrThrow();
  if (last_day < today)
    throw invalid(`${where}.quantity`, `contract ${number} ended ${shortDay(last_day, today)}: order more as a line of its own, at the price of today`);
  if (most === null) return;
  const left = minus(most, used);
  if (compareDecimal(minus(stock, line.stock_quantity), left) > 0)
    throw invalid(
      `${where}.quantity`,
      `${line.price_source} has ${left} ${line.stock_unit} left: raise it by at most that, and order the rest as a line of its own`,
    );
}

/** What is no longer made is sold as long as there is some of it. */
async function checkLeft(db: Db, line: OrderLineRecord, stock: string, where: 'query' | 'body', today: string) {
  const item = await db.selectFrom('item').select(['code', 'unit', 'discontinued', 'successor']).where('code', '=', line.item).executeTakeFirstOrThrow();
  if (!item.discontinued) return;
  const left = (await loadLeft(db, [item.code], today)).get(item.code) ?? '0';
  const beyond = beyondLeft({ ...item, left }, minus(stock, line.stock_quantity));
  if (beyond !== null) throw invalid(`${where}.quantity`, beyond);
}

function checkRaise(line: OrderLineRecord, quantity: string, where: 'query' | 'body'): string {
  if (compareDecimal(quantity, line.quantity) <= 0)
    throw invalid(`${where}.quantity`, `expected more than the ${line.quantity} ${line.unit} ordered, got ${quantity}; to order less, cancel a part`);
  const parts = stepFault(quantity, line.unit, line.unit_step);
  if (parts !== null) throw invalid(`${where}.quantity`, parts);
  const stock = toStockingUnits(quantity, line);
  if (stock === null) throw invalid(`${where}.quantity`, `${quantity} ${line.unit} is no exact number of ${line.stock_unit}`);
  return stock;
}
