import { sql, type Kysely } from 'kysely';
import { QUEUES, QUEUE_SCHEMA } from '../queues';

/**
 * What is picked has a bin and a lot from the moment it is allocated, and goes with other shipments to the same address as one
 * consignment: packed in cartons, labelled by a carrier, followed until it is delivered. No bin or lot is allocated beyond what it holds.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [BINS, SIZES, CONSIGNMENTS, PARTS, ALLOCATED, STATES, LOWERED, TAKING, TOLD, CARRY_OVER]) await sql.raw(statement).execute(db);
  for (const { name, ...options } of QUEUES.filter((queue) => queue.name === 'carrier'))
    await sql`select ${sql.id(QUEUE_SCHEMA)}.create_queue(${name}, ${JSON.stringify(options)}::json)`.execute(db);
}

const BINS = `
/* Where a bin lies on the walk through its warehouse; 1 is the first. */
alter table bin add column walk integer;
update bin b set walk = k.n from (select warehouse, code, row_number() over (partition by warehouse order by code) as n from bin) k
  where k.warehouse = b.warehouse and k.code = b.code;
create function bin_comes_last() returns trigger language plpgsql as $$
begin
  if new.walk is null then new.walk := coalesce((select max(walk) from bin where warehouse = new.warehouse), 0) + 1; end if;
  return new;
end $$;
create trigger bin_comes_last before insert on bin for each row execute function bin_comes_last();
alter table bin alter column walk set not null;
alter table stock_place add column allocated numeric(15, 4) not null default 0,
  add constraint place_not_allocated_twice check (allocated >= 0 and allocated <= quantity);
`;

const SIZES = `
alter table item
  /* Of one stocking unit, in centimetres; all three or none. */
  add column length_cm numeric(7, 1) check (length_cm > 0),
  add column width_cm numeric(7, 1) check (width_cm > 0),
  add column height_cm numeric(7, 1) check (height_cm > 0),
  /* What may not lie in a carton with goods of another class; empty: goes with everything. */
  add column apart text not null default '',
  add column tracks_serials boolean not null default false,
  add constraint sizes_together check (num_nulls(length_cm, width_cm, height_cm) in (0, 3));
alter table item_unit add column gtin text unique check (gtin ~ '^[0-9]{14}$');
create table carton_type (
  code text primary key check (code ~ '^[A-Z0-9][A-Z0-9-]*$'),
  name text not null,
  length_cm numeric(7, 1) not null check (length_cm > 0),
  width_cm numeric(7, 1) not null check (width_cm > 0),
  height_cm numeric(7, 1) not null check (height_cm > 0),
  tare_kg numeric(9, 3) not null check (tare_kg >= 0),
  most_kg numeric(9, 3) not null check (most_kg > 0)
);
/* What goes as it is, without a carton around it. */
insert into carton_type values ('OWN', 'own packaging', 300, 300, 300, 0, 2000);
/* The firm's GS1 company prefix: its cartons are numbered from it. */
alter table firm add column gs1_prefix text not null default '' check (gs1_prefix ~ '^([0-9]{7,10})?$');
/* Serials of cartons: never given twice, and nobody waits for another; gaps do no harm. */
create sequence carton_serial;
`;

const CONSIGNMENTS = `
create table carrier (
  code text primary key,
  name text not null,
  /* Where its service answers; empty: it has none, and labels are made elsewhere. */
  url text not null default ''
);
alter table carrier_service
  add column carrier text references carrier,
  /* Cubic centimetres that count as a kilogram. */
  add column divisor integer not null default 6000 check (divisor > 0),
  /* Until when the carrier takes what leaves the same day; null: as the warehouse. */
  add column cutoff text check (cutoff ~ '^[0-9]{2}:[0-9]{2}$');
