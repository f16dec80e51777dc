import type { FactsOf } from '@nockwright/contract/history';
import { takeLocks } from '../locks';
import type { StockPlace, stockRoutes } from '@nockwright/contract/items';
import type { RippleView } from '@nockwright/contract/promise';
import type { BodyOf } from '@nockwright/contract/shape';
import { compareDecimal, minus } from '@nockwright/core/money';
import type { Now } from '../clock';
import type { Db, Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { loadLocked, lockMoving, settleRipple } from '../promise';
import { planOfChange, previewChange } from './count-stock';
import { placeSerials, takeSerials } from '../serials';
import { checkBin, listPlaces } from './stock-places';

type Move = BodyOf<typeof stockRoutes.moveGoods>;

/** Whose promises would move if goods went into quarantine, or came out of it. */
export async function previewMove(
  db: Db,
  now: Now,
  placeId: number,
  { quantity, status }: Pick<Move, 'quantity'> & { readonly status: 'available' | 'quarantine' },
  accept: readonly number[],
): Promise<RippleView> {
  const place = await findPlace(db, placeId);
  if (status === place.status) return { later: [], earlier: [], offers: [] };
  const change = status === 'quarantine' ? `-${quantity}` : quantity;
  return previewChange(db, now, { item: place.item, warehouse: place.warehouse, change, field: 'query.quantity', expires: place.expires }, accept);
}

/**
 * Puts goods of a place into another bin, into quarantine, or back among what may be sold. What goes into quarantine is
 * lost to promises, as a count would show it; what comes back is offered to those who wait.
 */
export async function moveGoods(context: CommandContext, placeId: number, move: Move): Promise<StockPlace[]> {
  const { trx, now } = context;
  const { quantity, decision, note = '', cause = 'other' } = move;
  const known = await findPlace(trx, placeId);
  const { item, warehouse, lot } = known;
  const status = move.status ?? known.status;
  const bin = move.bin ?? known.bin;
  if (status === known.status && bin === known.bin) throw invalid('body', 'expected another bin or another status');
  if (bin !== known.bin && bin !== '') await checkBin(trx, warehouse, bin, 'body.bin');
  const moves = status !== known.status;
  if (moves && context.user.role === 'warehouse' && status === 'available')
    throw new Refusal('not-allowed', 'Whether goods are fit to be sold again is the desk’s to decide.');
  if (moves) await lockMoving(trx, decision);
  const live = moves ? await loadLocked(context, [item]) : null;
  if (!live) await takeLocks(trx, { pools: [{ item, warehouse }] });
  const place = await findPlace(trx, placeId);
  if (compareDecimal(quantity, place.quantity) > 0) throw invalid('body.quantity', `${quantity} is more than the ${place.quantity} that stand there`);
  const free = minus(place.quantity, place.allocated);
  if (compareDecimal(quantity, free) > 0)
    throw new Refusal(
      'conflict',
      `${place.allocated} of the ${place.quantity} are allocated to picks. Move ${free} or fewer, or report at the pick what is wrong.`,
    );
  const pieces = await takeSerials(trx, { place: placeId, quantity, whole: place.quantity === quantity, serials: move.serials, today: now.today });
  const book = async () => {
    const row = {
      at: now.instant,
      item,
      warehouse,
      lot,
      reference: note || cause.replace('_', ' '),
      reason: cause,
      kind: moves ? ('adjustment' as const) : ('move' as const),
    };
    const out = { ...row, quantity: `-${quantity}`, status: known.status, bin: known.bin };
    const into = { ...row, quantity, status, bin };
    // Within one bin to another the goods are never gone: what comes is booked first.
    for (const values of moves ? [out, into] : [into, out]) await trx.insertInto('stock_movement').values(values).execute();
    await placeSerials(context, [{ item, warehouse, status, lot, bin, serials: pieces, reference: note || cause.replace('_', ' ') }], 'placed');
  };
  const facts: FactsOf<'goods.moved'> = { item, warehouse, quantity, from: { bin: known.bin, lot, status: known.status }, to: moves ? status : 'bin', bin };
  if (live) {
    const change = status === 'quarantine' ? `-${quantity}` : quantity;
    const plan = planOfChange(live, { item, warehouse, change, field: 'body.quantity', expires: known.expires });
    await settleRipple(context, plan, decision ?? { accept: [], seen: [] }, { kind: 'goods.moved', facts, note }, book);
  } else await book();
  await recordEvent(context, {
    kind: 'goods.moved',
    facts,
    why: note || (moves ? cause.replace('_', ' ') : ''),
    subjects: [{ kind: 'item', key: item }],
  });
  return listPlaces(trx, now, { item, warehouse });
}

async function findPlace(db: Db | Trx, placeId: number) {
  const place = await db
    .selectFrom('stock_place')
    .leftJoin('item_lot', (join) => join.onRef('item_lot.item', '=', 'stock_place.item').onRef('item_lot.lot', '=', 'stock_place.lot'))
    .selectAll('stock_place')
    .select('item_lot.expires')
    .where('id', '=', placeId)
    .executeTakeFirst();
  if (!place) throw notFound(`place ${placeId}`);
  return place;
}
