import type { Customer } from '@nockwright/contract/customers';
import type { CustomerId, ItemCode } from '@nockwright/core/ids';
import { sql } from 'kysely';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { lockCustomer } from './lock-customer';
import { readCustomer } from './read-customer';

/** Says what a customer calls an item on their own papers; null: as we do. One number of theirs means one item. */
export async function setItemNumber(context: CommandContext, customerId: CustomerId, item: ItemCode, code: string | null): Promise<Customer> {
  const { trx, now } = context;
  await lockCustomer(trx, customerId);
  if (!(await trx.selectFrom('item').select('code').where('code', '=', item).executeTakeFirst())) throw notFound(`item ${item}`);
  const kept = await trx.selectFrom('customer_item').select(['item', 'code']).where('customer_id', '=', customerId).execute();
  const before = kept.find((row) => row.item === item)?.code ?? null;
  const other = code === null ? undefined : kept.find((row) => row.item !== item && row.code.toLowerCase() === code.toLowerCase());
  if (other)
    throw new Refusal('conflict', `${code} is their number of ${other.item} already.`, [{ field: 'body.code', message: `they call ${other.item} so` }]);
  if (before === code) return readCustomer(trx, customerId, now.today);
  if (code === null) await trx.deleteFrom('customer_item').where('customer_id', '=', customerId).where('item', '=', item).execute();
  else
    await trx
      .insertInto('customer_item')
      .values({ customer_id: customerId, item, code })
      .onConflict((conflict) => conflict.columns(['customer_id', 'item']).doUpdateSet({ code }))
      .execute();
  await recordEvent(context, {
    kind: 'item_number.set',
    facts: { item, code },
    before: { code: before },
    after: { code },
    subjects: [
      { kind: 'customer', key: customerId },
      { kind: 'item', key: item },
    ],
  });
  return readCustomer(trx, customerId, now.today);
}

/** The items that a customer calls by one of these words, by the word in lower case. */
export async function itemsByTheirNumbers(db: Db, customer: number, words: readonly string[]): Promise<ReadonlyMap<string, ItemCode>> {
  if (words.length === 0) return new Map();
  const rows = await db
    .selectFrom('customer_item')
    .select(['item', sql<string>`lower(code)`.as('word')])
    .where('customer_id', '=', customer)
    .where(sql<boolean>`lower(code) = any(${words.map((word) => word.toLowerCase())})`)
    .execute();
  return new Map(rows.map((row) => [row.word, row.item]));
}
