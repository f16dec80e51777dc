import { allocate } from '@nockwright/core/allocation';
import { freeGoods, freeNow } from '@nockwright/core/book';
import { shortDay } from '@nockwright/core/calendar';
import type { ItemCode, OrderId, WarehouseCode } from '@nockwright/core/ids';
import { compareDecimal, least, minus, plus, sum, times, type Quantity } from '@nockwright/core/money';
import { readScan, type Scan } from '@nockwright/core/scans';
import { mayTake, whereWords } from '@nockwright/core/serials';
import { scanWords } from '@nockwright/core/shipping';
import type { CounterScan, counterRoutes } from '@nockwright/contract/counter';
import type { BodyOf } from '@nockwright/contract/shape';
import { sql } from 'kysely';
import type { Trx } from '../database';
import { notify } from '../events';
import type { CommandContext } from '../http/context';
import { takeLocks } from '../locks';
import { addLines, changeLine, removeLine } from '../orders';
import { loadBook, loadWarehouses } from '../promise';
import { loadFree, loadNamed } from '../shipping';
import { holdSerial, letSerialGo, loadSerials, nameBySerial, whereOf } from '../serials';
import { lockBasket, readBasket } from './baskets';

/** What a label or a typed code names at the counter. */
interface Named {
  readonly item: string;
  readonly unit: string;
  /** Stocking units in one of it. */
  readonly size: Quantity;
}

/** Scans goods into a basket, where nobody else can sell them from then on; or back out of it. What is wrong is said in words, and nothing is done. */
export async function scanBasket(
  context: CommandContext,
  order: OrderId,
  { scan: text, count, back }: BodyOf<typeof counterRoutes.scanBasket>,
): Promise<CounterScan> {
  const { trx, now } = context;
  const warehouse = await lockBasket(trx, order);
  const answer = async (ok: boolean, words: string): Promise<CounterScan> => ({ ok, words, basket: await readBasket(trx, order) });
  const read = readScan(text, now.today);
  if (!read.ok) return answer(false, `This label cannot be read: ${read.fault}.`);
  const scan = await nameBySerial(trx, read.scan);
  const rows = await loadNamed(trx, scan);
  const row = rows[0];
  if (!row) return answer(false, `No item has the code ${text}. Scan the label again, or enter the item code.`);
  const named = await nameOf(trx, row, scan);
  const counted = scan.count === undefined ? count : String(scan.count);
  // A piece is in one basket: whoever scans one of the same goods meanwhile waits.
  if (row.tracksSerials) await takeLocks(trx, { pools: [{ item: row.item, warehouse }] });
  const held = row.tracksSerials
    ? await heldSerial(trx, order, { item: row.item, serial: scan.serial, pieces: times(named.size, counted), warehouse, back })
    : null;
  if (typeof held === 'string') return answer(false, held);
  const words = back
    ? await takeBack(context, order, named, counted, scan.lot, held)
    : (wrongLot(row, scan, now.today) ?? (await putIn(context, order, warehouse, named, counted, scan.lot, held)));
  if (words !== null) return answer(false, words);
  await notify(trx, [`basket:${order}`]);
  return answer(true, `${counted} ${named.item}${held ? `, serial number ${held.serial},` : ''} ${back ? 'taken back' : 'in the basket'}.`);
}

/** A piece with a serial number: the place it is known to be in, the hold of the basket it is in. */
interface Piece {
  readonly serial: string;
  readonly place: number | null;
  readonly hold: number | null;
}

/** The piece that was scanned, or what is wrong with it in words: it must be free to be put in, and in this basket to be taken back. */
async function heldSerial(
  trx: Trx,
  order: OrderId,
  scan: { readonly item: ItemCode; readonly serial: string | undefined; readonly pieces: Quantity; readonly warehouse: string; readonly back: boolean },
): Promise<Piece | string> {
  const { item, serial, warehouse } = scan;
  if (serial === undefined) return scanWords({ why: 'serial_missing', item }, '');
  if (compareDecimal(scan.pieces, '1') !== 0) return scanWords({ why: 'one_by_one', item }, '');
  const [row] = await loadSerials(trx, sql`s.item = ${item} and s.serial = ${serial}`);
  const own = await trx
    .selectFrom('item_serial')
    .innerJoin('counter_hold', 'counter_hold.id', 'item_serial.hold_id')
    .select('counter_hold.id')
    .where('item_serial.item', '=', item)
    .where('serial', '=', serial)
    .where('order_id', '=', order)
    .executeTakeFirst();
  if (scan.back) return own ? { serial, place: row!.place, hold: own.id } : `Serial number ${serial} of ${item} is not in the basket.`;
  if (own) return `Serial number ${serial} of ${item} is in the basket already.`;
  const where = row && whereOf(row);
  return where === undefined || mayTake(where, warehouse)
    ? { serial, place: row?.place ?? null, hold: null }
    : scanWords({ why: 'elsewhere', item, serial, where: whereWords(where) }, '');
}

/** Where goods may be taken from: of a piece whose place is known, that one. */
async function freeOf(trx: Trx, item: ItemCode, warehouse: WarehouseCode, piece: Piece | null) {
  const free = await loadFree(trx, { item, warehouse });
  const own = free.filter((row) => row.id === piece?.place);
  return own.length > 0 ? own : free;
}

type Row = Awaited<ReturnType<typeof loadNamed>>[number];

