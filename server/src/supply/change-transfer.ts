import type { TransferId } from '@nockwright/core/ids';
import type { Cause, FactsOf } from '@nockwright/contract/history';
import type { Decision } from '@nockwright/contract/promise';
import type { SupplyRipple, TransferView } from '@nockwright/contract/supply';
import { CARRIER_WEEK, calendarOf, dayNumber, isoDay } from '@nockwright/core/calendar';
import { compareDecimal, minus } from '@nockwright/core/money';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { loadWarehouses, lockMoving } from '../promise';
import { loseSupply, shrinkRoute, type Because } from './close-open-quantity';
import { settleInside, viewInside, type InsideChange } from './inside-ripple';
import { readTransfer } from './read-inside';
import { changedTo, dayAvailable, supplyIdOf } from './supply-plan';
import {
  cancelTransferLine,
  endTransfers,
  findTransfer,
  loadTransferLines,
  lockTransfer,
  openOf,
  ordersOfTransfer,
  type TransferLineRecord,
} from './transfers';

/** Another day that a transfer is there, or less of some of its lines. */
export interface TransferWish {
  readonly expectedDay?: string;
  /** What is still to come. */
  readonly lines?: readonly { readonly line: number; readonly open: string }[];
}

type Transfer = Awaited<ReturnType<typeof lockTransfer>>;

interface LineChange {
  readonly line: TransferLineRecord;
  readonly open: string;
}

/** Whose promises another day of a transfer, or less of it, would move, and who could have what stays where it is. */
export async function previewTransferChange(db: Db, now: Now, transferId: TransferId, wish: TransferWish, accept: readonly number[]): Promise<SupplyRipple> {
  const transfer = await findTransfer(db, transferId);
  checkDay(wish, now, 'query.day');
  const changes = checkLess(transfer, await loadTransferLines(db, transferId), wish, 'query');
  const ripple = await viewInside(db, now, planOf(transfer, changes, wish.expectedDay), accept);
  const comes = changes.some(({ open }) => compareDecimal(open, '0') > 0);
  return { availableDay: comes ? await dayAvailable(db, now, transfer.to_warehouse, wish.expectedDay ?? transfer.expected_day) : null, ripple };
}

/**
 * Records another day for a transfer, or less of it while it has not left: what stays is free there. With a decision the
 * promises it reaches move as was seen; without one what is late stands as told, at risk, and what loses its goods waits.
 */
export async function changeTransfer(
  context: CommandContext,
  transferId: TransferId,
  { version, note = '', decision, ...wish }: TransferWish & { readonly version: number; readonly note?: string; readonly decision?: Decision },
): Promise<TransferView> {
  const { trx, now } = context;
  checkDay(wish, now, 'body.expectedDay');
  const subjects = await ordersOfTransfer(trx, transferId);
  await lockMoving(
    trx,
    decision,
    subjects.map((row) => row.key),
  );
  const transfer = await lockTransfer(trx, transferId, version);
  const lines = await loadTransferLines(trx, transferId);
  const changes = checkLess(transfer, lines, wish, 'body');
  const change = changeOf(transfer, wish.expectedDay, changes);
  if (change.day === null && change.less.length === 0) throw invalid('body', 'expected another day (expectedDay) or less of a line (lines)');
  const cause: Cause = { kind: 'transfer.changed', facts: { number: transfer.number, ...change }, note };
  await settleInside(context, planOf(transfer, changes, wish.expectedDay), decision, cause, async () => {
    if (wish.expectedDay !== undefined) {
      const leaves = transfer.state === 'open' ? { ship_day: await dayToLeave(context, transfer, wish.expectedDay) } : {};
      await trx
        .updateTable('transfer_order')
        .set({ expected_day: wish.expectedDay, ...leaves })
        .where('id', '=', transferId)
        .execute();
    }
    await stay(context, transfer, changes, note ? { why: note } : { cause }, cause);
  });
  await endTransfers(trx, [transferId]);
  await recordEvent(context, {
    kind: 'transfer.changed',
    facts: { number: transfer.number, ...change },
    why: note,
    subjects: [{ kind: 'transfer', key: transferId }, ...lines.map((line) => ({ kind: 'item' as const, key: line.item })), ...subjects],
  });
  return readTransfer(trx, transferId);
}

