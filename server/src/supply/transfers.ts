import type { Because } from './close-open-quantity';
import type { ItemCode, TransferId, WarehouseCode } from '@nockwright/core/ids';
import type { Dealing } from '@nockwright/contract/history';
import { noteLock, takeLocks } from '../locks';
import { CARRIER_WEEK, dayNumber, firstShipDay, isoDay } from '@nockwright/core/calendar';
import { compareDecimal, minus, plus } from '@nockwright/core/money';
import { sql } from 'kysely';
import { anyOf, type Db, type Trx } from '../database';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { checkLasting } from '../items';
import { nextNumber } from '../numbers';
import { loadWarehouses } from '../promise';
import { poolsBehind } from './pools-behind';

/** Goods to be brought over from another warehouse, for an order line by its route or for the shelf. */
export interface Move {
  readonly route: number | null;
  readonly line: { readonly id: number | null; readonly item: ItemCode; readonly warehouse: WarehouseCode };
  readonly from: string;
  readonly quantity: string;
}

export interface MadeTransfer {
  readonly transferId: TransferId;
  readonly number: string;
}

/**
 * Sets goods aside at other warehouses and has them brought over, one transfer order for each way; every line is bound to
 * its order line. The pools at both ends must be locked, and the goods be free.
 */
export async function createTransfers(context: CommandContext, moves: readonly Move[]): Promise<MadeTransfer[]> {
  if (moves.length === 0) return [];
  const { trx, now } = context;
  const ways = new Map<string, Move[]>();
  for (const move of moves) {
    const key = `${move.from}/${move.line.warehouse}`;
    ways.set(key, [...(ways.get(key) ?? []), move]);
  }
  const made: MadeTransfer[] = [];
  const warehouses = new Map((await loadWarehouses(trx)).map((row) => [row.code, row.book]));
  for (const list of ways.values()) {
    const [from, to] = [list[0]!.from, list[0]!.line.warehouse];
    const lane = await trx.selectFrom('transfer_lane').selectAll().where('from_warehouse', '=', from).where('to_warehouse', '=', to).executeTakeFirst();
    if (!lane) throw invalid('body.warehouse', `nothing is transferred from ${from} to ${to}`);
    const shipDay = firstShipDay(warehouses.get(from)!, now.localTime);
    const number = await nextNumber(trx, 'transfer');
    const { id } = await trx
      .insertInto('transfer_order')
      .values({
        number,
        from_warehouse: from,
        to_warehouse: to,
        state: 'open',
        created_day: now.today,
        ship_day: shipDay,
        expected_day: isoDay(CARRIER_WEEK.offset(CARRIER_WEEK.ceil(dayNumber(shipDay)), lane.transit_days)),
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const lines = await trx
      .insertInto('transfer_line')
      .values(list.map((move, at) => ({ transfer_id: id, line_no: at + 1, item: move.line.item, quantity: move.quantity, order_line_id: move.line.id })))
      .returning('id')
      .execute();
    for (const [at, line] of lines.entries()) {
      const { route } = list[at]!;
      if (route !== null) await trx.updateTable('line_route').set({ transfer_line_id: line.id }).where('id', '=', route).execute();
    }
    await recordEvent(context, {
      kind: 'transfer.started',
      facts: { number, from, to, goods: list.map(({ quantity, line }) => ({ quantity, item: line.item })) },
      subjects: [{ kind: 'transfer', key: id }, ...list.map((move) => ({ kind: 'item' as const, key: move.line.item }))],
    });
    made.push({ transferId: id, number });
  }
  return made;
}

export async function loadTransferLines(db: Db, transferId: TransferId) {
  return db
    .selectFrom('transfer_line')
    .innerJoin('item', 'item.code', 'transfer_line.item')
    .selectAll('transfer_line')
    .select(['item.description', 'item.unit', 'item.tracks_serials'])
    .where('transfer_id', '=', transferId)
    .orderBy('line_no')
    .execute();
}

export type TransferLineRecord = Awaited<ReturnType<typeof loadTransferLines>>[number];

/** What is still to come in of a transfer line. */
export function openOf(line: Pick<TransferLineRecord, 'quantity' | 'cancelled' | 'received' | 'lost'>): string {
  return minus(minus(minus(line.quantity, line.cancelled), line.received), line.lost);
}

/** The orders that a transfer brings goods for, as subjects of an event. */
export async function ordersOfTransfer(db: Db, transferId: TransferId) {
  const rows = await db
    .selectFrom('transfer_line')
    .innerJoin('order_line', 'order_line.id', 'transfer_line.order_line_id')
    .select('order_line.order_id')
    .where('transfer_id', '=', transferId)
    .execute();
  return [...new Set(rows.map((row) => row.order_id))].map((key) => ({ kind: 'order' as const, key }));
}

/** Locks a transfer order for a change; refused if someone else has changed it since `version`, or it has ended. */
export async function lockTransfer(trx: Trx, transferId: TransferId, version?: number) {
  const transfer = await trx.selectFrom('transfer_order').selectAll().where('id', '=', transferId).forNoKeyUpdate().executeTakeFirst();
  if (!transfer) throw notFound(`transfer order ${transferId}`);
  noteLock(trx, 'transfers', transferId);
  if (version !== undefined && transfer.version !== version)
    throw await changedSince(trx, { kind: 'transfer', key: transfer.id, label: `Transfer ${transfer.number}`, given: version, current: transfer.version });
  checkUnderWay(transfer);
  return transfer;
}

/** A transfer as it stands, to see what would follow; refused where it is over. */
export async function findTransfer(db: Db, transferId: TransferId) {
  const transfer = await db.selectFrom('transfer_order').selectAll().where('id', '=', transferId).executeTakeFirst();
  if (!transfer) throw notFound(`transfer order ${transferId}`);
  checkUnderWay(transfer);
  return transfer;
}

function checkUnderWay({ number, state }: { readonly number: string; readonly state: string }): void {
  if (state === 'closed' || state === 'cancelled') throw new Refusal('conflict', `Transfer ${number} is ${state}.`);
}

/** The goods leave: they are in transit from now on. */
export async function shipTransfer(context: CommandContext, transferId: TransferId, version: number): Promise<void> {
  const { trx, now } = context;
  const transfer = await lockTransfer(trx, transferId, version);
  if (transfer.state !== 'open') throw new Refusal('conflict', `Transfer ${transfer.number} has left already.`);
  const lines = await loadTransferLines(trx, transferId);
  await takeLocks(trx, { pools: await poolsBehind(trx, { transferLines: lines.map((line) => line.id) }) });
  const leaving = lines.map((line) => ({ line, quantity: minus(line.quantity, line.cancelled) })).filter(({ quantity }) => compareDecimal(quantity, '0') > 0);
  await checkLasting(
    trx,
    leaving.map(({ line, quantity }) => ({ item: line.item, warehouse: transfer.from_warehouse, quantity, until: now.today, label: `Line ${line.line_no}` })),
    now.today,
  );
  for (const { line, quantity: leaves } of leaving) {
    await trx.updateTable('transfer_line').set({ shipped: leaves }).where('id', '=', line.id).execute();
    await trx
      .insertInto('stock_movement')
      .values({
        at: now.instant,
        item: line.item,
        warehouse: transfer.from_warehouse,
        quantity: `-${leaves}`,
        kind: 'transfer',
        reference: `${transfer.number}/${line.line_no}`,
        lasts_until: now.today,
      })
      .execute();
  }
  await trx
    .updateTable('transfer_order')
    .set({ state: 'shipped', version: sql`version + 1` })
    .where('id', '=', transferId)
    .execute();
  await recordEvent(context, {
    kind: 'transfer.left',
    facts: { number: transfer.number, from: transfer.from_warehouse },
    subjects: [{ kind: 'transfer', key: transferId }, ...lines.map((line) => ({ kind: 'item' as const, key: line.item }))],
  });
}

/** Takes what is not needed of a transfer line back before it has left; what has left arrives for anyone. */
export async function cancelTransferLine(context: CommandContext, lineId: number, quantity: string, because: Because): Promise<Dealing> {
  const { trx } = context;
  const line = await trx
    .selectFrom('transfer_line')
    .innerJoin('transfer_order', 'transfer_order.id', 'transfer_line.transfer_id')
    .selectAll('transfer_line')
    .select(['number', 'state', 'from_warehouse', 'to_warehouse'])
    .where('transfer_line.id', '=', lineId)
    .executeTakeFirstOrThrow();
  if (line.state === 'shipped') {
    await trx.updateTable('transfer_line').set({ order_line_id: null }).where('id', '=', lineId).execute();
    return { did: 'arrives_free', quantity, transfer: line.number, warehouse: line.to_warehouse };
  }
  await trx
    .updateTable('transfer_line')
    .set({ cancelled: plus(line.cancelled, quantity) })
    .where('id', '=', lineId)
    .execute();
  await endTransfers(trx, [line.transfer_id]);
  await recordEvent(context, {
    kind: 'transfer.cut',
    facts: { number: line.number, item: line.item, quantity, from: line.from_warehouse },
    ...because,
    subjects: [
      { kind: 'transfer', key: line.transfer_id },
      { kind: 'item', key: line.item },
    ],
  });
  return { did: 'stays', quantity, transfer: line.number, warehouse: line.from_warehouse };
}

/** Counts the change, and ends transfers of which nothing is awaited any more. */
export async function endTransfers(trx: Trx, transferIds: readonly number[]): Promise<void> {
  await trx
    .updateTable('transfer_order')
    .set({
      version: sql`version + 1`,
      state: sql`case
        when exists (select from transfer_line l where l.transfer_id = transfer_order.id and l.cancelled + l.received + l.lost < l.quantity) then state
        when exists (select from transfer_line l where l.transfer_id = transfer_order.id and l.received + l.lost > 0) then 'closed'
        else 'cancelled' end`,
    })
    .where(anyOf('id', transferIds))
    .execute();
}
