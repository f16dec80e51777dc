import type { CustomerId } from '@nockwright/core/ids';
import type { Reminder } from '@nockwright/contract/customers';
import type { Db } from '../database';

/** What was left for whoever speaks to a customer next, oldest first. */
export async function loadReminders(db: Db, customerId: CustomerId): Promise<Reminder[]> {
  const rows = await db
    .selectFrom('customer_note')
    .innerJoin('app_user', 'app_user.id', 'customer_note.made_by')
    .select(['customer_note.id', 'customer_note.text', 'app_user.name as by', 'customer_note.made_at'])
    .where('customer_id', '=', customerId)
    .where('closed_at', 'is', null)
    .orderBy('customer_note.id')
    .execute();
  return rows.map(({ made_at, ...row }) => ({ ...row, at: made_at.toISOString() }));
}
