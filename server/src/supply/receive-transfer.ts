import type { FactsOf } from '@nockwright/contract/history';
import type { ItemCode, TransferId } from '@nockwright/core/ids';
import type { Decision } from '@nockwright/contract/promise';
import type { SupplyRipple, TransferView } from '@nockwright/contract/supply';
import { compareDecimal, least, minus, plus } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db, Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { hasBin } from '../items';
import { decimal, lockMoving } from '../promise';
import { checkNamed, placeSerials } from '../serials';
import { setAsideFor } from './build-assembly';
import { loseSupply, shrinkRoute } from './close-open-quantity';
import { settleInside, viewInside, type InsideChange } from './inside-ripple';
import type { LineQuantity } from './line-quantities';
import { readTransfer } from './read-inside';
import { received, supplyIdOf } from './supply-plan';
import { endTransfers, findTransfer, loadTransferLines, lockTransfer, openOf, ordersOfTransfer, type TransferLineRecord } from './transfers';

type Transfer = Awaited<ReturnType<typeof lockTransfer>>;

/** What has come of a line in transit. */
interface Came extends LineQuantity {
  readonly bin?: string;
  /** As they were scanned or typed. */
  readonly serials?: string;
}

interface ArrivedLine {
  readonly line: TransferLineRecord;
  readonly quantity: string;
  readonly damaged: string;
  readonly bin: string;
  readonly serials: string;
}

/** Whose promises would move by what has come of a transfer; with `closeRest` what has not is lost. */
export async function previewTransferReceipt(
  db: Db,
  now: Now,
  transferId: TransferId,
  wished: readonly Came[],
  closeRest: boolean,
  accept: readonly number[],
): Promise<SupplyRipple> {
  const transfer = await findTransfer(db, transferId);
  const arrived = checkArrived(transfer, await loadTransferLines(db, transferId), wished, 'query');
  return { availableDay: null, ripple: await viewInside(db, now, planOf(transfer, arrived, closeRest), accept) };
}

/**
 * Takes in what has come of a transfer; what is bound is kept for its line. With `closeRest` what has not come of the lines
 * that are named is lost: promises made on it move as decided, or wait again.
 */
export async function receiveTransfer(
  context: CommandContext,
  transferId: TransferId,
  wish: { readonly version: number; readonly lines: readonly Came[]; readonly closeRest?: boolean; readonly decision?: Decision },
): Promise<TransferView> {
  const { trx } = context;
  if ((wish.closeRest || wish.decision) && context.user.role === 'warehouse')
    throw new Refusal('not-allowed', 'Receive what came in. Whether more is expected, and whose promises move, the desk decides.');
  const subjects = await ordersOfTransfer(trx, transferId);
  await lockMoving(
    trx,
    wish.decision,
    subjects.map((row) => row.key),
  );
  const transfer = await lockTransfer(trx, transferId, wish.version);
  const lines = await loadTransferLines(trx, transferId);
  const arrived = checkArrived(transfer, lines, wish.lines, 'body');
  for (const [at, { bin }] of arrived.entries())
    if (bin !== '' && !(await hasBin(trx, transfer.to_warehouse, bin)))
      throw invalid(`body.lines[${at}].bin`, `there is no bin ${bin} at ${transfer.to_warehouse}`);
  if (!wish.closeRest && arrived.every((row) => compareDecimal(plus(row.quantity, row.damaged), '0') === 0))
    throw invalid('body.lines', 'nothing is received by this: type what was received, or close the remainder');
  const some = (rows: readonly { readonly quantity: string; readonly item: ItemCode }[]) => rows.filter(({ quantity }) => compareDecimal(quantity, '0') > 0);
  const facts = {
    number: transfer.number,
    goods: some(arrived.map(({ line, quantity }) => ({ quantity, item: line.item }))),
    damaged: some(arrived.map(({ line, damaged }) => ({ quantity: damaged, item: line.item }))),
    closed: wish.closeRest ?? false,
  };
  const cause = { kind: 'transfer.received' as const, facts };
  await settleInside(context, planOf(transfer, arrived, wish.closeRest ?? false), wish.decision, cause, async () => {
    const named = await namedPieces(context, transfer, arrived);
    for (const [at, row] of arrived.entries()) {
      await takeIn(context, transfer, row, named[at]!);
      await lose(context, transfer, row, facts);
    }
  });
  await endTransfers(trx, [transferId]);
  await recordEvent(context, {
    kind: 'transfer.received',
    facts,
    after: wish.lines,
    subjects: [{ kind: 'transfer', key: transferId }, ...lines.map((line) => ({ kind: 'item' as const, key: line.item })), ...subjects],
  });
  return readTransfer(trx, transferId);
}

/** The serial numbers of what came, line by line. Those that are damaged come by themselves: which they are would not be known. */
async function namedPieces({ trx, now }: CommandContext, transfer: Transfer, arrived: readonly ArrivedLine[]): Promise<readonly (readonly string[])[]> {
  const both = arrived.findIndex(({ line, quantity, damaged }) => line.tracks_serials && Number(quantity) > 0 && Number(damaged) > 0);
  if (both >= 0) throw invalid(`body.lines[${both}].damaged`, `${arrived[both]!.line.item} has serial numbers: enter the damaged ones by themselves`);
  return checkNamed(
    trx,
    arrived.map(({ line, quantity, damaged, serials }, at) => ({
      field: `body.lines[${at}].serials`,
      item: line.item,
      quantity: plus(quantity, damaged),
      serials,
      tracked: line.tracks_serials && Number(plus(quantity, damaged)) > 0,
    })),
    now.today,
    transfer.from_warehouse,
  );
}

