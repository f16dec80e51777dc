import { sql, type Kysely } from 'kysely';

/** What the customer was told of a line when a route was chosen for it, and when that was: undone, it is what they know, unless they were told more since. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(`alter table line_route add column told_before jsonb, add column made_at timestamptz`).execute(db);
}