/* What leaves one warehouse for one address at once: shipments of one or several orders. */
create table consignment (
  id integer generated always as identity primary key,
  warehouse text not null references warehouse,
  customer_id integer not null references customer,
  ship_to_id integer not null references ship_to,
  carrier_service text not null references carrier_service,
  /* Of a label that was made elsewhere. */
  tracking text not null default '',
  /* What the carrier asks. */
  cost numeric(12, 2),
  version integer not null default 1,
  made_at timestamptz not null default now()
);
alter table shipment add column consignment_id integer references consignment, add column tote text not null default '';
create index shipment_consignment on shipment (consignment_id);
create table carton (
  id integer generated always as identity primary key,
  consignment_id integer not null references consignment,
  number integer not null,
  type text not null references carton_type,
  sscc text not null unique check (sscc ~ '^[0-9]{18}$'),
  /* On the scale when it was closed, with the carton. */
  weight_kg numeric(9, 3) check (weight_kg > 0),
  closed_at timestamptz,
  closed_by integer references app_user,
  unique (consignment_id, number),
  check ((closed_at is null) = (weight_kg is null))
);
create table consignment_label (
  id integer generated always as identity primary key,
  consignment_id integer not null references consignment,
  service text not null references carrier_service,
  /* By which the carrier knows a request that is repeated. */
  request_key uuid not null unique default gen_random_uuid(),
  state text not null check (state in ('waiting', 'made', 'failed', 'voiding', 'void')),
  attempts integer not null default 0,
  try_at timestamptz not null,
  fault text not null default '',
  their_id text not null default '',
  tracking text not null default '',
  cost numeric(12, 2),
  pdf bytea,
  made_at timestamptz,
  check ((state = 'made') <= (their_id <> ''))
);
/* A consignment has one label, or waits for one. */
create unique index consignment_label_one on consignment_label (consignment_id) where state in ('waiting', 'made', 'failed');
create index consignment_label_waits on consignment_label (try_at) where state in ('waiting', 'voiding');
create index consignment_label_consignment on consignment_label (consignment_id);
create index consignment_label_tracking on consignment_label (their_id) where their_id <> '';
create table tracking_event (
  id integer generated always as identity primary key,
  label_id integer not null references consignment_label,
  their_id text not null,
  at timestamptz not null,
  kind text not null check (kind in ('picked_up', 'in_transit', 'out_for_delivery', 'delivered', 'exception')),
  place text not null default '',
  words text not null default '',
  unique (label_id, their_id)
);
`;

const PARTS = `
/* Goods of one lot in one bin that are allocated to a line of a shipment. */
create table pick_part (
  id integer generated always as identity primary key,
  shipment_id integer not null,
  order_line_id integer not null,
  place_id integer not null references stock_place,
  quantity numeric(15, 4) not null check (quantity > 0),
  picked numeric(15, 4) not null default 0 check (picked >= 0),
  unique (shipment_id, order_line_id, place_id),
  constraint part_not_exceeded check (picked <= quantity),
  foreign key (shipment_id, order_line_id) references shipment_line on delete cascade
);
create index pick_part_place on pick_part (place_id);
create table carton_content (
  carton_id integer not null references carton,
  part_id integer not null references pick_part on delete cascade,
  quantity numeric(15, 4) not null check (quantity > 0),
  primary key (carton_id, part_id)
);
create index carton_content_part on carton_content (part_id);
/* What a shipment met of which promise, so that it can be undone while it is still in the house. */
create table shipment_met (
  shipment_id integer not null references shipment,
  order_line_id integer not null references order_line,
  day date,
  quantity numeric(15, 4) not null check (quantity > 0)
);
create index shipment_met_shipment on shipment_met (shipment_id);
`;

/** Keeps what of a place is allocated: by statement, for parts of shipments that are still in the house. */
const ALLOCATED = `
${[
  ['insert', 'select place_id, shipment_id, quantity from added'],
  ['update', 'select place_id, shipment_id, quantity from added union all select place_id, shipment_id, -quantity from gone'],
  ['delete', 'select place_id, shipment_id, -quantity from gone'],
]
  .map(
    ([event, rows]) => `
create function places_after_parts_${event}() returns trigger language plpgsql as $$
begin
  update stock_place p set allocated = p.allocated + k.change
  from (select c.place_id, sum(c.change) as change from (${rows}) c(place_id, shipment_id, change)
    join shipment s on s.id = c.shipment_id and s.state = 'picking' group by c.place_id having sum(c.change) <> 0) k
  where p.id = k.place_id;
  return null;
end $$;
create trigger places_after_parts_${event} after ${event} on pick_part
  referencing ${event === 'insert' ? 'new table as added' : event === 'delete' ? 'old table as gone' : 'new table as added old table as gone'}
  for each statement execute function places_after_parts_${event}();`,
  )
  .join('\n')}