async function takeIn(context: CommandContext, transfer: Transfer, { line, quantity, damaged, bin }: ArrivedLine, serials: readonly string[]): Promise<void> {
  const { trx, now } = context;
  const common = {
    at: now.instant,
    item: line.item,
    warehouse: transfer.to_warehouse,
    kind: 'transfer' as const,
    reference: supplyIdOf(transfer.number, line),
    ...(bin === '' ? {} : { bin }),
  };
  const parts = [
    ...(await lotsOnTheWay(trx, common.reference, quantity)).map((part) => ({ ...part, status: 'available' as const })),
    ...(await lotsOnTheWay(trx, common.reference, damaged)).map((part) => ({ ...part, status: 'quarantine' as const, reason: 'damaged' as const })),
  ];
  let next = 0;
  for (const part of parts) {
    await trx
      .insertInto('stock_movement')
      .values({ ...common, ...part })
      .execute();
    const own = serials.slice(next, (next += Number(part.quantity)));
    const { status, lot } = part;
    await placeSerials(
      context,
      [{ item: line.item, warehouse: common.warehouse, status, lot, bin: bin === '' ? null : bin, serials: own, reference: common.reference }],
      'received',
    );
  }
  if (line.order_line_id !== null && compareDecimal(quantity, '0') > 0) await setAsideFor(trx, line.order_line_id, quantity);
  await trx
    .updateTable('transfer_line')
    .set({ received: plus(line.received, quantity), damaged: plus(line.damaged, damaged) })
    .where('id', '=', line.id)
    .execute();
}

/** What received damaged, and with `rest` what has not come, serves nobody: whoever was promised it loses it. */
async function lose(context: CommandContext, transfer: Transfer, { line, quantity, damaged }: ArrivedLine, facts: FactsOf<'transfer.received'>): Promise<void> {
  const missing = minus(openOf(line), quantity);
  const lost = facts.closed ? missing : damaged;
  if (compareDecimal(lost, '0') <= 0) return;
  const pool = { item: line.item, warehouse: transfer.to_warehouse };
  await loseSupply(context, pool, supplyIdOf(transfer.number, line), minus(missing, lost), { kind: 'transfer.received', facts });
  await shrinkRoute(context.trx, 'transfer_line_id', line.id, lost);
  await context.trx
    .updateTable('transfer_line')
    .set({ lost: plus(line.lost, lost) })
    .where('id', '=', line.id)
    .execute();
}

/** The lines that something is said of, each once, and not above what is on its way. */
function checkArrived(transfer: Transfer, lines: readonly TransferLineRecord[], wished: readonly Came[], place: 'body' | 'query'): ArrivedLine[] {
  if (transfer.state === 'open') throw new Refusal('conflict', `Transfer ${transfer.number} has not left ${transfer.from_warehouse} yet.`);
  const seen = new Set<number>();
  return wished.map(({ line: id, quantity, damaged = '0', bin = '', serials = '' }, at) => {
    const field = `${place}.lines[${at}]`;
    const line = lines.find((row) => row.id === id);
    if (!line) throw invalid(`${field}.line`, `there is no line ${id} on this transfer`);
    if (seen.has(id)) throw invalid(`${field}.line`, `line ${line.line_no} stands twice`);
    const came = plus(quantity, damaged);
    if (compareDecimal(came, openOf(line)) > 0)
      throw invalid(`${field}.quantity`, `${came} is more than the ${openOf(line)} on the way of line ${line.line_no}; what is over is put right by a count`);
    seen.add(id);
    return { line, quantity, damaged, bin, serials };
  });
}

function planOf(transfer: Transfer, arrived: readonly ArrivedLine[], closeRest: boolean): InsideChange[] {
  return arrived.map(({ line, quantity, damaged }) => ({
    supply: supplyIdOf(transfer.number, line),
    item: line.item,
    warehouse: transfer.to_warehouse,
    becomes: (supply) => received(quantity, closeRest)({ ...supply, quantity: Number(minus(decimal(supply.quantity), damaged)) }),
    freed: [],
  }));
}

/** Of which lots `quantity` of a transfer line is: those that left and have not come yet, in the sequence in which they left. */
async function lotsOnTheWay(trx: Trx, reference: string, quantity: string): Promise<{ lot: string; quantity: string }[]> {
  const { rows } = await sql<{ lot: string; open: string }>`
    select s.lot, trim_scale(-sum(p.quantity))::text as open
    from stock_movement m join stock_movement_place p on p.movement_id = m.id join stock_place s on s.id = p.place_id
    where m.reference = ${reference} and m.kind = 'transfer' group by s.lot having sum(p.quantity) < 0 order by min(m.id), s.lot`.execute(trx);
  const parts: { lot: string; quantity: string }[] = [];
  let left = quantity;
  for (const { lot, open } of rows) {
    const part = least(left, open);
    if (compareDecimal(part, '0') > 0) parts.push({ lot, quantity: part });
    left = minus(left, part);
  }
  return parts;
}
