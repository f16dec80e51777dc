import type { ItemPage } from '@nockwright/contract/items';
import type { ItemCode } from '@nockwright/core/ids';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { readItem } from './read-item';

/** Says by which class an item is taxed. Invoices that are issued stay as they are. */
export async function setItemTax(context: CommandContext, code: ItemCode, taxClass: string): Promise<ItemPage> {
  const { trx, now } = context;
  const item = await trx.selectFrom('item').select('tax_class').where('code', '=', code).forNoKeyUpdate().executeTakeFirst();
  if (!item) throw notFound(`item ${code}`);
  const known = await trx.selectFrom('tax_class').select('name').where('code', '=', taxClass).executeTakeFirst();
  if (!known) throw invalid('body.taxClass', `there is no tax class ${taxClass}`);
  await trx.updateTable('item').set({ tax_class: taxClass }).where('code', '=', code).execute();
  await recordEvent(context, {
    kind: 'item.taxed',
    facts: { item: code, taxClass: known.name },
    before: { taxClass: item.tax_class },
    after: { taxClass },
    subjects: [{ kind: 'item', key: code }],
  });
  return readItem(trx, now, code);
}