`;

const STATES = `
create or replace function stock_after_pick() returns trigger language plpgsql as $$
declare sign integer := case when old.state = 'picking' and new.state <> 'picking' then -1 when old.state <> 'picking' and new.state = 'picking' then 1 else 0 end;
begin
  if sign <> 0 then
    perform stock_change(l.item, new.warehouse, 0, sign * sl.quantity, 0, 0)
    from shipment_line sl join order_line l on l.id = sl.order_line_id where sl.shipment_id = new.id order by l.item;
    update stock_place p set allocated = p.allocated + sign * k.quantity
    from (select place_id, sum(quantity) as quantity from pick_part where shipment_id = new.id group by place_id) k where p.id = k.place_id;
  end if;
  /* What does not leave any more is in no carton, and has no label, whoever cancelled it. */
  if old.state = 'picking' and new.state = 'cancelled' then
    delete from carton_content where part_id in (select id from pick_part where shipment_id = new.id);
    update consignment_label set state = 'voiding', try_at = now(), attempts = 0, fault = ''
    where consignment_id = new.consignment_id and state in ('waiting', 'made', 'failed')
      and not exists (select from shipment where consignment_id = new.consignment_id and state = 'picking');
  end if;
  return null;
end $$;
`;

const LOWERED = `
/* Parts give up what their line gives up: what nobody has picked first. A carton that loses something is open again. */
create function parts_after_line() returns trigger language plpgsql as $$
declare
  surplus numeric := (select coalesce(sum(quantity), 0) from pick_part where shipment_id = new.shipment_id and order_line_id = new.order_line_id) - new.quantity;
  part record;
begin
  if surplus <= 0 then return null; end if;
  for part in select id, quantity, picked from pick_part where shipment_id = new.shipment_id and order_line_id = new.order_line_id order by picked > 0, id desc loop
    exit when surplus <= 0;
    update carton set closed_at = null, closed_by = null, weight_kg = null where id in (select carton_id from carton_content where part_id = part.id);
    delete from carton_content where part_id = part.id;
    if part.quantity <= surplus then
      delete from pick_part where id = part.id;
    else
      update pick_part set quantity = part.quantity - surplus, picked = least(part.picked, part.quantity - surplus) where id = part.id;
    end if;
    surplus := surplus - part.quantity;
  end loop;
  return null;
end $$;
create trigger parts_after_line after update of quantity on shipment_line for each row when (new.quantity < old.quantity) execute function parts_after_line();
create function carton_after_content() returns trigger language plpgsql as $$
begin
  update carton set closed_at = null, closed_by = null, weight_kg = null where id = old.carton_id and closed_at is not null;
  return null;
end $$;
create trigger carton_after_content after delete on carton_content for each row execute function carton_after_content();
`;

/** What no bin is named for is taken from what nobody has allocated. */
const TAKING = `
create or replace function stock_after_movement() returns trigger language plpgsql as $$
declare
  missing numeric := -new.quantity;
  part numeric;
  place record;
  until date := coalesce(new.lasts_until, new.at::date);
  leaves boolean := new.kind in ('shipment', 'transfer', 'assembly');
