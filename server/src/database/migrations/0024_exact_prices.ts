import { sql, type Kysely } from 'kysely';

/** A fixed price of one unit, for one of another, may need more than four decimals to come to the same amount. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table order_line alter column price type numeric(24, 12)`.execute(db);
}
