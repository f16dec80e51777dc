import { sql, type Kysely } from 'kysely';

/**
 * Every way out of a shortage: when suppliers take orders and what they want of one; goods brought over from another
 * warehouse; items put together from others, and items that may go instead; questions to customers and their answers.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [TERMS, ITEMS, SET_ASIDE, TRANSFERS, ASSEMBLY, ROUTES, CONSENT]) await sql.raw(statement).execute(db);
}

const TERMS = `
alter table supplier
  add column workdays integer[] not null default '{1,2,3,4,5}' check (cardinality(workdays) > 0),
  /* ISO weekdays on which they take orders. */
  add column order_days integer[] not null default '{1,2,3,4,5}' check (cardinality(order_days) > 0),
  add column cutoff text check (cutoff ~ '^([01][0-9]|2[0-3]):[0-5][0-9]$'),
  /* From their house to ours, in the carrier's working days. */
  add column transit_days integer not null default 0 check (transit_days >= 0),
  /* The least a purchase order should come to. */
  add column minimum_value numeric(15, 2) not null default 0 check (minimum_value >= 0),
  /* Charged once for a purchase order to us, unless it comes to so much. */
  add column freight numeric(15, 2) not null default 0 check (freight >= 0),
  add column freight_free_from numeric(15, 2) check (freight_free_from >= 0);
create table supplier_closed_day (
  supplier text not null references supplier,
  day date not null,
  primary key (supplier, day)
);
alter table supplier_item add column returnable boolean not null default true;
create table supplier_item_break (
  supplier text not null,
  item text not null,
  from_quantity numeric(15, 4) not null check (from_quantity > 0),
  cost numeric(15, 4) not null check (cost >= 0),
  primary key (supplier, item, from_quantity),
  foreign key (supplier, item) references supplier_item
);
/* A line of a draft that only lifts it to the supplier's minimum and lot: it follows the others. */
alter table purchase_line add column lifts boolean not null default false;
alter table purchase_line add constraint lifts_for_nobody check (not lifts or order_line_id is null);
insert into number_series (name, next, prefix) values ('transfer', 501, 'T'), ('assembly', 301, 'A') on conflict do nothing;
create table transfer_lane (
  from_warehouse text not null references warehouse,
  to_warehouse text not null references warehouse,
  /* In the carrier's working days. */
  transit_days integer not null check (transit_days >= 0),
  cost_per_kg numeric(15, 4) not null check (cost_per_kg >= 0),
  primary key (from_warehouse, to_warehouse),
  check (from_warehouse <> to_warehouse)
);
/* How the desk and, where they have their own, customers rank ways; whether they must be asked about a later day. */
alter table customer
  add column route_policy text check (route_policy in ('on_time', 'cheapest', 'fewest_shipments')),
  add column asks_when_late boolean not null default false;
`;

const ITEMS = `
/* Working days it takes to put one or many together; null: it is not assembled here. */
alter table item add column assembly_days integer check (assembly_days >= 0);
create table item_component (
  item text not null references item,
  component text not null references item,
  quantity numeric(15, 4) not null check (quantity > 0),
  primary key (item, component),
  check (item <> component)
);
create index item_component_component on item_component (component);
/* What may go instead where the customer agrees; so many of its stocking units for one of the item's. */
create table item_substitute (
  item text not null references item,
  substitute text not null references item,
  ratio numeric(15, 4) not null default 1 check (ratio > 0),
  primary key (item, substitute),
  check (item <> substitute)
);
`;

const SET_ASIDE = `
/* On hand and spoken for by an open transfer or assembly order: nobody else's. */
alter table stock add column set_aside numeric(15, 4) not null default 0;
alter table stock drop constraint stock_not_negative, drop constraint stock_not_oversold, drop constraint stock_not_picked_twice;
alter table stock
  add constraint stock_not_negative check (on_hand >= 0 and allocated >= 0 and inbound >= 0 and committed >= 0 and set_aside >= 0),
  add constraint stock_not_oversold check (committed + set_aside <= on_hand + inbound),
  add constraint stock_not_picked_twice check (allocated + set_aside <= on_hand);
create function stock_set_aside(p_item text, p_warehouse text, p_change numeric) returns void language plpgsql as $$
begin
  if p_change = 0 then return; end if;
  update stock set set_aside = set_aside + p_change where item = p_item and warehouse = p_warehouse;
  if not found then insert into stock (item, warehouse, set_aside) values (p_item, p_warehouse, p_change); end if;
