import { sql, type Kysely } from 'kysely';

/** The costs of an item that the manager cleared: how far a cost may go from them is counted from here, not from the last one. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
alter table supplier_item
  /* Null until the terms change for the first time: as the cost and its breaks. */
  add column cleared_most numeric check (cleared_most >= 0),
  add column cleared_least numeric check (cleared_least >= 0 and cleared_least <= cleared_most);
`,
    )
    .execute(db);
}
