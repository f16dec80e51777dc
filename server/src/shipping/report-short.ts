import { bookAfterLoss, type LiveBook } from '@nockwright/core/book';
import type { OrderId, WarehouseCode } from '@nockwright/core/ids';
import { compareDecimal, least, minus, sum, type Quantity } from '@nockwright/core/money';
import { shortWords, type ShortReason } from '@nockwright/core/shipping';
import type { ConsignmentView } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import { type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { takeLocks, touchOrders } from '../locks';
import { describeMoved, loadBook, loadLocked, movesOf, rippleOf, settleMoves, type RipplePlan } from '../promise';
import { findPlaces, storeParts } from './load-places';
import { lockWhole, touchConsignment } from './lock-consignment';
import { consignmentOfPart } from './pick';
import { loadConsignment, readConsignment, type Consignment } from './read-consignment';
import type { PartRow } from './load-consignment';
import { readyLines } from './ready-lines';

/** How a stock movement names why goods are not where they should be. */
const REASONS = { missing: 'lost', damaged: 'damaged', wrong_bin: 'mixed_up', no_lot: 'mixed_up' } as const;

/**
 * Less is in a bin than is to be picked. The books say so from now on; the promises that rested on it move as the engine decides, each with
 * a call to be made; where other goods are free for the line they are allocated in its place, at once.
 */
export async function reportShort(
  context: CommandContext,
  partId: number,
  { found, why }: { readonly found: Quantity; readonly why: ShortReason },
): Promise<{ readonly words: string; readonly consignment: ConsignmentView }> {
  const { trx, now } = context;
  const id = await consignmentOfPart(trx, partId);
  const first = partIn(await loadConsignment(trx, id), partId);
  // Orders come first in the lock order: whose promises it would move is looked at before anything is locked.
  const others = await ordersMoved(context, first, found);
  await takeLocks(trx, { orders: [...others, ...(await ordersOf(trx, id))] });
  await lockWhole(trx, [id]);
  const live = await loadLocked(context, [first.item]);
  const consignment = await loadConsignment(trx, id);
  const part = partIn(consignment, partId);
  const shipment = consignment.shipments.find((row) => row.id === part.shipment)!;
  if (shipment.state !== 'picking') throw new Refusal('conflict', `Shipment ${shipment.number} is ${shipment.state} already.`);
  if (compareDecimal(found, part.quantity) >= 0) throw invalid('body.found', `${found} are all that is to be picked`);
  if (compareDecimal(found, part.packed) < 0) throw invalid('body.found', `${part.packed} are packed already: take them out of the carton first`);

  const missing = minus(part.quantity, found);
  const plan = planOf(live, part, missing);
  const moves = movesOf(plan, movedBy(plan));
  const locked = new Set([...others, shipment.order]);
  if (moves.some(({ info }) => !locked.has(info.orderId)))
    throw new Refusal('changed', 'Other orders have become tied to these goods meanwhile. Nothing was done: try again.');
  const facts = { number: shipment.number, item: part.item, quantity: missing, bin: part.bin, lot: part.lot, why };
  const names = await describeMoved(trx, plan, movedBy(plan), now.today);
  await settleMoves(context, moves, { kind: 'pick.short', facts }, () => bookLoss(context, consignment, part, missing, why));
  const instead = await replace(context, part, consignment.head.warehouse, shipment.order, missing);
  await closeEmpty(trx, part);
  await touchConsignment(trx, id);
  await touchOrders(context, [shipment.order]);
  await recordEvent(context, {
    kind: 'pick.short',
    facts,
    after: { instead },
    subjects: [
      { kind: 'order', key: shipment.order },
      { kind: 'shipment', key: shipment.id },
      { kind: 'item', key: part.item },
    ],
  });
  const words = shortWords({
    item: part.item,
    missing,
    instead,
    moved: names.map((row) => ({ order: row.number, customer: row.customer, days: row.after.map(({ day }) => day) })),
    today: now.today,
  });
  return { words, consignment: await readConsignment(trx, now, id) };
}

function partIn(consignment: Consignment, partId: number): PartRow {
  const part = consignment.parts.find((row) => row.id === partId);
  if (!part) throw new Refusal('changed', 'This is not to be picked any more. Nothing was done.');
  return part;
}

/** The book as it is when goods that are set aside for a line are gone. */
function planOf(live: LiveBook, part: PartRow, missing: Quantity): RipplePlan {
  return { live, after: bookAfterLoss(live.book, live.demandOfLine.get(part.line) ?? '', Number(missing), part.expires) };
}

function movedBy(plan: RipplePlan) {
  const { later, earlier } = rippleOf(plan, []);
  return [...later, ...earlier];
}

async function ordersMoved({ trx, now }: CommandContext, part: PartRow, found: Quantity): Promise<OrderId[]> {
  if (compareDecimal(found, part.quantity) >= 0) return [];
  const live = await loadBook(trx, now, { items: [part.item], moving: true });
  const plan = planOf(live, part, minus(part.quantity, found));
  return [...new Set(movesOf(plan, movedBy(plan)).map(({ info }) => info.orderId))];
}

async function ordersOf(trx: Trx, consignment: number): Promise<OrderId[]> {
  const rows = await trx.selectFrom('shipment').select('order_id').where('consignment_id', '=', consignment).execute();
  return rows.map((row) => row.order_id);
}

/** The part gives up what is missing, and the bin has it no more; what is damaged stands in quarantine. */
async function bookLoss({ trx, now }: CommandContext, consignment: Consignment, part: PartRow, missing: Quantity, why: ShortReason): Promise<void> {
  const rest = minus(part.quantity, missing);
  if (compareDecimal(rest, '0') > 0)
    await trx
      .updateTable('pick_part')
      .set({ quantity: rest, picked: least(part.picked, rest) })
      .where('id', '=', part.id)
      .execute();
  else await trx.deleteFrom('pick_part').where('id', '=', part.id).execute();
  // The line of the shipment falls with its part, or it would take other parts with it.
  await sql`delete from shipment_line where shipment_id = ${part.shipment} and order_line_id = ${part.line} and quantity <= ${missing}`.execute(trx);
  await sql`update shipment_line set quantity = quantity - ${missing} where shipment_id = ${part.shipment} and order_line_id = ${part.line} and quantity > ${missing}`.execute(
    trx,
  );
  // What had come in for the line alone and is lost is not here for it any more.
  await sql`update order_line set reserved = greatest(reserved - ${missing}, 0) where id = ${part.line} and reserved > 0`.execute(trx);
  const row = {
    at: now.instant,
    item: part.item,
    warehouse: consignment.head.warehouse,
    kind: 'adjustment' as const,
    reference: consignment.shipments.find(({ id }) => id === part.shipment)!.number,
    lot: part.lot,
    reason: REASONS[why],
  };
  await trx
    .insertInto('stock_movement')
    .values({ ...row, quantity: minus('0', missing), status: 'available', bin: part.bin })
    .execute();
  if (why === 'damaged')
    await trx
      .insertInto('stock_movement')
      .values({ ...row, quantity: missing, status: 'quarantine', bin: part.bin })
      .execute();
}

/** Allocates other goods that are free for the line in the place of what is missing; gives from where. */
async function replace(
  { trx, now }: CommandContext,
  part: PartRow,
  warehouse: WarehouseCode,
  orderId: OrderId,
  missing: Quantity,
): Promise<{ readonly bin: string; readonly lot: string; readonly quantity: Quantity }[]> {
  const ready = await readyLines(trx, now, { id: orderId, ship_complete: false }, [part.item]);
  const free = ready.find((row) => row.demand.lineId === part.line)?.quantity ?? '0';
  const wanted = least(missing, free);
  if (compareDecimal(wanted, '0') <= 0) return [];
  const { taken } = await findPlaces(trx, now, [{ line: part.line, item: part.item, warehouse, quantity: wanted }]);
  if (taken.length === 0) return [];
  await sql`insert into shipment_line (shipment_id, order_line_id, quantity) values (${part.shipment}, ${part.line}, ${sum(taken.map((row) => row.quantity))})
    on conflict (shipment_id, order_line_id) do update set quantity = shipment_line.quantity + excluded.quantity`.execute(trx);
  await storeParts(trx, part.shipment, taken);
  const places = await trx
    .selectFrom('stock_place')
    .select(['id', 'bin', 'lot'])
    .where(
      'id',
      'in',
      taken.map((row) => row.place),
    )
    .execute();
  return taken.map(({ place, quantity }) => {
    const { bin, lot } = places.find((row) => row.id === place)!;
    return { bin, lot, quantity };
  });
}

/** A shipment of which nothing is left is no shipment. */
async function closeEmpty(trx: Trx, part: PartRow): Promise<void> {
  const left = await trx.selectFrom('shipment_line').select('order_line_id').where('shipment_id', '=', part.shipment).limit(1).executeTakeFirst();
  if (!left) await trx.updateTable('shipment').set({ state: 'cancelled' }).where('id', '=', part.shipment).execute();
}