end $$;
alter table stock_movement drop constraint stock_movement_kind_check;
alter table stock_movement add constraint stock_movement_kind_check
  check (kind in ('opening', 'receipt', 'shipment', 'count', 'transfer', 'assembly'));
`;

const TRANSFERS = `
create table transfer_order (
  id integer generated always as identity primary key,
  number text not null unique,
  from_warehouse text not null references warehouse,
  to_warehouse text not null references warehouse,
  state text not null check (state in ('open', 'shipped', 'closed', 'cancelled')),
  created_day date not null,
  /* The day it should leave, and the day it should be there. */
  ship_day date not null,
  expected_day date not null,
  version integer not null default 1,
  check (from_warehouse <> to_warehouse)
);
create index transfer_order_state on transfer_order (state, id desc);
create table transfer_line (
  id integer generated always as identity primary key,
  transfer_id integer not null references transfer_order,
  line_no integer not null check (line_no > 0),
  item text not null references item,
  quantity numeric(15, 4) not null check (quantity > 0),
  /* Not sent after all; what was sent; what has come; what was sent and never came. */
  cancelled numeric(15, 4) not null default 0 check (cancelled >= 0),
  shipped numeric(15, 4) not null default 0 check (shipped >= 0),
  received numeric(15, 4) not null default 0 check (received >= 0),
  lost numeric(15, 4) not null default 0 check (lost >= 0),
  /* The order line it is bound to. */
  order_line_id integer references order_line,
  unique (transfer_id, line_no),
  constraint transfer_not_exceeded check (shipped + cancelled <= quantity and received + lost <= shipped)
);
create index transfer_line_open on transfer_line (item) where cancelled + received + lost < quantity;
create index transfer_line_order_line on transfer_line (order_line_id) where order_line_id is not null;
create function stock_after_transfer() returns trigger language plpgsql as $$
declare
  lane transfer_order;
  stays numeric := coalesce(new.quantity - new.cancelled - new.shipped, 0) - coalesce(old.quantity - old.cancelled - old.shipped, 0);
  comes numeric := coalesce(new.quantity - new.cancelled - new.received - new.lost, 0) - coalesce(old.quantity - old.cancelled - old.received - old.lost, 0);
begin
  select * into lane from transfer_order where id = coalesce(new.transfer_id, old.transfer_id);
  perform stock_set_aside(coalesce(new.item, old.item), lane.from_warehouse, stays);
  if comes <> 0 then perform stock_change(coalesce(new.item, old.item), lane.to_warehouse, 0, 0, comes, 0); end if;
  return null;
end $$;
create trigger stock_after_transfer after insert or update or delete on transfer_line for each row execute function stock_after_transfer();
`;

const ASSEMBLY = `
create table assembly_order (
  id integer generated always as identity primary key,
  number text not null unique,
  item text not null references item,
  warehouse text not null references warehouse,
  quantity numeric(15, 4) not null check (quantity > 0 and quantity = trunc(quantity)),
  built numeric(15, 4) not null default 0 check (built >= 0),
  cancelled numeric(15, 4) not null default 0 check (cancelled >= 0),
  state text not null check (state in ('open', 'closed', 'cancelled')),
  created_day date not null,
  expected_day date not null,
  /* The order line it is bound to. */
  order_line_id integer references order_line,
  /* The assembly it is a part of: what it makes is no supply of its own. */
  parent_id integer references assembly_order,
  version integer not null default 1,
  constraint assembly_not_exceeded check (built + cancelled <= quantity)
);
create index assembly_order_state on assembly_order (state, id desc);
create index assembly_order_pool on assembly_order (item, warehouse) where built + cancelled < quantity;
create index assembly_order_order_line on assembly_order (order_line_id) where order_line_id is not null;
create index assembly_order_parent on assembly_order (parent_id) where parent_id is not null;
create table assembly_component (
  assembly_id integer not null references assembly_order,
  component text not null references item,
  /* For one; and what is on the shelf for it. */
  per_unit numeric(15, 4) not null check (per_unit > 0),
  set_aside numeric(15, 4) not null default 0 check (set_aside >= 0),
  primary key (assembly_id, component)
);
create function stock_after_assembly() returns trigger language plpgsql as $$
declare
  comes numeric := case when coalesce(new.parent_id, old.parent_id) is not null then 0
    else coalesce(new.quantity - new.built - new.cancelled, 0) - coalesce(old.quantity - old.built - old.cancelled, 0) end;