/** Takes a transfer back that has not left; promises made on it move as decided, or wait again. */
export async function cancelTransfer(
  context: CommandContext,
  transferId: TransferId,
  { version, reason, decision }: { readonly version: number; readonly reason: string; readonly decision?: Decision },
): Promise<TransferView> {
  const { trx } = context;
  const subjects = await ordersOfTransfer(trx, transferId);
  await lockMoving(
    trx,
    decision,
    subjects.map((row) => row.key),
  );
  const transfer = await lockTransfer(trx, transferId, version);
  if (transfer.state !== 'open') throw new Refusal('conflict', `Transfer ${transfer.number} is on its way: take it in, then send it back.`);
  const changes = (await loadTransferLines(trx, transferId)).map((line) => ({ line, open: '0' }));
  const cause: Cause = { kind: 'transfer.cancelled', facts: { number: transfer.number }, note: reason };
  await settleInside(context, planOf(transfer, changes), decision, cause, () => stay(context, transfer, changes, { why: reason }, cause));
  return readTransfer(trx, transferId);
}

/** What is not brought stays where it is, and whoever was promised it there loses it. */
async function stay(context: CommandContext, transfer: Transfer, changes: readonly LineChange[], because: Because, cause: Cause): Promise<void> {
  for (const { line, open } of changes) {
    const less = minus(openOf(line), open);
    if (compareDecimal(less, '0') <= 0) continue;
    await loseSupply(context, { item: line.item, warehouse: transfer.to_warehouse }, supplyIdOf(transfer.number, line), open, cause);
    await shrinkRoute(context.trx, 'transfer_line_id', line.id, less);
    await cancelTransferLine(context, line.id, less, because);
  }
}

function checkDay({ expectedDay }: TransferWish, { today }: Now, field: string): void {
  if (expectedDay !== undefined && expectedDay < today) throw invalid(field, `${expectedDay} has passed; expected ${today} or later`);
}

/** Every line with what is to come of it: less than before where the wish says so. */
function checkLess(transfer: Transfer, lines: readonly TransferLineRecord[], wish: TransferWish, place: 'body' | 'query'): LineChange[] {
  const wished = new Map<number, string>();
  for (const [at, { line: id, open }] of (wish.lines ?? []).entries()) {
    const field = `${place}.lines[${at}]`;
    const line = lines.find((row) => row.id === id);
    if (!line) throw invalid(`${field}.line`, `there is no line ${id} on this transfer`);
    if (wished.has(id)) throw invalid(`${field}.line`, `line ${line.line_no} stands twice`);
    if (compareDecimal(open, openOf(line)) > 0)
      throw invalid(`${field}.open`, `${open} is more than the ${openOf(line)} of line ${line.line_no} that are to come: for more, start another transfer`);
    if (compareDecimal(open, openOf(line)) < 0 && transfer.state !== 'open')
      throw new Refusal('conflict', `Transfer ${transfer.number} is on its way: what does not come is told when the rest is taken in.`);
    wished.set(id, open);
  }
  return lines.map((line) => ({ line, open: wished.get(line.id) ?? openOf(line) }));
}

function planOf(transfer: Transfer, changes: readonly LineChange[], day?: string): InsideChange[] {
  return changes.map(({ line, open }) => {
    const stays = minus(openOf(line), open);
    return {
      supply: supplyIdOf(transfer.number, line),
      item: line.item,
      warehouse: transfer.to_warehouse,
      becomes: changedTo(day, open),
      freed: compareDecimal(stays, '0') > 0 ? [{ item: line.item, warehouse: transfer.from_warehouse, quantity: stays }] : [],
    };
  });
}

/** The last day on which goods can leave to be there on `day`; today where that has passed. */
async function dayToLeave({ trx, now }: CommandContext, transfer: Transfer, day: string): Promise<string> {
  const lane = await trx
    .selectFrom('transfer_lane')
    .select('transit_days')
    .where('from_warehouse', '=', transfer.from_warehouse)
    .where('to_warehouse', '=', transfer.to_warehouse)
    .executeTakeFirst();
  const { book } = (await loadWarehouses(trx)).find((row) => row.code === transfer.from_warehouse)!;
  const calendar = calendarOf(book);
  const leaves = isoDay(calendar.floor(CARRIER_WEEK.offset(CARRIER_WEEK.floor(dayNumber(day)), -(lane?.transit_days ?? 0))));
  return leaves < now.today ? now.today : leaves;
}

/** A change in words: `now expected Wed 17 Mar, was Wed 10 Mar; 5 JAR still expected, was 10`. */
function changeOf(transfer: Transfer, day: string | undefined, changes: readonly LineChange[]): Omit<FactsOf<'transfer.changed'>, 'number'> {
  return {
    day: day === undefined || day === transfer.expected_day ? null : { day, was: transfer.expected_day },
    less: changes.flatMap(({ line, open }) => (compareDecimal(open, openOf(line)) < 0 ? [{ item: line.item, open, was: openOf(line) }] : [])),
  };
}
