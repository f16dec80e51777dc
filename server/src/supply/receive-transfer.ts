import type { TransferView } from '@nockwright/contract/supply';
import { compareDecimal, least, minus, plus } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { lockOrders, lockPools } from '../promise';
import { setAsideFor } from './assemblies';
import { loseSupply, shrinkRoute } from './close-open-quantity';
import { readTransfer } from './read-inside';
import { cancelTransferLine, endTransfers, loadTransferLines, lockTransfer } from './transfers';

/** Takes in what has come of a transfer; what is bound is kept for its line. With `closeRest` what has not come is lost. */
export async function receiveTransfer(
  context: CommandContext,
  transferId: number,
  wish: { readonly version: number; readonly lines: readonly { readonly line: number; readonly quantity: string }[]; readonly closeRest?: boolean },
): Promise<TransferView> {
  const { trx, now } = context;
  if (wish.closeRest && context.user.role === 'warehouse')
    throw new Refusal('not-allowed', 'Book what came in; whether more is awaited is the desk’s to decide.');
  await lockBoundOrders(context, transferId);
  const transfer = await lockTransfer(trx, transferId, wish.version);
  if (transfer.state !== 'shipped') throw new Refusal('conflict', `Transfer ${transfer.number} has not left ${transfer.from_warehouse} yet.`);
  const lines = await loadTransferLines(trx, transferId);
  await lockPools(
    trx,
    lines.map((line) => ({ item: line.item, warehouse: transfer.to_warehouse })),
  );
  for (const [at, { line: id, quantity }] of wish.lines.entries()) {
    const line = lines.find((row) => row.id === id);
    if (!line) throw invalid(`body.lines[${at}].line`, `there is no line ${id} on this transfer`);
    const open = minus(minus(line.shipped, line.received), line.lost);
    if (compareDecimal(quantity, open) > 0)
      throw invalid(`body.lines[${at}].quantity`, `${quantity} is more than the ${open} on the way of line ${line.line_no}`);
    const common = {
      at: now.instant,
      item: line.item,
      warehouse: transfer.to_warehouse,
      kind: 'transfer' as const,
      reference: `${transfer.number}/${line.line_no}`,
    };
    for (const part of await lotsOnTheWay(trx, common.reference, quantity))
      await trx
        .insertInto('stock_movement')
        .values({ ...common, ...part })
        .execute();
    if (line.order_line_id !== null) await setAsideFor(trx, line.order_line_id, quantity);
    await trx
      .updateTable('transfer_line')
      .set({ received: plus(line.received, quantity) })
      .where('id', '=', id)
      .execute();
    const rest = minus(open, quantity);
    if (!wish.closeRest || compareDecimal(rest, '0') <= 0) continue;
    const pool = { item: line.item, warehouse: transfer.to_warehouse };
    await loseSupply(context, pool, `${transfer.number}/${line.line_no}`, '0', `transfer ${transfer.number} came short`);
    await shrinkRoute(trx, 'transfer_line_id', id, rest);
    await trx
      .updateTable('transfer_line')
      .set({ lost: plus(line.lost, rest) })
      .where('id', '=', id)
      .execute();
  }
  await endTransfers(trx, [transferId]);
  await recordEvent(context, {
    what: `received ${wish.lines.map(({ line, quantity }) => `${quantity} ${lines.find((row) => row.id === line)?.item ?? ''}`).join(', ')} on transfer ${transfer.number}${wish.closeRest ? '; nothing more comes' : ''}`,
    after: wish.lines,
    subjects: [
      { kind: 'transfer', key: transferId },
      ...lines.map((line) => ({ kind: 'item' as const, key: line.item })),
      ...(await ordersOf(context, transferId)),
    ],
  });
  return readTransfer(trx, transferId);
}

/** Takes a transfer back that has not left; promises made on it wait again. */
export async function cancelTransfer(context: CommandContext, transferId: number, version: number, why: string): Promise<TransferView> {
  const { trx } = context;
  await lockBoundOrders(context, transferId);
  const transfer = await lockTransfer(trx, transferId, version);
  if (transfer.state !== 'open') throw new Refusal('conflict', `Transfer ${transfer.number} is on its way: take it in, then send it back.`);
  const lines = await loadTransferLines(trx, transferId);
  await lockPools(
    trx,
    lines.flatMap(({ item }) => [
      { item, warehouse: transfer.from_warehouse },
      { item, warehouse: transfer.to_warehouse },
    ]),
  );
  for (const line of lines) {
    const open = minus(line.quantity, line.cancelled);
    if (compareDecimal(open, '0') <= 0) continue;
    await loseSupply(
      context,
      { item: line.item, warehouse: transfer.to_warehouse },
      `${transfer.number}/${line.line_no}`,
      '0',
      `transfer ${transfer.number} was taken back: ${why}`,
    );
    await shrinkRoute(trx, 'transfer_line_id', line.id, open);
    await cancelTransferLine(context, line.id, open, why);
  }
  return readTransfer(trx, transferId);
}

async function lockBoundOrders({ trx }: CommandContext, transferId: number): Promise<void> {
  const rows = await trx
    .selectFrom('transfer_line')
    .innerJoin('order_line', 'order_line.id', 'transfer_line.order_line_id')
    .select('order_line.order_id')
    .where('transfer_id', '=', transferId)
    .execute();
  await lockOrders(trx, [...new Set(rows.map((row) => row.order_id))]);
}

async function ordersOf({ trx }: CommandContext, transferId: number) {
  const rows = await trx
    .selectFrom('transfer_line')
    .innerJoin('order_line', 'order_line.id', 'transfer_line.order_line_id')
    .select('order_line.order_id')
    .where('transfer_id', '=', transferId)
    .execute();
  return [...new Set(rows.map((row) => row.order_id))].map((key) => ({ kind: 'order' as const, key }));
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
