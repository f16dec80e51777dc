import type { ItemPage } from '@nockwright/contract/items';
import type { ItemCode } from '@nockwright/core/ids';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound } from '../http/refusal';
import { readItem } from './read-item';

/** Says by which other words an item is known, and in which sizes it comes: it is found by them. */
export async function setAlso(context: CommandContext, code: ItemCode, also: string): Promise<ItemPage> {
  const { trx, now } = context;
  const item = await trx.selectFrom('item').select('also').where('code', '=', code).forNoKeyUpdate().executeTakeFirst();
  if (!item) throw notFound(`item ${code}`);
  if (item.also !== also) {
    await trx.updateTable('item').set({ also }).where('code', '=', code).execute();
    await recordEvent(context, {
      kind: 'item.also',
      facts: { item: code, also },
      before: { also: item.also },
      after: { also },
      subjects: [{ kind: 'item', key: code }],
    });
  }
  return readItem(trx, now, code);
}
