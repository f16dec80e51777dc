import { sql, type Kysely } from 'kysely';

/**
 * Sales over the counter: a draft order whose goods are held as they are scanned, so that nobody else sells them, until it is paid or dropped.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [BASKETS, HOLDS]) await sql.raw(statement).execute(db);
}

const BASKETS = `
create table counter_basket (
  order_id integer primary key references sales_order,
  warehouse text not null references warehouse,
  state text not null default 'open' check (state in ('open', 'paid', 'dropped')),
  opened_at timestamptz not null,
  opened_by integer not null references app_user
);
create index counter_basket_open on counter_basket (warehouse) where state = 'open';
create table counter_payment (
  order_id integer primary key references counter_basket,
  method text not null check (method in ('cash', 'card', 'account')),
  amount numeric(12, 2) not null check (amount >= 0),
  given numeric(12, 2) not null,
  /* Of the card terminal. */
  reference text not null default '',
  at timestamptz not null,
  taken_by integer not null references app_user,
  check (given >= amount or method <> 'cash')
);
`;

/** What is held is off the shelf for everybody: it is kept aside in its pool, and allocated in its bin and lot. */
const HOLDS = `
create table counter_hold (
  id integer generated always as identity primary key,
  order_id integer not null references counter_basket,
  line_id integer not null references order_line on delete cascade,
  place_id integer not null references stock_place,
  quantity numeric(15, 4) not null check (quantity > 0),
  unique (line_id, place_id)
);
create index counter_hold_order on counter_hold (order_id);
create function stock_after_counter_hold() returns trigger language plpgsql as $$
declare
  place integer := coalesce(new.place_id, old.place_id);
  change numeric := coalesce(new.quantity, 0) - coalesce(old.quantity, 0);
  row record;
begin
  select item, warehouse into row from stock_place where id = place;
  perform stock_set_aside(row.item, row.warehouse, change);
  update stock_place set allocated = allocated + change where id = place;
  return null;
end $$;
create trigger stock_after_counter_hold after insert or update of quantity or delete on counter_hold for each row execute function stock_after_counter_hold();
`;
