import type { Trx } from '../database';

/**
 * The next number of a series, without gaps or repeats: its row is locked until the transaction ends, and rolled back
 * with it. Taken after all other locks, so that it is held as briefly as can be.
 */
export async function nextNumber(trx: Trx, series: 'order' | 'purchase' | 'shipment' | 'contract'): Promise<string> {
  const { next } = await trx
    .updateTable('number_series')
    .set(({ eb }) => ({ next: eb('next', '+', 1) }))
    .where('name', '=', series)
    .returning('next')
    .executeTakeFirstOrThrow();
  const prefix = { order: '', purchase: 'P', shipment: 'D', contract: 'K' }[series];
  return `${prefix}${next - 1}`;
}
