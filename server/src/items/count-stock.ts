import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import { type LiveBook } from '@nockwright/core/book';
import type { BodyOf } from '@nockwright/contract/shape';
import type { stockRoutes } from '@nockwright/contract/items';
import type { RippleView } from '@nockwright/contract/promise';
import { compareDecimal, least, minus, plus, sum } from '@nockwright/core/money';
import type { BookSupply } from '@nockwright/core/promise';
import { takeLots, withLot, type LotGoods } from '@nockwright/core/supply';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { decimal, loadBook, loadLocked, lockMoving, settleRipple, viewRipple, type RipplePlan } from '../promise';

type Count = BodyOf<typeof stockRoutes.countStock>;
type Counted = Pick<Count, 'warehouse' | 'counted' | 'place'>;

const NOBODY = { later: [], earlier: [], offers: [] };

/** Whose promises a corrected count would move. */
export async function previewCount(db: Db, now: Now, item: ItemCode, count: Counted, accept: readonly number[]): Promise<RippleView> {
  const { difference, status, expires } = await compareWithBooks(db, item, count, 'query');
  if (status === 'quarantine') return NOBODY;
  return previewChange(
    db,
    now,
    { item, warehouse: count.warehouse, change: difference, field: 'query.counted', ...(expires === undefined ? {} : { expires }) },
    accept,
  );
}

/**
 * Corrects what is on hand to what was counted, of all that may be sold or of one place, with a reason. Promises that lose
 * their goods by it move as was seen, or wait; what is more is offered to those who wait. What stands in quarantine is
 * promised to nobody.
 */
export async function countStock(context: CommandContext, item: ItemCode, count: Count): Promise<{ onHand: string }> {
  const { trx, now } = context;
  const { warehouse, counted, reason, cause = 'other', decision } = count;
  await lockMoving(trx, decision);
  const live = await loadLocked(context, [item]);
  const { books, difference, status, bin, lot, expires } = await compareWithBooks(trx, item, count, 'body');
  if (compareDecimal(difference, '0') === 0) throw invalid('body.counted', `${counted} is what is on hand already`);
  const correct = () =>
    trx
      .insertInto('stock_movement')
      .values({ at: now.instant, item, warehouse, quantity: difference, kind: 'count', reference: reason, status, bin, lot, reason: cause })
      .execute();
  const facts = { item, warehouse, place: { bin, lot, status }, counted, books };
  if (status === 'quarantine') await correct();
  else {
    const plan = planOfChange(live, { item, warehouse, change: difference, field: 'body.counted', ...(expires === undefined ? {} : { expires }) });
    await settleRipple(context, plan, decision, { kind: 'stock.counted', facts, note: reason }, correct);
  }
  await recordEvent(context, {
    kind: 'stock.counted',
    facts,
    why: reason,
    before: { onHand: books },
    after: { onHand: counted, cause },
    subjects: [{ kind: 'item', key: item }],
  });
  return { onHand: await onHandOf(trx, item, warehouse) };
}

/** More or less goods on hand that may be promised. */
export interface StockChange {
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  /** Below 0: less. */
  readonly change: string;
  /** What a refusal names. */
  readonly field: string;
  /** The last day of the lot it is of; absent where it is of no lot in particular. */
  readonly expires?: string | null;
}

/** Whose promises would move by it. */
export async function previewChange(db: Db, now: Now, change: StockChange, accept: readonly number[]): Promise<RippleView> {
  const live = await loadBook(db, now, { items: [change.item], moving: true });
  return viewRipple(db, planOfChange(live, change), accept, now.today);
}

/** More of the free goods on hand, or less of them. What is set aside stands on the shelf: no less than that can be left. */
export function planOfChange(live: LiveBook, { item, warehouse, change, field, expires }: StockChange): RipplePlan {
  const onShelf = live.book.supply.filter((row) => row.item === item && row.warehouse === warehouse && row.date === undefined);
  const free = onShelf.filter((row) => row.for === undefined);
  const lots: readonly LotGoods[] = free.map((row) => ({ expires: row.expires ?? null, quantity: decimal(row.quantity) }));
  const left = plus(sum(lots.map((lot) => lot.quantity)), change);
  if (compareDecimal(left, '0') < 0) {
    const aside = sum(onShelf.filter((row) => row.for !== undefined).map((row) => decimal(row.quantity)));
    throw invalid(field, `${aside} are set aside for picks, transfers and special orders: put back or cancel some of that first, then count`);
  }
  const others = live.book.supply.filter((row) => !free.includes(row));
  const goods = changeLots(lots, change, expires, live.book.asOf.slice(0, 10)).map(({ expires: last, quantity }): BookSupply => {
    const id = `ON-HAND/${item}/${warehouse}${last ? `/${last}` : ''}`;
    return { id, item, warehouse, quantity: Number(quantity), ...(last ? { expires: last } : {}) };
  });
  return { live, after: { ...live.book, supply: [...others, ...goods] } };
}

/** Free goods with more or less of a lot; what a lot does not have of it free is taken as goods leave, first expired first out. */
function changeLots(lots: readonly LotGoods[], change: string, expires: string | null | undefined, today: string): readonly LotGoods[] {
  if (compareDecimal(change, '0') > 0) return withLot(lots, expires ?? null, change);
  const wanted = minus('0', change);
  const there = lots.find((lot) => lot.expires === (expires ?? null))?.quantity ?? '0';
  const own = expires === undefined ? '0' : least(there, wanted);
  return takeLots(withLot(lots, expires ?? null, minus('0', own)), minus(wanted, own), today).left;
}

/** What the books say of what was counted, and by how much the count differs. */
async function compareWithBooks(db: Db, item: ItemCode, { warehouse, counted, place }: Counted, at: 'query' | 'body') {
  const known = await db.selectFrom('warehouse').select('code').where('code', '=', warehouse).executeTakeFirst();
  if (!known) throw invalid(`${at}.warehouse`, `there is no warehouse ${warehouse}`);
  const thing = await db.selectFrom('item').select('code').where('code', '=', item).executeTakeFirst();
  if (!thing) throw notFound(`item ${item}`);
  if (place === undefined) {
    const books = await onHandOf(db, item, warehouse);
    return { books, difference: minus(counted, books), status: 'available' as const, bin: null, lot: null, expires: undefined };
  }
  const row = await db
    .selectFrom('stock_place')
    .leftJoin('item_lot', (join) => join.onRef('item_lot.item', '=', 'stock_place.item').onRef('item_lot.lot', '=', 'stock_place.lot'))
    .selectAll('stock_place')
    .select('item_lot.expires')
    .where('id', '=', place)
    .where('stock_place.item', '=', item)
    .where('warehouse', '=', warehouse)
    .executeTakeFirst();
  if (!row) throw invalid(`${at}.place`, `nothing of ${item} stands in place ${place} at ${warehouse}`);
  if (compareDecimal(counted, row.allocated) < 0)
    throw invalid(`${at}.counted`, `${row.allocated} are allocated to picks: report at the pick what is missing, then count`);
  return { books: row.quantity, difference: minus(counted, row.quantity), status: row.status, bin: row.bin, lot: row.lot, expires: row.expires };
}

async function onHandOf(db: Db, item: ItemCode, warehouse: WarehouseCode): Promise<string> {
  const stock = await db.selectFrom('stock').select('on_hand').where('item', '=', item).where('warehouse', '=', warehouse).executeTakeFirst();
  return stock?.on_hand ?? '0';
}
