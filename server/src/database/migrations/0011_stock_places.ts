import { sql, type Kysely } from 'kysely';

/**
 * Where goods stand: by bin, lot and status. `stock` keeps what may be promised, as before; a place keeps what stands in
 * one bin of one lot. A movement that names no bin is put where the item lives, or taken from what expires first, so
 * that no command can forget to.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [ITEMS, PLACES, MOVEMENTS, CARRY_OVER, DAMAGED]) await sql.raw(statement).execute(db);
}

const ITEMS = `
alter table item
  /* GS1 trade item number of one stocking unit, as 14 digits. */
  add column gtin text unique check (gtin ~ '^[0-9]{14}$'),
  add column tracks_lots boolean not null default false,
  add column tracks_expiry boolean not null default false,
  add constraint expiry_by_lot check (tracks_lots or not tracks_expiry);
create table bin (
  warehouse text not null references warehouse,
  code text not null check (code ~ '^[A-Za-z0-9][A-Za-z0-9._/-]*$'),
  primary key (warehouse, code)
);
/* Where an item lives at a warehouse. */
create table item_home (
  item text not null references item,
  warehouse text not null references warehouse,
  bin text not null,
  primary key (item, warehouse),
  foreign key (warehouse, bin) references bin
);
create table item_lot (
  item text not null references item,
  lot text not null check (lot <> ''),
  /* The last day it may be used. */
  expires date,
  primary key (item, lot)
);
`;

const PLACES = `
create table stock_place (
  id integer generated always as identity primary key,
  item text not null references item,
  warehouse text not null references warehouse,
  /* Empty: nobody has said where. */
  bin text not null default '',
  lot text not null default '',
  /* Goods in quarantine are in the house and nobody's. */
  status text not null check (status in ('available', 'quarantine')),
  quantity numeric(15, 4) not null check (quantity >= 0),
  unique (item, warehouse, status, lot, bin)
);
create index stock_place_bin on stock_place (warehouse, bin) where quantity > 0;
create index stock_place_quarantine on stock_place (item, warehouse) where status = 'quarantine' and quantity > 0;
`;

const MOVEMENTS = `
alter table stock_movement
  add column status text not null default 'available' check (status in ('available', 'quarantine')),
  /* Null: where the item lives; from what expires first. */
  add column bin text,
  add column lot text,
  add column reason text check (reason in ('found', 'lost', 'damaged', 'expired', 'sample', 'mixed_up', 'other')),
  drop constraint stock_movement_kind_check,
  add constraint stock_movement_kind_check check (kind in ('opening', 'receipt', 'shipment', 'count', 'transfer', 'assembly', 'adjustment', 'move'));
create index stock_movement_reference on stock_movement (reference);
/* Which places a movement filled or emptied. */
create table stock_movement_place (
  movement_id bigint not null references stock_movement,
  place_id integer not null references stock_place,
  quantity numeric(15, 4) not null,
  primary key (movement_id, place_id)
);

create function place_change(p_movement bigint, p_item text, p_warehouse text, p_status text, p_lot text, p_bin text, p_change numeric) returns void language plpgsql as $$
declare place integer;
begin
  update stock_place set quantity = quantity + p_change
    where item = p_item and warehouse = p_warehouse and status = p_status and lot = p_lot and bin = p_bin returning id into place;
  if not found then
    if p_change < 0 then raise exception 'nothing of % stands in bin "%" at %', p_item, p_bin, p_warehouse using errcode = 'check_violation'; end if;
    insert into stock_place (item, warehouse, status, lot, bin, quantity) values (p_item, p_warehouse, p_status, p_lot, p_bin, p_change) returning id into place;
  end if;
  insert into stock_movement_place (movement_id, place_id, quantity) values (p_movement, place, p_change);
end $$;

create or replace function stock_after_movement() returns trigger language plpgsql as $$
declare
  missing numeric := -new.quantity;
  part numeric;
  place record;
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
  /* First expiry, first out; what has expired only where there is nothing else. */
  for place in
    select s.lot, s.bin, s.quantity from stock_place s left join item_lot l on l.item = s.item and l.lot = s.lot
    where s.item = new.item and s.warehouse = new.warehouse and s.status = new.status and s.quantity > 0 and (new.lot is null or s.lot = new.lot)
    order by (l.expires is not null and l.expires < new.at::date), l.expires nulls last, s.lot, s.bin
  loop
    part := least(missing, place.quantity);
    perform place_change(new.id, new.item, new.warehouse, new.status, place.lot, place.bin, -part);
    missing := missing - part;
    exit when missing = 0;
  end loop;
  if missing > 0 then raise exception 'places of % at % hold % too little', new.item, new.warehouse, missing using errcode = 'check_violation'; end if;
  return null;
end $$;
`;

/** What was on hand before there were places stands where nobody has said. */
const CARRY_OVER = `
insert into stock_place (item, warehouse, status, quantity) select item, warehouse, 'available', on_hand from stock where on_hand > 0;
`;

const DAMAGED = `
/* Came, and is not fit to be sold: it stands in quarantine, and as much is still awaited, or closed. */
alter table purchase_line add column damaged numeric(15, 4) not null default 0 check (damaged >= 0);
alter table transfer_line add column damaged numeric(15, 4) not null default 0 check (damaged >= 0);
`;
