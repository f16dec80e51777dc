import type { Firm, firmRoutes } from '@nockwright/contract/firm';
import type { BodyOf } from '@nockwright/contract/shape';
import { sql } from 'kysely';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';
import { readFirm } from './read-firm';
import { FIRM, lockFirm } from './set-firm';

/** The table whose documents a series numbers, by its name up to a source of its own (`order/portal`). */
const TABLES: Readonly<Record<string, string>> = {
  order: 'sales_order',
  quote: 'sales_order',
  purchase: 'purchase_order',
  contract: 'contract',
  customer: 'customer',
  transfer: 'transfer_order',
  assembly: 'assembly_order',
  invoice: 'invoice',
  credit_note: 'invoice',
};

/**
 * Sets where a series goes on. A prefix is not followed by digits of its own, and belongs to one series of a kind of
 * document: so no two series ever give the same number. The series is locked last, as by whoever takes a number.
 */
export async function setSeries(context: CommandContext, { version, name, prefix, next }: BodyOf<typeof firmRoutes.setSeries>): Promise<Firm> {
  const { trx } = context;
  await lockFirm(trx, version);
  if (!/^([A-Z0-9-]*[A-Z-])?$/.test(prefix))
    throw invalid('body.prefix', `expected capital letters, digits and dashes that do not end in a digit, got ${prefix}`);
  const all = await trx.selectFrom('number_series').selectAll().orderBy('name').forUpdate().execute();
  const before = all.find((row) => row.name === name);
  const table = TABLES[name.split('/')[0]!];
  if (!before || !table) throw invalid('body.name', `there is no series ${name}`);
  const same = all.find((row) => row.name !== name && TABLES[row.name.split('/')[0]!] === table && row.prefix === prefix);
  if (prefix !== before.prefix && same) throw invalid('body.prefix', `${prefix === '' ? 'no prefix' : prefix} is that of the series ${same.name} already`);
  const { rows } = await sql<{ last: string | null }>`
    select max(substr(number, ${prefix.length + 1}::int)::numeric)::text as last from ${sql.table(table)}
    where starts_with(number, ${prefix}) and substr(number, ${prefix.length + 1}::int) ~ '^[0-9]{1,15}$'`.execute(trx);
  const last = rows[0]!.last;
  if (last !== null && next <= Number(last)) throw invalid('body.next', `${prefix}${last} is given already: expected ${Number(last) + 1} or more, got ${next}`);
  await trx.updateTable('number_series').set({ prefix, next }).where('name', '=', name).execute();
  await trx
    .updateTable('firm')
    .set({ version: sql`version + 1` })
    .execute();
  await recordEvent(context, {
    kind: 'series.set',
    facts: { series: name, prefix, next, was: { prefix: before.prefix, next: before.next } },
    before: { prefix: before.prefix, next: before.next },
    after: { prefix, next },
    subjects: [FIRM],
  });
  return readFirm(trx);
}
