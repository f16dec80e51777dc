import type { PurchaseId } from '@nockwright/core/ids';
import { type DemandInfo } from '@nockwright/core/book';
import type { Cause } from '@nockwright/contract/history';
import type { Decision, PromisePart, RippleView } from '@nockwright/contract/promise';
import { type Moved, movedParts } from '@nockwright/core/promise';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import type { CommandContext } from '../http/context';
import { dropMoves, nextCarrierDay } from '@nockwright/core/orders';
import { checkAsSeen, describeLines, recordMoves, toldParts } from '../promise';
import type { AwaitedChange } from './awaited-change';

interface DropMove {
  readonly info: Omit<DemandInfo, 'warehouse'>;
  readonly row: Moved;
  readonly after: readonly PromisePart[];
}

/** What changes of drop shipments do to what their customers were told: a later day, or goods that do not come. */
export async function viewDropRipple(db: Db, now: Now, changes: readonly AwaitedChange[]): Promise<RippleView> {
  const moves = await movesOf(db, now, changes);
  const describe = await describeLines(
    db,
    moves.map(({ info }) => info.lineId),
    now.today,
  );
  const view = moves.map(({ info, row }) => describe(info, row, { own: false, told: true }));
  const isEarlier = ({ days }: { readonly days: number | null }) => days !== null && days < 0;
  return { later: view.filter((row) => !isEarlier(row)), earlier: view.filter(isEarlier), offers: [] };
}

/**
 * Carries a change of drop shipments out (`record`). With a decision the days that were seen are from now on what their
 * customers were told; without one they stand as told. Whoever is told another day, or loses goods, is to be called.
 * The orders and the purchase must be locked.
 */
export async function settleDropShipments(
  context: CommandContext,
  changes: readonly AwaitedChange[],
  decision: Decision | undefined,
  cause: Cause,
  record: () => Promise<unknown>,
): Promise<void> {
  const { trx, now } = context;
  const lines = changes.flatMap(({ line }) => line.order_line_id ?? []);
  const infos = await namesOf(trx, lines);
  if (decision) {
    const moves = await movesOf(trx, now, changes);
    checkAsSeen(
      decision,
      moves.map(({ info, after }) => ({ ...info, after })),
      (line) => infos.get(line),
      now.today,
    );
  }
  const told = await toldParts(trx, lines);
  await record();
  if (decision)
    await trx
      .updateTable('purchase_line')
      .set({ told_day: sql`case when expected_day < ${now.today}::date then ${nextCarrierDay(now.today)}::date else expected_day end` })
      .where(
        anyOf(
          'id',
          changes.map(({ line }) => line.id),
        ),
      )
      .execute();
  const holding = await toldParts(trx, lines);
  const moves = [...infos.values()].map((info) => ({ ...info, before: told.get(info.lineId) ?? [], holds: holding.get(info.lineId) ?? [] }));
  await recordMoves(
    context,
    moves.filter(({ before, holds }) => movedParts(before, holds)),
    cause,
  );
}

/** What becomes of what was told of the drop shipments that change, with whose they are. */
async function movesOf(db: Db, now: Now, changes: readonly AwaitedChange[]): Promise<DropMove[]> {
  const infos = await namesOf(
    db,
    changes.flatMap(({ line }) => line.order_line_id ?? []),
  );
  const bound = changes.flatMap(({ line, day, open }) =>
    line.order_line_id === null ? [] : [{ line: line.order_line_id, told: line.told_day!, open: line.open, day, left: open }],
  );
  const moves = new Map(dropMoves(bound, now.today).map((move) => [move.line, move]));
  return [...infos.values()].flatMap((info) => {
    const move = moves.get(info.lineId);
    return move ? [{ info, row: move.row, after: move.after }] : [];
  });
}

async function namesOf(db: Db, lineIds: readonly number[]): Promise<ReadonlyMap<number, Omit<DemandInfo, 'warehouse'>>> {
  const rows = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .select(['order_line.id', 'order_line.line_no', 'order_line.item', 'sales_order.id as order_id', 'sales_order.number'])
    .where(anyOf('order_line.id', [...new Set(lineIds)]))
    .orderBy('order_line.id')
    .execute();
  return new Map(rows.map((row) => [row.id, { lineId: row.id, lineNo: row.line_no, orderId: row.order_id, orderNumber: row.number ?? '', item: row.item }]));
}

/** The orders that drop shipments of a purchase are for: they are locked before it is. */
export async function ordersDroppedBy(db: Db, purchaseId: PurchaseId): Promise<number[]> {
  const rows = await db
    .selectFrom('purchase_line')
    .innerJoin('order_line', 'order_line.id', 'purchase_line.order_line_id')
    .select('order_line.order_id')
    .distinct()
    .where('purchase_line.purchase_id', '=', purchaseId)
    .where('purchase_line.warehouse', 'is', null)
    .execute();
  return rows.map((row) => row.order_id);
}
