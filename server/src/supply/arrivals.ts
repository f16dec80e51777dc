import type { IsoDay } from '@nockwright/core/calendar';
import type { SupplierCode, WarehouseCode } from '@nockwright/core/ids';
import { lotKey, type Arrival, type Receipt, type ReceiptFacts, type ReceiptFault } from '@nockwright/core/receiving';
import { compareDecimal } from '@nockwright/core/money';
import { readSerials } from '@nockwright/core/serials';
import { sql } from 'kysely';
import { anyOf, insertRows, together, type Trx } from '../database';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { loadWheres, placeSerials } from '../serials';
import type { PurchaseLineRecord } from './load-purchase';

/** What decides about a receipt of these lines. The purchase and the orders it is for must be locked. */
export async function loadReceiptFacts(
  trx: Trx,
  warehouse: WarehouseCode,
  lines: readonly PurchaseLineRecord[],
  arrivals: readonly Arrival[],
  today: IsoDay,
): Promise<ReceiptFacts<PurchaseLineRecord>> {
  const named = arrivals.flatMap((row) => {
    const read = readSerials(row.serials ?? '', today);
    return read.ok ? read.serials : [];
  });
  const [lots, bins, orderLines, serials] = await together(trx, (db) =>
    Promise.all([
      db
        .selectFrom('item_lot')
        .selectAll()
        .where(anyOf('item', [...new Set(lines.map((line) => line.item))]))
        .where(anyOf('lot', [...new Set(arrivals.map((row) => row.lot ?? ''))]))
        .execute(),
      db
        .selectFrom('bin')
        .select('code')
        .where('warehouse', '=', warehouse)
        .where(anyOf('code', [...new Set(arrivals.map((row) => row.bin ?? ''))]))
        .execute(),
      db
        .selectFrom('order_line')
        .select(['id', 'stock_quantity', 'shipped', 'cancelled', 'reserved'])
        .where(
          anyOf(
            'id',
            lines.flatMap((line) => line.order_line_id ?? []),
          ),
        )
        .execute(),
      loadWheres(db, [...new Set(lines.filter((line) => line.tracks_serials).map((line) => line.item))], named),
    ]),
  );
  return {
    lines,
    lots: new Map(lots.map((row) => [lotKey(row.item, row.lot), row.expires])),
    warehouse,
    bins: new Set(bins.map((row) => row.code)),
    serials,
    orderLines: new Map(orderLines.map((row) => [row.id, row])),
  };
}

/** A refusal of a receipt, with each line and field at fault. */
export function receiptRefusal(faults: readonly ReceiptFault[]): Refusal {
  const errors = faults.map(({ field, message }) => ({ field: `body.${field}`, message }));
  return new Refusal('invalid', errors.map(({ field, message }) => `${field}: ${message}`).join('; '), errors);
}

/** Puts what came into its bins and counts it: a statement of each kind, however many lines there are. The pools must be locked. */
export async function storeReceipt(
  context: CommandContext,
  { number, supplier }: { readonly number: string; readonly supplier: SupplierCode },
  { lines, goods, newLots, reserved }: Receipt<PurchaseLineRecord>,
): Promise<void> {
  const { trx, now } = context;
  if (newLots.length > 0)
    await trx
      .insertInto('item_lot')
      .values([...newLots])
      .onConflict((conflict) => conflict.doNothing())
      .execute();
  await insertRows(
    trx,
    'stock_movement',
    goods.map(({ line, quantity, damaged, lot, bin }) => ({
      at: now.instant,
      item: line.item,
      warehouse: line.warehouse!,
      kind: 'receipt',
      reference: `${number}/${line.line_no}`,
      quantity,
      status: damaged ? 'quarantine' : 'available',
      reason: damaged ? 'damaged' : null,
      lot,
      bin,
    })),
  );
  await placeSerials(
    context,
    goods.map(({ line, damaged, lot, bin, serials }) => ({
      item: line.item,
      warehouse: line.warehouse!,
      status: damaged ? ('quarantine' as const) : ('available' as const),
      lot,
      bin,
      serials,
      reference: `${number}/${line.line_no}`,
    })),
    'received',
  );
  if (reserved.size > 0)
    await sql`update order_line l set reserved = k.reserved
      from unnest(${[...reserved.keys()]}::int[], ${[...reserved.values()]}::numeric[]) as k(id, reserved) where l.id = k.id`.execute(trx);
  await sql`update purchase_line l set received = k.received, quantity = k.ordered, damaged = l.damaged + k.damaged
    from unnest(${lines.map(({ line }) => line.id)}::int[], ${lines.map((row) => row.received)}::numeric[], ${lines.map((row) => row.ordered)}::numeric[],
      ${lines.map((row) => row.damaged)}::numeric[]) as k(id, received, ordered, damaged)
    where l.id = k.id`.execute(trx);
  await insertRows(
    trx,
    'supplier_receipt',
    lines
      .filter((row) => compareDecimal(row.quantity, '0') > 0)
      .map(({ line }) => ({ supplier, item: line.item, promised_day: line.first_day, received_day: now.today })),
  );
}
