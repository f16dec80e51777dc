import type { CommandContext } from '../http/context';

/** A label that is not needed any more is voided with the carrier. A consignment without one has nothing to void. */
export async function voidLabelOf({ trx, jobs, now }: Pick<CommandContext, 'trx' | 'jobs' | 'now'>, consignment: number): Promise<void> {
  const row = await trx
    .updateTable('consignment_label')
    .set({ state: 'voiding', try_at: now.instant, attempts: 0, fault: '' })
    .where('consignment_id', '=', consignment)
    .where('state', 'in', ['waiting', 'made', 'failed'])
    .returning('id')
    .executeTakeFirst();
  if (row) await jobs.send(trx, 'carrier', { label: row.id });
}

/** Voids the label where nothing of the consignment is left to send. */
export async function voidUnneeded(context: Pick<CommandContext, 'trx' | 'jobs' | 'now'>, consignment: number): Promise<void> {
  const left = await context.trx
    .selectFrom('shipment')
    .select('id')
    .where('consignment_id', '=', consignment)
    .where('state', '=', 'picking')
    .executeTakeFirst();
  if (!left) await voidLabelOf(context, consignment);
}
