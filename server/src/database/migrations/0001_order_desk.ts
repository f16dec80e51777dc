import { sql, type Kysely } from 'kysely';

/**
 * The first slice: who works here, what is sold to whom, what is on hand and due, orders, what was promised, what left.
 *
 * `stock` holds one row an item and warehouse. Its sums are kept by triggers from the rows they are sums of, so that no
 * command can forget one, and its checks make overselling impossible whatever the application does:
 * committed ≤ on hand + inbound, and what is set aside for picking ≤ on hand.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [ACCESS, TRADE, STOCK, ORDERS, SUPPLY, SHIPPING, EVENTS, STOCK_SUMS]) await sql.raw(statement).execute(db);
}

const ACCESS = `
create table app_user (
  id integer generated always as identity primary key,
  login text not null unique,
  name text not null,
  role text not null check (role in ('coordinator', 'warehouse', 'finance', 'manager')),
  password_hash text not null
);
create table session (
  token_hash text primary key,
  user_id integer not null references app_user on delete cascade,
  expires_at timestamptz not null
);
create table failed_log_in (
  login text not null,
  address text not null,
  at timestamptz not null
);
create index failed_log_in_at on failed_log_in (login, at);
create index failed_log_in_address on failed_log_in (address, at);
create table idempotency (
  user_id integer not null references app_user on delete cascade,
  key uuid not null,
  request_hash text not null,
  reply jsonb,
  at timestamptz not null default now(),
  primary key (user_id, key)
);
create table number_series (
  name text primary key,
  next integer not null check (next > 0)
);
`;

const TRADE = `
create extension if not exists pg_trgm;
create table warehouse (
  code text primary key,
  name text not null,
  workdays integer[] not null check (cardinality(workdays) > 0),
  cutoff text check (cutoff ~ '^([01][0-9]|2[0-3]):[0-5][0-9]$'),
  receiving_days integer not null check (receiving_days >= 0),
  address text not null
);
create table closed_day (
  warehouse text not null references warehouse,
  day date not null,
  primary key (warehouse, day)
);
create table carrier_service (
  code text primary key,
  name text not null,
  transit_days integer not null check (transit_days >= 0)
);
create table price_list (
  code text primary key,
  name text not null
);
create table customer (
  id integer generated always as identity primary key,
  number text not null unique,
  name text not null,
  contact text not null,
  phone text not null,
  email text not null,
  street text not null,
  postcode text not null,
  town text not null,
  country text not null,
  delivery_rule text not null check (delivery_rule in ('complete', 'parts')),
  warehouse text not null references warehouse,
  carrier_service text not null references carrier_service,
  price_list text references price_list,
  terms_days integer not null check (terms_days >= 0),
  priority integer not null default 5,
  notes text not null default '',
  search text generated always as (lower(number || ' ' || name || ' ' || contact || ' ' || phone || ' ' || replace(phone, ' ', '') || ' ' || town || ' ' || postcode || ' ' || replace(postcode, ' ', ''))) stored
);
create index customer_search on customer using gin (search gin_trgm_ops);
create table ship_to (
  id integer generated always as identity primary key,
  customer_id integer not null references customer,
  name text not null,
  street text not null,
  postcode text not null,
  town text not null,
  country text not null
);
create index ship_to_customer on ship_to (customer_id);
create table item (
  code text primary key,
  description text not null,
  item_group text not null,
  unit text not null,
  weight numeric(15, 4) not null check (weight >= 0),
  list_price numeric(15, 4) not null check (list_price >= 0),
  cost numeric(15, 4) not null check (cost >= 0),
  discontinued boolean not null default false,
  successor text references item,
  search text generated always as (lower(code || ' ' || replace(code, '-', '') || ' ' || description || ' ' || item_group)) stored
);
create index item_search on item using gin (search gin_trgm_ops);
create table item_unit (
  item text not null references item,
  unit text not null,
  numerator integer not null check (numerator > 0),
  denominator integer not null check (denominator > 0),
  primary key (item, unit)
);
create table price_break (
  price_list text not null references price_list,
  item text not null references item,
  unit text not null,
  from_quantity numeric(15, 4) not null check (from_quantity > 0),
  price numeric(15, 4) not null check (price >= 0),
  primary key (price_list, item, unit, from_quantity)
);
create table supplier (
  code text primary key,
  name text not null,
  email text not null,
  lead_days integer not null check (lead_days >= 0),
  drop_ships boolean not null,
  drop_ship_fee numeric(15, 4) not null check (drop_ship_fee >= 0)
);
create table supplier_item (
  supplier text not null references supplier,
  item text not null references item,
  their_code text not null,
  cost numeric(15, 4) not null check (cost >= 0),
  lead_days integer check (lead_days >= 0),
  minimum numeric(15, 4) not null check (minimum > 0),
  multiple numeric(15, 4) not null check (multiple > 0),
  primary key (supplier, item)
);
create index supplier_item_item on supplier_item (item);
`;

const STOCK = `
create table stock (
  item text not null references item,
  warehouse text not null references warehouse,
  on_hand numeric(15, 4) not null default 0,
  allocated numeric(15, 4) not null default 0,
  inbound numeric(15, 4) not null default 0,
  committed numeric(15, 4) not null default 0,
  primary key (item, warehouse),
  constraint stock_not_negative check (on_hand >= 0 and allocated >= 0 and inbound >= 0 and committed >= 0),
  constraint stock_not_oversold check (committed <= on_hand + inbound),
  constraint stock_not_picked_twice check (allocated <= on_hand)
);
create table stock_movement (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  item text not null references item,
  warehouse text not null references warehouse,
  quantity numeric(15, 4) not null check (quantity <> 0),
  kind text not null check (kind in ('opening', 'receipt', 'shipment')),
  reference text not null
);
create index stock_movement_pool on stock_movement (item, warehouse, id);
`;

const ORDERS = `
create table sales_order (
  id integer generated always as identity primary key,
  number text unique,
  state text not null default 'draft' check (state in ('draft', 'released', 'discarded')),
  customer_id integer not null references customer,
  ship_to_id integer not null references ship_to,
  po_number text not null default '',
  request_kind text not null check (request_kind in ('ship_by', 'deliver_by')),
  requested_day date not null,
  warehouse text not null references warehouse,
  carrier_service text not null references carrier_service,
  ship_complete boolean not null,
  source text not null check (source in ('phone', 'mail', 'counter', 'portal', 'file')),
  note text not null default '',
  currency text not null default 'EUR',
  priority integer not null,
  /* Local time of the warehouses; the turn of the order among those of its priority. */
  entered timestamp not null,
  saved_at timestamptz not null,
  version integer not null default 1,
  constraint released_has_number check (state <> 'released' or number is not null)
);
create index sales_order_customer on sales_order (customer_id, id desc);
create index sales_order_state on sales_order (state, id desc);
create table order_line (
  id integer generated always as identity primary key,
  order_id integer not null references sales_order,
  line_no integer not null check (line_no > 0),
  item text not null references item,
  warehouse text not null references warehouse,
  unit text not null,
  numerator integer not null check (numerator > 0),
  denominator integer not null check (denominator > 0),
  quantity numeric(15, 4) not null check (quantity > 0),
  /* In stocking units, exactly the quantity ordered; so are the quantities below. */
  stock_quantity numeric(15, 4) not null check (stock_quantity > 0),
  shipped numeric(15, 4) not null default 0 check (shipped >= 0),
  cancelled numeric(15, 4) not null default 0 check (cancelled >= 0),
  /* On hand and bound to this line: a special order that has come in. */
  reserved numeric(15, 4) not null default 0 check (reserved >= 0),
  price numeric(15, 4) not null check (price >= 0),
  price_source text not null,
  price_trail jsonb not null,
  requested_day date,
  note text not null default '',
  unique (order_id, line_no) deferrable initially immediate,
  constraint unit_is_exact check (stock_quantity * denominator = quantity * numerator),
  constraint line_not_exceeded check (shipped + cancelled <= stock_quantity),
  constraint reserved_is_owed check (reserved <= stock_quantity - shipped - cancelled)
);
create index order_line_item on order_line (item, warehouse);
/* What was told to the customer: on which ship day how much leaves. */
create table line_promise (
  line_id integer not null references order_line on delete cascade,
  day date not null,
  quantity numeric(15, 4) not null check (quantity > 0),
  primary key (line_id, day)
);
create table document (
  id integer generated always as identity primary key,
  kind text not null check (kind in ('acknowledgement')),
  order_id integer not null references sales_order,
  made_at timestamptz not null,
  /* What was told, as it was told; the paper is drawn from it. */
  content jsonb not null
);
create index document_order on document (order_id, id desc);
`;

const SUPPLY = `
create table purchase_order (
  id integer generated always as identity primary key,
  number text not null unique,
  supplier text not null references supplier,
  kind text not null check (kind in ('stock', 'drop_ship')),
  state text not null check (state in ('draft', 'sent', 'acknowledged', 'closed', 'cancelled')),
  warehouse text references warehouse,
  order_id integer references sales_order,
  ship_to text not null,
  created_day date not null,
  note text not null default '',
  version integer not null default 1,
  constraint goes_somewhere check ((kind = 'stock' and warehouse is not null) or (kind = 'drop_ship' and warehouse is null and order_id is not null))
);
create index purchase_order_state on purchase_order (state, id desc);
create table purchase_line (
  id integer generated always as identity primary key,
  purchase_id integer not null references purchase_order,
  line_no integer not null check (line_no > 0),
  item text not null references item,
  /* Null for a drop shipment: it never touches a warehouse. */
  warehouse text references warehouse,
  quantity numeric(15, 4) not null check (quantity > 0),
  received numeric(15, 4) not null default 0 check (received >= 0),
  closed numeric(15, 4) not null default 0 check (closed >= 0),
  cost numeric(15, 4) not null check (cost >= 0),
  expected_day date not null,
  /* The order line it is bound to. */
  order_line_id integer references order_line,
  /* Counts as supply: sent to the supplier, or bound to a line that waits for it. */
  firm boolean not null,
  unique (purchase_id, line_no),
  constraint purchase_not_exceeded check (received + closed <= quantity)
);
create index purchase_line_pool on purchase_line (item, warehouse) where received + closed < quantity;
create index purchase_line_order_line on purchase_line (order_line_id) where order_line_id is not null;
create table line_route (
  id integer generated always as identity primary key,
  line_id integer not null references order_line on delete cascade,
  kind text not null check (kind in ('backorder', 'special_order', 'drop_ship')),
  supplier text references supplier,
  quantity numeric(15, 4) not null check (quantity > 0),
  purchase_line_id integer references purchase_line,
  constraint bought_from_someone check ((kind = 'backorder') = (supplier is null))
);
create index line_route_line on line_route (line_id);
`;

const SHIPPING = `
create table shipment (
  id integer generated always as identity primary key,
  number text not null unique,
  order_id integer not null references sales_order,
  /* Null for a drop shipment, which has its purchase order instead. */
  warehouse text references warehouse,
  purchase_id integer references purchase_order,
  state text not null check (state in ('picking', 'shipped', 'cancelled')),
  carrier_service text not null references carrier_service,
  tracking text not null default '',
  shipped_day date,
  check ((warehouse is null) <> (purchase_id is null)),
  check ((state = 'shipped') = (shipped_day is not null))
);
create index shipment_order on shipment (order_id);
create index shipment_picking on shipment (warehouse, id) where state = 'picking';
create table shipment_line (
  shipment_id integer not null references shipment,
  order_line_id integer not null references order_line,
  quantity numeric(15, 4) not null check (quantity > 0),
  primary key (shipment_id, order_line_id)
);
create index shipment_line_order_line on shipment_line (order_line_id);
`;

const EVENTS = `
create table event (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  user_id integer references app_user,
  what text not null,
  why text not null,
  before jsonb,
  after jsonb
);
create table event_subject (
  event_id bigint not null references event,
  kind text not null check (kind in ('order', 'item', 'purchase', 'shipment', 'customer')),
  key text not null,
  primary key (kind, key, event_id)
);
`;

const STOCK_SUMS = `
create function stock_change(p_item text, p_warehouse text, d_on_hand numeric, d_allocated numeric, d_inbound numeric, d_committed numeric) returns void language plpgsql as $$
begin
  update stock set on_hand = on_hand + d_on_hand, allocated = allocated + d_allocated, inbound = inbound + d_inbound, committed = committed + d_committed
  where item = p_item and warehouse = p_warehouse;
  if not found then
    insert into stock (item, warehouse, on_hand, allocated, inbound, committed) values (p_item, p_warehouse, d_on_hand, d_allocated, d_inbound, d_committed);
  end if;