async function nameOf(trx: Trx, row: Row, scan: Scan): Promise<Named> {
  const unit = scan.gtin === undefined ? undefined : row.units.find((one) => one.gtin === scan.gtin);
  if (unit) return { item: row.item, unit: unit.unit, size: unit.size };
  const { unit: own } = await trx.selectFrom('item').select('unit').where('code', '=', row.item).executeTakeFirstOrThrow();
  return { item: row.item, unit: own, size: '1' };
}

/** What is wrong with the lot that was scanned; null: nothing. */
function wrongLot(row: Row, scan: Scan, today: string): string | null {
  const expires = scan.expires ?? row.lot_expires;
  if (row.tracksLots && scan.lot === undefined) return `${row.item} is kept by lot. Scan the label with the lot.`;
  if (expires !== null && expires < today) return `Lot ${scan.lot ?? ''} of ${row.item} expired ${shortDay(expires, today)}. Put it into quarantine.`;
  return null;
}

async function putIn(
  context: CommandContext,
  order: OrderId,
  warehouse: WarehouseCode,
  { item, unit, size }: Named,
  count: Quantity,
  lot: string | undefined,
  piece: Piece | null,
): Promise<string | null> {
  const { trx, now } = context;
  await takeLocks(trx, { pools: [{ item, warehouse }] });
  const quantity = times(size, count);
  const live = await loadBook(trx, now, { items: [item] });
  const place = (await loadWarehouses(trx)).find((row) => row.code === warehouse)!;
  const free = freeNow(live, freeGoods(live, [{ item, warehouse }]), { item, warehouse }, place);
  if (free < Number(quantity))
    return free > 0
      ? `Only ${free} ${item} are free. The others are promised to customers.`
      : `No ${item} is free here. What there is is promised to customers.`;
  const { taken, short } = allocate([{ key: 0, item, warehouse, quantity, until: now.today, units: [], lot }], await freeOf(trx, item, warehouse, piece));
  if (short.length > 0) return lot === undefined ? `No bin has ${quantity} ${item} free.` : `Lot ${lot} of ${item} has not ${quantity} free here.`;
  const line = await lineOf(trx, order, item, unit);
  if (line) await changeLine(context, order, line.id, { version: line.version, quantity: plus(line.quantity, count) });
  else await addLines(context, order, { version: (await versionOf(trx, order)).version, lines: [{ item, quantity: count, unit }] });
  const { id } = (await lineOf(trx, order, item, unit))!;
  await sql`insert into counter_hold (order_id, line_id, place_id, quantity)
    select ${order}, ${id}, k.* from unnest(${taken.map((row) => row.place)}::int[], ${taken.map((row) => row.quantity)}::numeric[]) as k(place, quantity)
    on conflict (line_id, place_id) do update set quantity = counter_hold.quantity + excluded.quantity`.execute(trx);
  if (piece) await holdSerial(context, { item, serial: piece.serial, line: id, place: taken[0]!.place });
  return null;
}

/** Takes goods out of the basket: of the lot that was scanned, or what was put in last. */
async function takeBack(
  context: CommandContext,
  order: OrderId,
  { item, unit, size }: Named,
  count: Quantity,
  lot: string | undefined,
  piece: Piece | null,
): Promise<string | null> {
  const { trx } = context;
  const line = await lineOf(trx, order, item, unit);
  if (!line || compareDecimal(line.quantity, count) < 0) return line ? `Only ${line.quantity} ${item} are in the basket.` : `${item} is not in the basket.`;
  const held = await trx
    .selectFrom('counter_hold')
    .innerJoin('stock_place', 'stock_place.id', 'counter_hold.place_id')
    .select(['counter_hold.id', 'counter_hold.quantity', 'stock_place.item', 'stock_place.warehouse', 'stock_place.lot'])
    .where('line_id', '=', line.id)
    .orderBy('counter_hold.id', 'desc')
    .execute();
  await takeLocks(trx, { pools: held });
  const own = held.filter((row) => (piece ? row.id === piece.hold : lot === undefined || row.lot === lot));
  let left = times(size, count);
  const there = sum(own.map((row) => row.quantity));
  if (piece) await letSerialGo(trx, item, piece.serial);
  if (compareDecimal(there, left) < 0) return `Only ${there} ${item} of lot ${lot ?? ''} are in the basket.`;
  for (const row of own) {
    const part = least(left, row.quantity);
    if (compareDecimal(part, '0') <= 0) break;
    left = minus(left, part);
    const rest = minus(row.quantity, part);
    if (compareDecimal(rest, '0') > 0) await trx.updateTable('counter_hold').set({ quantity: rest }).where('id', '=', row.id).execute();
    else await trx.deleteFrom('counter_hold').where('id', '=', row.id).execute();
  }
  const rest = minus(line.quantity, count);
  if (compareDecimal(rest, '0') > 0) await changeLine(context, order, line.id, { version: line.version, quantity: rest });
  else await removeLine(context, order, line.id);
  return null;
}

async function lineOf(trx: Trx, order: OrderId, item: string, unit: string) {
  const line = await trx
    .selectFrom('order_line')
    .select(['id', 'quantity'])
    .where('order_id', '=', order)
    .where('item', '=', item)
    .where('unit', '=', unit)
    .executeTakeFirst();
  return line && { ...line, ...(await versionOf(trx, order)) };
}

function versionOf(trx: Trx, order: OrderId) {
  return trx.selectFrom('sales_order').select('version').where('id', '=', order).executeTakeFirstOrThrow();
}
