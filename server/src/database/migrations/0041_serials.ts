import { sql, type Kysely } from 'kysely';

/**
 * Serial numbers: each is in one place, in a carton, in a basket or with a customer, and every step of its way is kept. A place holds no more
 * of them than goods: where goods go without a number being said, those that were last heard of there are missing until somebody scans them.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [SERIALS, MISSED]) await sql.raw(statement).execute(db);
}

const SERIALS = `
create table item_serial (
  id integer generated always as identity primary key,
  item text not null references item,
  serial text not null check (serial ~ '^[!-~]{1,20}$'),
  /* Where it is in the house; null: it has left, or nobody has said. */
  place_id integer references stock_place,
  /* With which it left; null: it has not. */
  shipment_id integer references shipment,
  /* The part of a shipment it belongs to, and the carton it is packed in. */
  part_id integer references pick_part on delete set null,
  carton_id integer,
  /* The basket it is in at a counter. */
  hold_id integer references counter_hold on delete set null,
  unique (item, serial),
  check (num_nonnulls(place_id, shipment_id) <= 1),
  check (carton_id is null or part_id is not null),
  check (num_nonnulls(carton_id, hold_id) <= 1),
  foreign key (carton_id, part_id) references carton_content on delete set null
);
create index item_serial_number on item_serial (upper(serial) text_pattern_ops);
create index item_serial_place on item_serial (place_id) where place_id is not null;
create index item_serial_part on item_serial (part_id) where part_id is not null;
create index item_serial_shipment on item_serial (shipment_id) where shipment_id is not null;
create index item_serial_hold on item_serial (hold_id) where hold_id is not null;
/* Where it was, step by step. */
create table serial_step (
  id integer generated always as identity primary key,
  serial_id integer not null references item_serial,
  at timestamptz not null default now(),
  kind text not null check (kind in ('received', 'placed', 'packed', 'shipped', 'brought_back', 'missed')),
  warehouse text not null default '',
  bin text not null default '',
  lot text not null default '',
  /* The paper it moved with: a receipt, a shipment, a reason. */
  reference text not null default '',
  user_id integer references app_user
);
create index serial_step_serial on serial_step (serial_id, id);
`;

/** Goods that go without a number being said: numbers beyond what is left are missing, those in no carton and no basket, the last that came first. */
/** Goods that go without a number being said: numbers beyond what is left are missing; those in a carton or basket, and those that were just named, stay longest. */
const MISSED = `
create function serials_fit(places integer[], named text[]) returns void language sql as $$
  with own as (
    select s.id, row_number() over (partition by s.place_id order by (s.carton_id is not null or s.hold_id is not null) desc, (s.serial = any(named)) desc, s.id) as n, p.quantity, p.warehouse, p.bin, p.lot
    from stock_place p join item_serial s on s.place_id = p.id where p.id = any(places)),
  gone as (update item_serial s set place_id = null from own where s.id = own.id and own.n > own.quantity returning s.id, own.warehouse, own.bin, own.lot)
  insert into serial_step (serial_id, kind, warehouse, bin, lot) select id, 'missed', warehouse, bin, lot from gone;
$$;
create function serials_after_place() returns trigger language plpgsql as $$
begin
  if exists (select from item_serial s join lowered k on k.id = s.place_id) then
    perform serials_fit((select array_agg(id) from lowered), '{}');
  end if;
  return null;
end $$;
create trigger serials_after_place after update on stock_place referencing new table as lowered
  for each statement execute function serials_after_place();
`;
