import { readBankCsv, readCamt053 } from '@nockwright/core/bank';
import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import type { CommandContext } from '../http/context';
import { recordEvent } from '../events';
import { Refusal } from '../http/refusal';

const MOST_FAULTS = 5;

/** Takes in a bank file. The same file again, and movements that stood in another, add nothing. */
export async function addBankFile(context: CommandContext, name: string, content: string): Promise<{ found: number; added: number }> {
  const { trx, now, user } = context;
  const { currency } = await trx.selectFrom('firm').select('currency').executeTakeFirstOrThrow();
  const read = content.trimStart().startsWith('<') ? readCamt053(content) : readBankCsv(content, currency);
  if (!read.ok) {
    const errors = read.faults.slice(0, MOST_FAULTS).map((message) => ({ field: 'body.content', message }));
    throw new Refusal('invalid', `${name}: ${errors.map(({ message }) => message).join('; ')}`, errors);
  }
  const { account, entries, currency: theirs } = read.document;
  if (theirs !== '' && theirs !== currency) throw new Refusal('invalid', `${name}: expected amounts in ${currency}, got ${theirs}`);
  const sha256 = createHash('sha256').update(content).digest('hex');
  const known = await trx.selectFrom('bank_file').select('id').where('sha256', '=', sha256).executeTakeFirst();
  if (known) return { found: entries.length, added: 0 };
  const { id } = await trx
    .insertInto('bank_file')
    .values({ name, sha256, account, added_at: now.instant, added_by: user.id })
    .returning('id')
    .executeTakeFirstOrThrow();
  const cut = (text: string, most: number) => text.slice(0, most);
  const column = (of: (row: (typeof entries)[number]) => string) => entries.map(of);
  const { rows } = await sql<{ id: number }>`
    insert into bank_entry (file_id, account, key, day, amount, direction, party, party_account, reference, text)
    select ${id}, ${account}, k.* from unnest(${column((row) => cut(row.key, 500))}::text[], ${column((row) => row.day)}::date[], ${column((row) => row.amount)}::numeric[],
      ${column((row) => row.direction)}::text[], ${column((row) => cut(row.party, 140))}::text[], ${column((row) => cut(row.partyAccount, 40))}::text[],
      ${column((row) => cut(row.reference, 140))}::text[], ${column((row) => cut(row.text, 2000))}::text[]) k
    on conflict (account, key) do nothing returning id`.execute(trx);
  await recordEvent(context, {
    kind: 'bank.file_added',
    facts: { name, found: entries.length, added: rows.length },
    subjects: [{ kind: 'firm', key: 'firm' }],
  });
  return { found: entries.length, added: rows.length };
}
