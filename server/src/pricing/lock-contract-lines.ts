import { anyOf, type Trx } from '../database';

/**
 * Locks contract lines against other orders that are priced by them, in one order of ids. Comes after the orders and
 * before the pools in the one lock order.
 */
export async function lockContractLines(trx: Trx, ids: readonly (number | null)[]): Promise<void> {
  const wanted = [...new Set(ids.filter((id) => id !== null))];
  if (wanted.length > 0) await trx.selectFrom('contract_line').select('id').where(anyOf('id', wanted)).orderBy('id').forNoKeyUpdate().execute();
}