end $$;

create function stock_after_movement() returns trigger language plpgsql as $$
begin
  perform stock_change(new.item, new.warehouse, new.quantity, 0, 0, 0);
  return null;
end $$;
create trigger stock_after_movement after insert on stock_movement for each row execute function stock_after_movement();

create function stock_after_purchase() returns trigger language plpgsql as $$
declare
  gone numeric := case when tg_op <> 'INSERT' and old.warehouse is not null and old.firm then old.quantity - old.received - old.closed else 0 end;
  come numeric := case when tg_op <> 'DELETE' and new.warehouse is not null and new.firm then new.quantity - new.received - new.closed else 0 end;
begin
  /* In one step where it is the same pool: the sums must hold in between, too. */
  if tg_op = 'UPDATE' and (new.item, new.warehouse) is not distinct from (old.item, old.warehouse) then
    if come <> gone then perform stock_change(new.item, new.warehouse, 0, 0, come - gone, 0); end if;
    return null;
  end if;
  if gone <> 0 then perform stock_change(old.item, old.warehouse, 0, 0, -gone, 0); end if;
  if come <> 0 then perform stock_change(new.item, new.warehouse, 0, 0, come, 0); end if;
  return null;
end $$;
create trigger stock_after_purchase after insert or update or delete on purchase_line for each row execute function stock_after_purchase();

