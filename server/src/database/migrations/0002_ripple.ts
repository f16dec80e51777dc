import { sql, type Kysely } from 'kysely';

/**
 * What moves and who must be told: an order's place in the queue of its class, calls to customers whose promise has
 * moved, counts of stock, runs that promise the whole book anew, and how well suppliers keep their days.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [QUEUE, COUNTS, CALLS, RUNS, LATENESS]) await sql.raw(statement).execute(db);
}

const QUEUE = `
/* The turn of an order among those of its class where it was placed by hand: minutes since 1970, as when it was entered otherwise. */
alter table sales_order add column place numeric(24, 12);
create index sales_order_open_turn on sales_order (priority, entered) where state = 'released';
`;

const COUNTS = `
alter table stock_movement drop constraint stock_movement_kind_check;
alter table stock_movement add constraint stock_movement_kind_check check (kind in ('opening', 'receipt', 'shipment', 'count'));
`;

const CALLS = `
create table customer_call (
  id integer generated always as identity primary key,
  order_id integer not null references sales_order,
  line_id integer not null references order_line,
  /* What the customer last heard, and what holds now: lists of day and quantity. */
  told jsonb not null,
  holds jsonb not null,
  say text not null,
  why text not null,
  made_at timestamptz not null,
  made_by integer references app_user,
  done_at timestamptz,
  done_by integer references app_user,
  outcome text check (outcome in ('told', 'superseded')),
  constraint done_has_outcome check ((done_at is null) = (outcome is null))
);
create unique index customer_call_open on customer_call (line_id) where done_at is null;
create index customer_call_order on customer_call (order_id);
`;

const RUNS = `
create table resequence_run (
  id integer generated always as identity primary key,
  state text not null check (state in ('running', 'done', 'stopped', 'failed', 'accepted')),
  started_at timestamptz not null,
  started_by integer not null references app_user,
  ended_at timestamptz,
  /* When the process that runs it was last heard of. */
  beat_at timestamptz not null,
  done integer not null default 0,
  total integer not null default 0,
  result jsonb,
  message text not null default ''
);
alter table event_subject drop constraint event_subject_kind_check;
alter table event_subject add constraint event_subject_kind_check check (kind in ('order', 'item', 'purchase', 'shipment', 'customer', 'run'));
create unique index resequence_run_one on resequence_run ((true)) where state = 'running';
`;

const LATENESS = `
/* The day the supplier first gave: what their lateness is measured from. */
alter table purchase_line add column first_day date;
update purchase_line set first_day = expected_day;
create function purchase_line_first_day() returns trigger language plpgsql as $$
begin
  new.first_day := coalesce(new.first_day, new.expected_day);
  return new;
end $$;
create trigger purchase_line_first_day before insert on purchase_line for each row execute function purchase_line_first_day();
alter table purchase_line alter column first_day set not null;
create table supplier_receipt (
  id integer generated always as identity primary key,
  supplier text not null references supplier,
  item text not null references item,
  promised_day date not null,
  received_day date not null
);
create index supplier_receipt_supplier on supplier_receipt (supplier);
/* How sure a promise must be, in percent: a customer's own, and the desk's for the others. Null: the supplier's day is believed. */
alter table customer add column confidence integer check (confidence between 50 and 99);
create table desk_setting (
  name text primary key,
  value jsonb not null
);
`;
