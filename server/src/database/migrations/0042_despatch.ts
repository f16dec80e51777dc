import { sql, type Kysely } from 'kysely';

/** What a customer pays for freight and whether they take despatch advices as files; what each shipment was charged. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
alter table customer
  add column freight_rule text not null default 'included' check (freight_rule in ('included', 'flat', 'at_cost', 'own_account')),
  add column freight_flat numeric(12, 2) check (freight_flat >= 0),
  add column freight_free_from numeric(12, 2) check (freight_free_from >= 0),
  /* Theirs with the carrier. */
  add column freight_account text not null default '',
  add column takes_advices boolean not null default false,
  add constraint freight_is_whole check ((freight_rule = 'flat') <= (freight_flat is not null) and (freight_rule = 'own_account') <= (freight_account <> ''));
/* What the customer pays for the freight of a shipment; null: it has not left, or left before there were such terms. */
alter table shipment add column freight_charge numeric(12, 2) check (freight_charge >= 0);
`,
    )
    .execute(db);
}
