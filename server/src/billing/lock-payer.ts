import type { CustomerId } from '@nockwright/core/ids';
import type { Trx } from '../database';
import { takeLocks } from '../locks';

/** Locks a customer for what they owe: no other payment, credit or invoice of theirs is written meanwhile. */
export function lockPayer(trx: Trx, customer: CustomerId): Promise<void> {
  return takeLocks(trx, { customers: [customer] });
}
