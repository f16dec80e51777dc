import { sql, type Kysely } from 'kysely';

/**
 * Goods that expire are neither promised nor taken when they have, nor when they do not last as long as is asked. How much
 * life must be left on delivery is said by the item and by the customer.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [COLUMNS, EXPIRED, TAKING]) await sql.raw(statement).execute(db);
}

const COLUMNS = `
/* Days of life that must be left on delivery. */
alter table item add column least_life integer not null default 0 check (least_life between 0 and 3650);
alter table customer add column least_life integer check (least_life between 0 and 3650);
/* The day until which goods that leave must last; null: they must not have expired where they leave for a customer, an assembly or another warehouse. */
alter table stock_movement add column lasts_until date;
`;

const EXPIRED = `
/* What of the goods on hand that may be sold has expired before a day. */
create function expired_on_hand(p_item text, p_warehouse text, p_day date) returns numeric language sql stable as $$
  select coalesce(sum(s.quantity), 0) from stock_place s join item_lot l on l.item = s.item and l.lot = s.lot
  where s.item = p_item and s.warehouse = p_warehouse and s.status = 'available' and l.expires < p_day
$$;
`;

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
    select s.lot, s.bin, s.quantity from stock_place s left join item_lot l on l.item = s.item and l.lot = s.lot
    where s.item = new.item and s.warehouse = new.warehouse and s.status = new.status and s.quantity > 0 and (new.lot is null or s.lot = new.lot)
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
