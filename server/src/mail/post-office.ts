import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';

const SETTING = 'post_office_open';

/** Whether the stand-in post office takes mail; it does until somebody closes it. */
export async function readPostOffice(db: Db): Promise<boolean> {
  const row = await db.selectFrom('desk_setting').select('value').where('name', '=', SETTING).executeTakeFirst();
  return row?.value !== false;
}

/** Closes the stand-in post office, as a server that is down, or opens it again. */
export async function setPostOffice(context: CommandContext, open: boolean): Promise<{ open: boolean }> {
  const value = JSON.stringify(open);
  await context.trx
    .insertInto('desk_setting')
    .values({ name: SETTING, value })
    .onConflict((conflict) => conflict.column('name').doUpdateSet({ value }))
    .execute();
  await recordEvent(context, { kind: 'post_office.set', facts: { open }, subjects: [{ kind: 'mail', key: 0 }] });
  return { open };
}
