import { sql, type Kysely } from 'kysely';

/** Whoever writes a price list names the version they saw, as for every other document. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table price_list add column version integer not null default 1`.execute(db);
}
