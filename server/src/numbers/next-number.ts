import type { Trx } from '../database';

export type Series = 'order' | 'purchase' | 'shipment' | 'contract' | 'quote' | 'customer' | 'transfer' | 'assembly';

/**
 * The next number of a series, without gaps or repeats: its row is locked until the transaction ends, and rolled back
 * with it. Taken after all other locks, so that it is held as briefly as can be. Orders of a source have a series of
 * their own where there is one (`order/portal`).
 */
export async function nextNumber(trx: Trx, series: Series, source?: string): Promise<string> {
  const own = source === undefined ? undefined : await take(trx, `${series}/${source}`);
  const number = own ?? (await take(trx, series));
  if (number === undefined) throw new Error(`there is no number series ${series}`);
  return number;
}

async function take(trx: Trx, name: string): Promise<string | undefined> {
  const row = await trx
    .updateTable('number_series')
    .set(({ eb }) => ({ next: eb('next', '+', 1) }))
    .where('name', '=', name)
    .returning(['next', 'prefix'])
    .executeTakeFirst();
  return row && `${row.prefix}${row.next - 1}`;
}
