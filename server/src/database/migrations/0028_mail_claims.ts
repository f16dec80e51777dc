import { sql, type Kysely } from 'kysely';

/**
 * A mail goes out at least once, always under one Message-ID, so that who gets it twice sees it once. Whoever sends it claims
 * it for a while; what became of it is kept for each recipient.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
alter table mail
  add column message_id text not null default gen_random_uuid()::text,
  add column claimed_until timestamptz,
  add column fates jsonb not null default '[]';
create unique index mail_message_id on mail (message_id);
`,
    )
    .execute(db);
}
