import type { CustomerId } from '@nockwright/core/ids';
import type { Trx } from '../database';
import { notFound } from '../http/refusal';
import { takeLocks } from '../locks';

/** Takes a customer's lock: what is kept of them changes one act after the other. */
export async function lockCustomer(trx: Trx, customerId: CustomerId): Promise<void> {
  await takeLocks(trx, { customers: [customerId] });
  if (!(await trx.selectFrom('customer').select('id').where('id', '=', customerId).executeTakeFirst())) throw notFound(`customer ${customerId}`);
}
