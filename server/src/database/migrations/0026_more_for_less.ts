import { sql, type Kysely } from 'kysely';

/** What is bought for stock besides, because the whole purchase comes to less so. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table line_route add column more numeric check (more > 0)`.execute(db);
}
