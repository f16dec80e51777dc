import { sql, type Kysely } from 'kysely';

/** What is agreed for one order beside what its customer has always: terms, what it is about, how many shipments at most. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
alter table customer add column most_shipments integer check (most_shipments > 0);
alter table sales_order
  add column terms_days integer check (terms_days >= 0),
  add column description text not null default '',
  add column most_shipments integer check (most_shipments > 0);
update sales_order set terms_days = c.terms_days from customer c where c.id = customer_id;
alter table sales_order alter column terms_days set not null;
`,
    )
    .execute(db);
}
