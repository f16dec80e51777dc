import { sql, type Kysely } from 'kysely';

/**
 * Contracts: who may buy under them, what each line asks, how much of it is bought. What is used of a line is kept by
 * triggers from the released orders that are priced by it, and a check makes it impossible to pass the most.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [CONTRACTS, ORDER_PRICES, USE]) await sql.raw(statement).execute(db);
}

const CONTRACTS = `
create table contract (
  id integer generated always as identity primary key,
  number text not null unique,
  name text not null,
  first_day date not null,
  last_day date not null,
  note text not null default '',
  version integer not null default 1,
  constraint ends_after_it_begins check (last_day >= first_day)
);
create index contract_last_day on contract (last_day);
/* Who may buy under it: a customer for all its ship-tos, or for those named. */
create table contract_customer (
  contract_id integer not null references contract on delete cascade,
  customer_id integer not null references customer,
  ship_to_id integer references ship_to
);
create unique index contract_customer_once on contract_customer (contract_id, customer_id, coalesce(ship_to_id, 0));
create index contract_customer_customer on contract_customer (customer_id);
create table contract_line (
  id integer generated always as identity primary key,
  contract_id integer not null references contract on delete cascade,
  line_no integer not null check (line_no > 0),
  item text references item,
  item_group text,
  kind text not null check (kind in ('fixed', 'off_list', 'cost_plus')),
  /* Of a fixed price: what one of this unit costs. */
  unit text,
  price numeric(15, 4) check (price >= 0),
  percent numeric(9, 4) check (percent >= 0),
  /* In stocking units: the least at once, the most in all, and what is bought. */
  minimum numeric(15, 4) check (minimum > 0),
  most numeric(15, 4) check (most > 0),
  used numeric(15, 4) not null default 0,
  unique (contract_id, line_no) deferrable initially immediate,
  constraint for_an_item_or_a_group check ((item is null) <> (item_group is null)),
  constraint a_price_or_a_percentage check ((kind = 'fixed') = (price is not null and unit is not null) and (kind = 'fixed') = (percent is null)),
  constraint fixed_for_an_item check (kind <> 'fixed' or item is not null),
  constraint off_list_at_most_all check (kind <> 'off_list' or percent <= 100),
  constraint most_not_exceeded check (used >= 0 and (most is null or used <= most))
);
create index contract_line_item on contract_line (item) where item is not null;
create index contract_line_group on contract_line (item_group) where item_group is not null;
alter table customer
  add column contract_choice text not null default 'lowest_price' check (contract_choice in ('lowest_price', 'ends_first')),
  add column several_contracts boolean not null default true,
  add column must_name_contract boolean not null default false;
insert into number_series (name, next) values ('contract', 1001) on conflict do nothing;
alter table event_subject drop constraint event_subject_kind_check;
alter table event_subject add constraint event_subject_kind_check check (kind in ('order', 'item', 'purchase', 'shipment', 'customer', 'run', 'contract', 'price_list'));
`;

const ORDER_PRICES = `
/* The contract the customer named for the order. */
alter table sales_order add column contract_id integer references contract;
/* The contract line that prices it, and what was settled about its price by hand. */
alter table order_line
  add column contract_line_id integer references contract_line,
  add column price_pin jsonb;
create index order_line_contract on order_line (contract_line_id) where contract_line_id is not null;
/* Why an order may not be released yet, and who let it go all the same. */
create table order_hold (
  id integer generated always as identity primary key,
  order_id integer not null references sales_order,
  kind text not null check (kind in ('below_floor', 'credit', 'customer')),
  why text not null,
  /* What was held: a release is held again where it goes beyond this. */
  facts jsonb not null,
  placed_at timestamptz not null,
  placed_by integer not null references app_user,
  cleared_at timestamptz,
  cleared_by integer references app_user,
  cleared_why text,
  constraint cleared_with_reason check ((cleared_at is null) = (cleared_by is null) and (cleared_at is null) = (cleared_why is null))
);
create index order_hold_order on order_hold (order_id);
create index order_hold_open on order_hold (kind, id) where cleared_at is null;
`;

const USE = `
create function contract_use(p_line integer, p_change numeric) returns void language sql as $$
  update contract_line set used = used + p_change where id = p_line and p_change <> 0;
$$;

create function contract_after_line() returns trigger language plpgsql as $$
declare
  released boolean;
  was numeric := case when tg_op <> 'INSERT' then old.stock_quantity - old.cancelled else 0 end;
  is_now numeric := case when tg_op <> 'DELETE' then new.stock_quantity - new.cancelled else 0 end;
begin
  select state = 'released' into released from sales_order where id = coalesce(new.order_id, old.order_id);
  if not released then return null; end if;
  /* In one step where it is the same contract line: the most must hold in between, too. */
  if tg_op = 'UPDATE' and new.contract_line_id is not distinct from old.contract_line_id then
    if new.contract_line_id is not null then perform contract_use(new.contract_line_id, is_now - was); end if;
    return null;
  end if;
  if tg_op <> 'INSERT' and old.contract_line_id is not null then perform contract_use(old.contract_line_id, -was); end if;
  if tg_op <> 'DELETE' and new.contract_line_id is not null then perform contract_use(new.contract_line_id, is_now); end if;
  return null;
end $$;
create trigger contract_after_line after insert or update of stock_quantity, cancelled, contract_line_id or delete on order_line
  for each row execute function contract_after_line();

create function contract_after_order() returns trigger language plpgsql as $$
begin
  if (old.state = 'released') <> (new.state = 'released') then
    perform contract_use(contract_line_id, case when new.state = 'released' then sum(stock_quantity - cancelled) else -sum(stock_quantity - cancelled) end)
    from order_line where order_id = new.id and contract_line_id is not null group by contract_line_id order by contract_line_id;
  end if;
  return null;
end $$;
create trigger contract_after_order after update of state on sales_order for each row execute function contract_after_order();
`;
