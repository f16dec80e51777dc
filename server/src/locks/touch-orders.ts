import { sql } from 'kysely';
import { anyOf } from '../database';
import type { CommandContext } from '../http/context';

/** Marks orders as changed now: whoever has seen them as they were is refused, and told who changed them. */
export async function touchOrders({ trx, now }: Pick<CommandContext, 'trx' | 'now'>, orders: readonly number[]): Promise<void> {
  await trx
    .updateTable('sales_order')
    .set({ version: sql`version + 1`, saved_at: now.instant })
    .where(anyOf('id', [...new Set(orders)]))
    .execute();
}
