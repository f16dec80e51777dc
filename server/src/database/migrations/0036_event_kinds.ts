import { sql, type Kysely } from 'kysely';

/** What happened is a kind with its facts; what was written in words before stays as it is. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    alter table event add column kind text, add column facts jsonb, alter column what drop not null,
      add constraint event_says_what check (num_nonnulls(kind, what) = 1 and num_nonnulls(kind, facts) <> 1)`.execute(db);
  await sql`create index event_kind_index on event (kind, at)`.execute(db);
}
