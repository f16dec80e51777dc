import { sql, type Kysely } from 'kysely';

/** Customers are found by mail address and street too, their own and those they have goods sent to. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
alter table customer add column also text generated always as (lower(email || ' ' || street)) stored;
create index customer_also on customer using gin (also gin_trgm_ops);
alter table ship_to add column search text generated always as
  (lower(name || ' ' || street || ' ' || postcode || ' ' || replace(postcode, ' ', '') || ' ' || town)) stored;
create index ship_to_search on ship_to using gin (search gin_trgm_ops);
`,
    )
    .execute(db);
}
