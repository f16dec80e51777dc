import { sql, type Kysely } from 'kysely';

/**
 * What boards show of each line is kept: what is short, what can leave, what could be had earlier. It is computed for an item
 * when something of it has changed: each change leaves a mark with the item, in its own transaction, and a mark is taken away
 * when what it stands for has been computed. Marks are only added, so that nobody waits for another to leave one.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [TABLES, TOUCH, TRIGGERS]) await sql.raw(statement).execute(db);
}

const TABLES = `
create table board_touched (
  id bigint generated always as identity primary key,
  item text not null
);
/* The days for which all of it was computed: the first on which goods can leave each warehouse. Empty: for none. */
create table board_clock (
  one boolean primary key default true check (one),
  days text not null
);
insert into board_clock (days) values ('');
create table board_short (
  id integer generated always as identity primary key,
  line_id integer not null,
  item text not null,
  kind text not null check (kind in ('waiting', 'late', 'broken')),
  quantity numeric(16, 4) not null,
  promised_day date,
  possible_day date,
  drop_ship boolean not null,
  requested date not null,
  days_late integer,
  value numeric(18, 2) not null,
  /* All by which it is found, in small letters. */
  search text not null
);
create index board_short_item on board_short (item);
create index board_short_line on board_short (line_id);
create index board_short_value on board_short (value desc, id);
create table board_ready (
  line_id integer primary key,
  order_id integer not null,
  item text not null,
  warehouse text not null,
  quantity numeric(16, 4) not null,
  day date not null
);
create index board_ready_item on board_ready (item);
create index board_ready_order on board_ready (order_id);
/* What can leave of an order from one warehouse to one place, where nothing keeps it. */
create table board_leave (
  order_id integer not null,
  warehouse text not null,
  place integer not null,
  day date not null,
  entered timestamp not null,
  search text not null,
  primary key (order_id, warehouse, place)
);
create index board_leave_day on board_leave (day, entered, order_id);
/* Lines of orders that must leave complete, which are not on the shelf as a whole. */
create table board_gap (
  line_id integer primary key,
  order_id integer not null,
  item text not null
);
create index board_gap_item on board_gap (item);
create index board_gap_order on board_gap (order_id);
create table board_offer (
  line_id integer primary key,
  item text not null,
  told boolean not null,
  /* By the turn of orders. */
  priority integer not null,
  place double precision not null,
  move jsonb not null
);
create index board_offer_item on board_offer (item);
create index board_offer_turn on board_offer (priority, place, line_id);
/* Items that an order which must leave complete ties together, as it was when they were computed. */
create table board_tie (
  order_id integer not null,
  item text not null,
  primary key (order_id, item)
);
create index board_tie_item on board_tie (item);
`;

const TOUCH = `
create function touch_boards(p_items text[]) returns void language sql as $$
  insert into board_touched (item) select distinct item from unnest(p_items) as item where item is not null;
$$;
/* All items anew. */
create function touch_all_boards() returns trigger language plpgsql as $$
begin
  update board_clock set days = '' where days <> '';
  return null;
end $$;
`;

/** Of released orders; one that must leave complete is touched as a whole. */
const linesOf = (ids: string) => `
  select l.item from (${ids}) c(id) join order_line l on l.id = c.id join sales_order o on o.id = l.order_id where o.state = 'released'
  union
  select other.item from (${ids}) c(id) join order_line l on l.id = c.id join sales_order o on o.id = l.order_id and o.state = 'released' and o.ship_complete
  join order_line other on other.order_id = o.id`;

/** The items that rows of a table say something about, as SQL over `changed`. */
const ITEMS_OF: Readonly<Record<string, string>> = {
  order_line: linesOf('select id from changed'),
  line_promise: linesOf('select line_id from changed'),
  stock: 'select item from changed',
  stock_place: 'select item from changed',
  item_lot: 'select item from changed',
  purchase_line: 'select item from changed',
  transfer_line: 'select item from changed',
  assembly_order: 'select item from changed',
  shipment_line: linesOf('select order_line_id from changed'),
  shipment: linesOf('select x.order_line_id from changed join shipment_line x on x.shipment_id = changed.id'),
  transfer_order: 'select t.item from changed join transfer_line t on t.transfer_id = changed.id',
  supplier_item: 'select item from changed',
};

/** Once for each statement, however many rows it changes. */
function triggersOf([table, items]: readonly [string, string]): string {
  const on = (event: 'insert' | 'update' | 'delete') =>
    `create trigger boards_after_${event} after ${event} on ${table} referencing ${event === 'delete' ? 'old' : 'new'} table as changed for each statement execute function boards_after_${table}();`;
  return `
create function boards_after_${table}() returns trigger language plpgsql as $$
begin
  perform touch_boards(array(${items}));
  return null;
end $$;
${(['insert', 'update', 'delete'] as const).map(on).join('\n')}`;
}

/** What of a row counts: a change of anything else touches nothing. */
const rowTrigger = (table: string, columns: readonly string[], body: string) => `
create function boards_after_${table}() returns trigger language plpgsql as $$
begin
  ${body}
  return null;
end $$;
create trigger boards_after_update after update of ${columns.join(', ')} on ${table} for each row
  when ((${columns.map((column) => `old.${column}`).join(', ')}) is distinct from (${columns.map((column) => `new.${column}`).join(', ')}))
  execute function boards_after_${table}();`;

const ALL_OF: readonly (readonly [string, string])[] = [
  ['warehouse', 'insert or update or delete'],
  ['closed_day', 'insert or update or delete'],
  ['carrier_service', 'update'],
];

const TRIGGERS = `
${Object.entries(ITEMS_OF).map(triggersOf).join('\n')}
${rowTrigger(
  'sales_order',
  ['number', 'state', 'priority', 'place', 'ship_complete', 'request_kind', 'requested_day', 'carrier_service', 'currency', 'customer_id', 'ship_to_id'],
  `if old.state = 'released' or new.state = 'released' then
    perform touch_boards(array(select item from order_line where order_id = new.id));
  end if;`,
)}
${rowTrigger('item', ['description', 'unit', 'tracks_expiry', 'least_life'], 'perform touch_boards(array[new.code]);')}
${rowTrigger(
  'customer',
  ['name', 'least_life'],
  `perform touch_boards(array(select l.item from order_line l join sales_order o on o.id = l.order_id
    where o.customer_id = new.id and o.state = 'released' and l.shipped + l.cancelled < l.stock_quantity));`,
)}
${rowTrigger('supplier', ['name'], 'perform touch_boards(array(select item from supplier_item where supplier = new.code));')}
${ALL_OF.map(([table, events]) => `create trigger boards_after_change after ${events} on ${table} for each statement execute function touch_all_boards();`).join('\n')}
`;
