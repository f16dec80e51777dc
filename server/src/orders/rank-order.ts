import type { OrderId } from '@nockwright/core/ids';
import { inTurn, type LiveBook, placeEntered, type Turn } from '@nockwright/core/book';
import type { BodyOf } from '@nockwright/contract/shape';
import type { orderRoutes, OrderView } from '@nockwright/contract/orders';
import type { RippleView } from '@nockwright/contract/promise';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { loadBook, loadLocked, lockMoving, settleRipple, viewRipple, type RipplePlan } from '../promise';
import { loadOrder, loadOrderLines } from './load-order';
import { lockReleased, orderLabel, touchOrder } from './lock-order';
import { readOrder } from './read-order';

/** Another class, or a place ahead of a named order. */
export interface TurnWish {
  readonly priority?: number;
  readonly ahead?: number;
}

type Ranking = BodyOf<typeof orderRoutes.rankOrder>;

/** What another turn of an order would do to everyone's promises. */
export async function previewTurn(db: Db, now: Now, orderId: OrderId, wish: TurnWish, accept: readonly number[]): Promise<RippleView> {
  const order = await loadOrder(db, orderId);
  if (order.state !== 'released') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}: only a released order has a priority.`);
  const live = await loadBook(db, now, { items: (await loadOrderLines(db, orderId)).map((line) => line.item), moving: true });
  return viewRipple(db, planOf(live, orderId, order.number!, await newTurns(db, order, wish, 'query')), accept, now.today);
}

/**
 * Gives an order another class, or a place ahead of another order. It takes its turn anew; promises of those behind it
 * that it takes goods from move as was seen and agreed to, and each of those customers is to be told.
 */
export async function rankOrder(context: CommandContext, orderId: OrderId, wish: Ranking): Promise<OrderView> {
  const { trx, now } = context;
  const moved = await ordersNamed(trx, [...(await newTurns(trx, await loadOrder(trx, orderId), wish, 'body')).keys()]);
  await lockMoving(trx, wish.decision, [orderId, ...moved.values(), ...(wish.ahead === undefined ? [] : [wish.ahead])]);
  const order = await lockReleased(trx, orderId, wish.version);
  const live = await loadLocked(
    context,
    (await loadOrderLines(trx, orderId)).map((line) => line.item),
  );
  const turns = await newTurns(trx, order, wish, 'body');
  if ([...turns.keys()].some((number) => !moved.has(number)))
    throw new Refusal('changed', 'Others have changed the sequence meanwhile. Nothing was done: look again, then decide.');
  const facts = { number: order.number!, ...(await turnOf(trx, order, wish)) };
  await settleRipple(context, planOf(live, orderId, order.number!, turns), wish.decision, { kind: 'order.ranked', facts, note: wish.reason });
  for (const [number, { priority, place }] of turns)
    await trx
      .updateTable('sales_order')
      .set({ priority, place: wish.ahead === undefined ? null : String(place) })
      .where('number', '=', number)
      .execute();
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'order.ranked',
    facts,
    why: wish.reason,
    before: { priority: order.priority, place: order.place },
    after: Object.fromEntries(turns),
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}

/** Orders by number. */
async function ordersNamed(trx: Trx, numbers: readonly string[]): Promise<ReadonlyMap<string, number>> {
  const rows = await trx.selectFrom('sales_order').select(['id', 'number']).where(anyOf('number', numbers)).execute();
  return new Map(rows.map((row) => [row.number!, row.id]));
}

function planOf(live: LiveBook, orderId: OrderId, number: string, turns: ReadonlyMap<string, Turn>): RipplePlan {
  const all = new Map([...live.turns, ...turns]);
  return {
    live,
    after: { ...live.book, orders: inTurn(live.book.orders, all) },
    claims: new Set(live.book.demand.filter((row) => row.order === number).map((row) => row.id)),
    order: orderId,
  };
}

interface Ranked {
  readonly id: number;
  readonly number: string | null;
  readonly priority: number;
  readonly entered: string;
}

/** The turns that change, by order number: of the order itself, and of those it needs room before. */
async function newTurns(db: Db, order: Ranked, wish: TurnWish, where: 'query' | 'body'): Promise<ReadonlyMap<string, Turn>> {
  if ((wish.priority === undefined) === (wish.ahead === undefined)) throw invalid(where, 'expected either a priority or an order to stand ahead of (ahead)');
  if (wish.priority !== undefined) return new Map([[order.number!, { priority: wish.priority, place: placeEntered(order.entered) }]]);
  if (wish.ahead === order.id) throw invalid(`${where}.ahead`, 'an order cannot stand ahead of itself');
  return placeAhead(db, order, wish.ahead!, where);
}

const PLACE = sql<number>`coalesce(place, floor(extract(epoch from entered) / 60))::float8`;

/** The place just ahead of another order, behind all that have their turn before that one. */
async function placeAhead(db: Db, order: Ranked, other: number, where: 'query' | 'body'): Promise<ReadonlyMap<string, Turn>> {
  const target = await db
    .selectFrom('sales_order')
    .select(['number', 'state', 'priority', PLACE.as('place')])
    .where('id', '=', other)
    .executeTakeFirst();
  if (!target) throw notFound(`order ${other}`);
  if (target.state !== 'released') throw invalid(`${where}.ahead`, `order ${other} is ${target.state}: it has no place in the sequence`);
  const queue = db.selectFrom('sales_order').where('state', '=', 'released').where('priority', '=', target.priority).where('id', '<>', order.id);
  const before = await queue
    .select(({ fn }) => fn.max(PLACE).as('place'))
    .where(({ eb, or, and }) => or([eb(PLACE, '<', target.place), and([eb(PLACE, '=', target.place), eb('number', '<', target.number!)])]))
    .executeTakeFirstOrThrow();
  const previous = before.place ?? target.place - 1;
  const middle = (previous + target.place) / 2;
  const priority = target.priority;
  if (previous < middle && middle < target.place) return new Map([[order.number!, { priority, place: middle }]]);

  // No room between the two: those of the same place, from the target on, step back a little.
  const { next } = await queue
    .select(({ fn }) => fn.min(PLACE).as('next'))
    .where(PLACE, '>', target.place)
    .executeTakeFirstOrThrow();
  const tied = await queue.select('number').where(PLACE, '=', target.place).where('number', '>=', target.number!).orderBy('number').execute();
  const step = ((next ?? target.place + 1) - target.place) / (tied.length + 2);
  return new Map([order, ...tied].map((row, at) => [row.number!, { priority, place: target.place + step * (at + 1) }]));
}

async function turnOf(db: Db, order: Ranked, wish: TurnWish) {
  if (wish.priority !== undefined) return { turn: { priority: wish.priority, was: order.priority }, ahead: null };
  const { number } = await db.selectFrom('sales_order').select('number').where('id', '=', wish.ahead!).executeTakeFirstOrThrow();
  return { turn: null, ahead: number };
}