begin
  if new.status = 'available' then perform stock_change(new.item, new.warehouse, new.quantity, 0, 0, 0); end if;
  if new.quantity > 0 then
    perform place_change(new.id, new.item, new.warehouse, new.status, coalesce(new.lot, ''),
      coalesce(new.bin, (select bin from item_home where item = new.item and warehouse = new.warehouse), ''), new.quantity);
    return null;
  end if;
  if new.bin is not null then
    perform place_change(new.id, new.item, new.warehouse, new.status, coalesce(new.lot, ''), new.bin, new.quantity);
    return null;
  end if;
  /* First expiry, first out. What does not last is taken only where goods are written off, and last. */
  for place in
    select s.lot, s.bin, s.quantity - s.allocated as quantity from stock_place s left join item_lot l on l.item = s.item and l.lot = s.lot
    where s.item = new.item and s.warehouse = new.warehouse and s.status = new.status and s.quantity > s.allocated and (new.lot is null or s.lot = new.lot)
      and not (leaves and l.expires is not null and l.expires < until)
    order by (l.expires is not null and l.expires < until), l.expires nulls last, s.lot, s.bin
  loop
    part := least(missing, place.quantity);
    perform place_change(new.id, new.item, new.warehouse, new.status, place.lot, place.bin, -part);
    missing := missing - part;
    exit when missing = 0;
  end loop;
  if missing > 0 then raise exception 'places of % at % hold % too little that lasts until %', new.item, new.warehouse, missing, until using errcode = 'check_violation'; end if;
  return null;
end $$;
`;

/** Picks in progress get their bins and lots as if they had been allocated one after the other, and each a consignment. */
const CARRY_OVER = `
do $$
declare line record; place record; missing numeric; part numeric; made integer;
begin
  for line in select s.id, s.warehouse, s.carrier_service, o.customer_id, coalesce((select l.ship_to_id from shipment_line x join order_line l on l.id = x.order_line_id
      where x.shipment_id = s.id limit 1), o.ship_to_id) as ship_to_id from shipment s join sales_order o on o.id = s.order_id where s.state = 'picking' order by s.id loop
    insert into consignment (warehouse, customer_id, ship_to_id, carrier_service) values (line.warehouse, line.customer_id, line.ship_to_id, line.carrier_service) returning id into made;
    update shipment set consignment_id = made where id = line.id;
  end loop;
  for line in select sl.shipment_id, sl.order_line_id, sl.quantity, l.item, s.warehouse from shipment_line sl
      join shipment s on s.id = sl.shipment_id and s.state = 'picking' join order_line l on l.id = sl.order_line_id order by sl.shipment_id, l.line_no loop
    missing := line.quantity;
    for place in select p.id, p.quantity - p.allocated as free from stock_place p left join item_lot t on t.item = p.item and t.lot = p.lot
        where p.item = line.item and p.warehouse = line.warehouse and p.status = 'available' and p.quantity > p.allocated
        order by t.expires < current_date nulls first, t.expires nulls last, p.lot, p.bin loop
      part := least(missing, place.free);
      insert into pick_part (shipment_id, order_line_id, place_id, quantity) values (line.shipment_id, line.order_line_id, place.id, part);
      missing := missing - part;
      exit when missing = 0;
    end loop;
  end loop;
end $$;
delete from number_series where name = 'shipment';
`;

const TOLD = `
/* What was told with a consignment: its packing list as it left. */
alter table document add column consignment_id integer references consignment,
  drop constraint document_kind_check, drop constraint document_about_one,
  add constraint document_kind_check check (kind in ('acknowledgement', 'quote', 'pro_forma', 'purchase', 'packing_list')),
  add constraint document_about_one check (num_nonnulls(order_id, purchase_id, consignment_id) = 1
    and (kind = 'purchase') = (purchase_id is not null) and (kind = 'packing_list') = (consignment_id is not null));
create index document_consignment on document (consignment_id, id desc) where consignment_id is not null;
/* Of the mail that says a consignment has left. */
alter table mail add column consignment_id integer references consignment;
create index mail_consignment on mail (consignment_id) where consignment_id is not null;
`;