create function stock_after_promise() returns trigger language plpgsql as $$
declare p_item text; p_warehouse text;
begin
  select item, warehouse into p_item, p_warehouse from order_line where id = coalesce(new.line_id, old.line_id);
  perform stock_change(p_item, p_warehouse, 0, 0, 0, coalesce(new.quantity, 0) - coalesce(old.quantity, 0));
  return null;
end $$;
create trigger stock_after_promise after insert or update of quantity or delete on line_promise for each row execute function stock_after_promise();

create function stock_after_pick_line() returns trigger language plpgsql as $$
declare p_item text; p_warehouse text; p_state text;
begin
  select l.item, s.warehouse, s.state into p_item, p_warehouse, p_state
  from shipment s, order_line l where s.id = coalesce(new.shipment_id, old.shipment_id) and l.id = coalesce(new.order_line_id, old.order_line_id);
  if p_state = 'picking' then
    perform stock_change(p_item, p_warehouse, 0, coalesce(new.quantity, 0) - coalesce(old.quantity, 0), 0, 0);
  end if;
  return null;
end $$;
create trigger stock_after_pick_line after insert or update or delete on shipment_line for each row execute function stock_after_pick_line();

create function stock_after_pick() returns trigger language plpgsql as $$
begin
  if old.state = 'picking' and new.state <> 'picking' then
    perform stock_change(l.item, new.warehouse, 0, -sl.quantity, 0, 0)
    from shipment_line sl join order_line l on l.id = sl.order_line_id where sl.shipment_id = new.id order by l.item;
  end if;
  return null;
end $$;
create trigger stock_after_pick after update of state on shipment for each row execute function stock_after_pick();

/* A line's item and warehouse are what its promises are summed under: they stay once something is promised. */
create function order_line_stays() returns trigger language plpgsql as $$
begin
  if (new.item, new.warehouse) is distinct from (old.item, old.warehouse) and exists (select from line_promise where line_id = new.id) then
    raise exception 'line % has promises: item and warehouse stay', new.id using errcode = 'check_violation';
  end if;
  return new;
end $$;
create trigger order_line_stays before update of item, warehouse on order_line for each row execute function order_line_stays();
`;
