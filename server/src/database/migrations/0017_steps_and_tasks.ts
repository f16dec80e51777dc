import { sql, type Kysely } from 'kysely';

/**
 * In what steps each unit of an item is sold: whole, unless it says otherwise. What the text of an order asks for that is no
 * line of it stays with the order until somebody has dealt with it.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(SCHEMA).execute(db);
}

const SCHEMA = `
alter table item add column step numeric(12, 4) not null default 1 check (step > 0);
alter table item_unit add column step numeric(12, 4) not null default 1 check (step > 0);

create table order_task (
  id integer generated always as identity primary key,
  order_id integer not null references sales_order on delete cascade,
  words text not null check (words <> ''),
  noted_by integer not null references app_user,
  noted_at timestamptz not null,
  closed_by integer references app_user,
  closed_at timestamptz,
  how text not null default '',
  check ((closed_by is null) = (closed_at is null))
);
create index order_task_order on order_task (order_id);`;
