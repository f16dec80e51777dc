import type { ReorderPolicy } from '@nockwright/contract/supply';
import type { Db } from '../../database';
import { recordEvent } from '../../events';
import type { CommandContext } from '../../http/context';

const REORDER = 'reorder_policy';
/** Where nobody has set it: common practice of wholesalers, no source. */
const USUAL: ReorderPolicy = { level: '95', orderCost: '30', holdingPercent: '20', demandDays: 90 };

/** How it is reckoned when to buy and how much. */
export async function readReorderPolicy(db: Db): Promise<ReorderPolicy> {
  const row = await db.selectFrom('desk_setting').select('value').where('name', '=', REORDER).executeTakeFirst();
  return (row?.value as ReorderPolicy | undefined) ?? USUAL;
}

export async function setReorderPolicy(context: CommandContext, wish: ReorderPolicy): Promise<ReorderPolicy> {
  const { trx } = context;
  const before = await readReorderPolicy(trx);
  const value = JSON.stringify(wish);
  await trx
    .insertInto('desk_setting')
    .values({ name: REORDER, value })
    .onConflict((conflict) => conflict.column('name').doUpdateSet({ value }))
    .execute();
  await recordEvent(context, { kind: 'reorder.set', facts: {}, before, after: wish, subjects: [{ kind: 'supplier', key: 'all' }] });
  return wish;
}