begin
  if comes <> 0 then perform stock_change(coalesce(new.item, old.item), coalesce(new.warehouse, old.warehouse), 0, 0, comes, 0); end if;
  return null;
end $$;
create trigger stock_after_assembly after insert or update or delete on assembly_order for each row execute function stock_after_assembly();
create function stock_after_component() returns trigger language plpgsql as $$
declare place text;
begin
  select warehouse into place from assembly_order where id = coalesce(new.assembly_id, old.assembly_id);
  perform stock_set_aside(coalesce(new.component, old.component), place, coalesce(new.set_aside, 0) - coalesce(old.set_aside, 0));
  return null;
end $$;
create trigger stock_after_component after insert or update or delete on assembly_component for each row execute function stock_after_component();
`;

const ROUTES = `
alter table line_route drop constraint line_route_kind_check, drop constraint bought_from_someone;
alter table line_route
  add column warehouse text references warehouse,
  add column item text references item,
  add column ship_to_id integer references ship_to,
  add column transfer_line_id integer references transfer_line,
  add column assembly_id integer references assembly_order,
  /* The line that was added instead. */
  add column new_line_id integer references order_line,
  /* Landed cost of one stocking unit, as it was when it was chosen. */
  add column unit_cost numeric(15, 4) check (unit_cost >= 0),
  /* Of an assembly that is planned: working days it takes, those of its parts included. */
  add column work_days integer check (work_days >= 0),
  add constraint line_route_kind_check check (kind in ('backorder', 'special_order', 'drop_ship', 'transfer', 'assemble', 'substitute', 'cut')),
  add constraint bought_from_someone check ((kind in ('special_order', 'drop_ship')) = (supplier is not null)),
  add constraint brought_from_somewhere check ((kind = 'transfer') = (warehouse is not null)),
  add constraint replaced_by_something check ((kind = 'substitute') = (item is not null));
/* The line it goes instead of. */
alter table order_line add column stands_for integer references order_line;
/* A line of which nothing is open needs nothing any more: what is still on its way for it is anyone's. */
create function free_bound_supply() returns trigger language plpgsql as $$
begin
  update purchase_line set order_line_id = null where order_line_id = new.id and warehouse is not null and received + closed < quantity;
  update transfer_line set order_line_id = null where order_line_id = new.id and cancelled + received + lost < quantity;
  update assembly_order set order_line_id = null where order_line_id = new.id and built + cancelled < quantity;
  return null;
end $$;
create trigger free_bound_supply after update of shipped, cancelled on order_line for each row
  when (new.shipped + new.cancelled = new.stock_quantity and old.shipped + old.cancelled < old.stock_quantity) execute function free_bound_supply();
`;

const CONSENT = `
create table consent_request (
  id integer generated always as identity primary key,
  order_id integer not null references sales_order,
  /* Null once the line was taken off a draft. */
  line_id integer references order_line on delete set null,
  quantity numeric(15, 4) not null check (quantity > 0),
  /* The route that is done if the customer says yes, and what they are asked. */
  parts jsonb not null,
  question text not null,
  day date,
  /* What becomes of the quantity where they say no. */
  on_no text not null check (on_no in ('cancel', 'reroute')),
  state text not null check (state in ('open', 'accepted', 'refused', 'part', 'withdrawn')),
  /* The last day an answer is looked for; the link ends with it. */
  answer_by date not null,
  /* SHA-256 of what makes the link impossible to guess; null where they are asked by phone. */
  secret_hash text unique,
  asked_at timestamptz not null,
  asked_by integer not null references app_user,
  answered_at timestamptz,
  answered_by integer references app_user,
  answered_how text check (answered_how in ('link', 'phone')),
  taken numeric(15, 4) check (taken >= 0),
  note text not null default '',
  /* What was done about the answer, or why it could not be. */
  outcome text not null default '',
  needs_work boolean not null default false,
  constraint answered_somehow check ((state in ('accepted', 'refused', 'part')) = (answered_how is not null))
);
create index consent_request_line on consent_request (line_id, id desc);
create unique index consent_request_open on consent_request (line_id) where state = 'open';
create index consent_request_waiting on consent_request (answer_by) where state = 'open' or needs_work;
/* A question goes out without a paper. */
alter table mail alter column document_id drop not null;
alter table event_subject drop constraint event_subject_kind_check;
alter table event_subject add constraint event_subject_kind_check
  check (kind in ('order', 'item', 'purchase', 'shipment', 'customer', 'run', 'contract', 'price_list', 'mail', 'transfer', 'assembly', 'supplier'));
`;
