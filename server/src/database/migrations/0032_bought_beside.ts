import { sql, type Kysely } from 'kysely';

/** What was bought for stock beside goods of an order line, to have the whole for less: it goes where they are struck off a draft. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table purchase_line add column beside_id integer references purchase_line on delete set null`.execute(db);
  await sql`create index purchase_line_beside on purchase_line (beside_id) where beside_id is not null`.execute(db);
}
