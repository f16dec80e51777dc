import { sql, type Kysely } from 'kysely';

/** Who set a line's price by hand: somebody else approves it where it is below the floor. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(`alter table order_line add column price_set_by integer references app_user`).execute(db);
}
