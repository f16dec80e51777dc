import { sql, type Kysely } from 'kysely';

/**
 * What brought a call or an event about is an act with its facts; what a supplier's message says, and what became of an answer,
 * are facts too. What was written in words before stays as it is, as words.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table event add column cause jsonb`.execute(db);
  await sql`
    alter table customer_call add column cause jsonb, alter column why drop not null,
      add constraint call_says_why check (num_nonnulls(cause, why) = 1)`.execute(db);
  await sql`alter table exchange_message add column findings jsonb not null default '[]'`.execute(db);
  await sql`
    update exchange_message set findings = (select jsonb_agg(jsonb_build_object('about', 'words', 'words', s) order by n) from unnest(says) with ordinality as u(s, n))
    where says <> '{}'`.execute(db);
  await sql`alter table exchange_message drop column says`.execute(db);
  await sql`
    alter table consent_request alter column outcome drop default, alter column outcome drop not null,
      alter column outcome type jsonb using case when outcome = '' then null
        else jsonb_build_object('done', '[]'::jsonb, 'owed', null, 'failed', null, 'words', outcome) end`.execute(db);
}
