import type { ItemPage } from '@nockwright/contract/items';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { readItem } from './read-item';

/** Says how many days of life must be left of an item on delivery. What was promised before stays promised. */
export async function setLeastLife(context: CommandContext, code: string, days: number): Promise<ItemPage> {
  const { trx, now } = context;
  const item = await trx.selectFrom('item').select(['tracks_expiry', 'least_life']).where('code', '=', code).forNoKeyUpdate().executeTakeFirst();
  if (!item) throw notFound(`item ${code}`);
  if (!item.tracks_expiry) throw new Refusal('conflict', `${code} does not expire: no life is asked of it.`);
  await trx.updateTable('item').set({ least_life: days }).where('code', '=', code).execute();
  await recordEvent(context, {
    kind: 'item.life_set',
    facts: { item: code, days },
    before: { leastLife: item.least_life },
    after: { leastLife: days },
    subjects: [{ kind: 'item', key: code }],
  });
  return readItem(trx, now, code);
}
