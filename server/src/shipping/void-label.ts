import { sql } from 'kysely';
import type { CommandContext } from '../http/context';

/** A label that is not needed any more is voided with the carrier. A consignment without one has nothing to void. */
export async function voidLabelOf({ trx, jobs }: Pick<CommandContext, 'trx' | 'jobs'>, consignment: number): Promise<void> {
  const row = await trx
    .updateTable('consignment_label')
    .set({ state: 'voiding', try_at: sql`now()`, attempts: 0, fault: '' })
    .where('consignment_id', '=', consignment)
    .where('state', 'in', ['waiting', 'made', 'failed'])
    .returning('id')
    .executeTakeFirst();
  if (row) await jobs.send(trx, 'carrier', { label: row.id });
}
