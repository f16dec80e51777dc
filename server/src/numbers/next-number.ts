import { sql, type RawBuilder } from 'kysely';
import type { Trx } from '../database';

export type Series = 'order' | 'purchase' | 'contract' | 'quote' | 'customer' | 'transfer' | 'assembly' | 'invoice' | 'credit_note';

/**
 * The next number of a series, without gaps or repeats: its row is locked until the transaction ends, and rolled back
 * with it. Taken after all other locks, so that it is held as briefly as can be. Orders of a source have a series of
 * their own where there is one (`order/portal`).
 */
export async function nextNumber(trx: Trx, series: Series, source?: string): Promise<string> {
  const own = `${series}/${source ?? ''}`;
  const { rows } = await sql<{ number: string }>`
    update number_series set next = next + 1
    where name = (select name from number_series where name in (${own}, ${series}) order by name = ${own} desc limit 1)
    returning prefix || (next - 1) as number`.execute(trx);
  if (!rows[0]) throw new Error(`there is no number series ${series}`);
  return rows[0].number;
}

/**
 * The number of an order's next shipment: `20400-2` is the second. Nobody else makes one meanwhile: the order must be locked. A shipment that was
 * cancelled keeps its number.
 */
export function shipmentNumber(order: { readonly id: number; readonly number: string | null }): RawBuilder<string> {
  return sql<string>`${order.number} || '-' || (select count(*) + 1 from shipment where order_id = ${order.id})::text`;
}
