import { sql, type Kysely } from 'kysely';

/**
 * What of a supplier's answer holds at once, and what waits for a person: a price or a day further off than their tolerance,
 * more than was ordered. And what their units hold.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
alter table supplier
  /* Per cent that a cost may differ from the one that stands, and days that a day may. */
  add column price_tolerance numeric not null default 10 check (price_tolerance between 0 and 1000),
  add column day_tolerance integer not null default 14 check (day_tolerance between 0 and 365);
create table supplier_unit (
  supplier text not null,
  item text not null,
  unit text not null,
  /* Stocking units in one of theirs. */
  quantity numeric not null check (quantity > 0),
  primary key (supplier, item, unit),
  foreign key (supplier, item) references supplier_item on delete cascade
);
alter table exchange_message drop constraint exchange_message_state_check;
/* Held: it would change more than may hold by itself; a person takes it or leaves it. */
alter table exchange_message add constraint exchange_message_state_check check (state in ('waiting', 'written', 'taken', 'held', 'refused'));
drop index exchange_message_once;
create unique index exchange_message_once on exchange_message (supplier, kind, number) where direction = 'in' and state in ('taken', 'held');
`,
    )
    .execute(db);
}
