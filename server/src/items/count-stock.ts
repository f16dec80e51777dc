import type { BodyOf } from '@nockwright/contract/shape';
import type { itemRoutes, ItemPage } from '@nockwright/contract/items';
import type { RippleView } from '@nockwright/contract/promise';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import type { BookSupply } from '@nockwright/core/promise';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { decimal, loadBook, loadLocked, lockMoving, settleRipple, viewRipple, type LiveBook, type RipplePlan } from '../promise';
import { readItem } from './read-item';

type Count = BodyOf<typeof itemRoutes.countStock>;

/** Whose promises a corrected count would move. */
export async function previewCount(db: Db, now: Now, item: string, warehouse: string, counted: string, accept: readonly number[]): Promise<RippleView> {
  const onHand = await findStock(db, item, warehouse, 'query');
  const live = await loadBook(db, now, { items: [item], moving: true });
  checkSetAside(live, item, warehouse, counted, 'query');
  return viewRipple(db, planOf(live, item, warehouse, minus(counted, onHand)), accept, now.today);
}

/**
 * Corrects what is on hand to what was counted, with a reason. Promises that lose their goods by it move as was seen,
 * or wait; what is more is offered to those who wait.
 */
export async function countStock(context: CommandContext, item: string, { warehouse, counted, reason, decision }: Count): Promise<ItemPage> {
  const { trx, now } = context;
  await lockMoving(trx, decision);
  const live = await loadLocked(context, [item]);
  const onHand = await findStock(trx, item, warehouse, 'body');
  checkSetAside(live, item, warehouse, counted, 'body');
  const difference = minus(counted, onHand);
  if (compareDecimal(difference, '0') === 0) throw invalid('body.counted', `${counted} is what is on hand already`);
  const correct = () =>
    trx.insertInto('stock_movement').values({ at: now.instant, item, warehouse, quantity: difference, kind: 'count', reference: reason }).execute();
  await settleRipple(context, planOf(live, item, warehouse, difference), decision, `count of ${item} at ${warehouse}: ${reason}`, correct);
  await recordEvent(context, {
    what: `counted ${item} at ${warehouse}: ${counted}, the books said ${onHand}`,
    why: reason,
    before: { onHand },
    after: { onHand: counted },
    subjects: [{ kind: 'item', key: item }],
  });
  return readItem(trx, now, item);
}

/** What is on hand by the books. */
async function findStock(db: Db, item: string, warehouse: string, where: 'query' | 'body'): Promise<string> {
  const place = await db.selectFrom('warehouse').select('code').where('code', '=', warehouse).executeTakeFirst();
  if (!place) throw invalid(`${where}.warehouse`, `there is no warehouse ${warehouse}`);
  const known = await db.selectFrom('item').select('code').where('code', '=', item).executeTakeFirst();
  if (!known) throw notFound(`item ${item}`);
  const stock = await db.selectFrom('stock').select('on_hand').where('item', '=', item).where('warehouse', '=', warehouse).executeTakeFirst();
  return stock?.on_hand ?? '0';
}

/** What is set aside for a line, by a pick or because it was bought for it, stands on the shelf: a count cannot be less. */
function checkSetAside({ book }: LiveBook, item: string, warehouse: string, counted: string, where: 'query' | 'body') {
  const aside = book.supply.filter((row) => row.item === item && row.warehouse === warehouse && row.date === undefined && row.for !== undefined);
  const setAside = sum(aside.map((row) => decimal(row.quantity)));
  if (compareDecimal(counted, setAside) < 0)
    throw invalid(`${where}.counted`, `${setAside} are set aside for picks and special orders: put back or cancel some of that first, then count`);
}

/** More of the free goods on hand, or less of them; what is set aside stays. */
function planOf(live: LiveBook, item: string, warehouse: string, difference: string): RipplePlan {
  const id = `ON-HAND/${item}/${warehouse}`;
  const free = live.book.supply.find((row) => row.id === id);
  const left = plus(free ? decimal(free.quantity) : '0', difference);
  const others = live.book.supply.filter((row) => row.id !== id);
  const supply: BookSupply[] = compareDecimal(left, '0') > 0 ? [...others, { id, item, warehouse, quantity: Number(left) }] : others;
  return { live, after: { ...live.book, supply } };
}
