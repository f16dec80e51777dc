import { sql, type Kysely } from 'kysely';

/**
 * The list of orders: what is shown, filtered and sorted of each order stands in one row, kept by triggers from the rows
 * it is made of, so that a page of a hundred thousand orders is read by an index whatever it is sorted by. And the views
 * of lists that people keep.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [STANDING, REFRESH, TRIGGERS, INDEXES, VIEWS]) await sql.raw(statement).execute(db);
}

const STANDING = `
create table order_standing (
  order_id integer primary key references sales_order on delete cascade,
  kind text not null,
  state text not null,
  customer_name text not null,
  requested_day date not null,
  /* The last day something of it was promised to leave; infinity where nothing was, so that pages by it have no gaps. */
  promised_day date not null,
  amount numeric(18, 2) not null,
  lines integer not null,
  open_lines integer not null,
  waiting_lines integer not null,
  shipped boolean not null,
  picking boolean not null,
  /* All that was shipped is on an invoice. */
  billed boolean not null,
  held boolean not null,
  /* An order somebody still has to do something for. */
  open boolean not null generated always as (kind = 'order' and (state = 'draft' or (state = 'released' and open_lines > 0))) stored,
  waiting boolean not null generated always as (state = 'released' and waiting_lines > 0) stored,
  search text not null
);
`;

const REFRESH = `
create function refresh_standing(p_orders integer[]) returns void language sql as $$
  insert into order_standing as s (order_id, kind, state, customer_name, requested_day, promised_day, amount, lines, open_lines, waiting_lines, shipped, picking, billed, held, search)
  select o.id, o.kind, o.state, c.name, o.requested_day, facts.promised_day, facts.amount, facts.lines, facts.open, facts.waiting, facts.shipped, facts.picking,
    facts.shipped and not exists (select from shipment where order_id = o.id and state = 'shipped' and invoice_id is null),
    o.state = 'draft' and exists (select from order_hold where order_id = o.id and cleared_at is null),
    lower(coalesce(o.number, '') || ' ' || o.po_number) || ' ' || c.search
  from sales_order o
  join customer c on c.id = o.customer_id
  cross join lateral (
    select count(*) as lines,
      coalesce(sum(round((l.stock_quantity - l.cancelled) * l.price * l.denominator / l.numerator, 2)), 0) as amount,
      count(*) filter (where l.shipped + l.cancelled < l.stock_quantity) as open,
      count(*) filter (where l.stock_quantity - l.shipped - l.cancelled > coalesce(p.promised, 0) + coalesce(d.dropped, 0)) as waiting,
      coalesce(bool_or(l.shipped > 0), false) as shipped,
      coalesce(bool_or(exists (select from shipment_line x join shipment g on g.id = x.shipment_id where x.order_line_id = l.id and g.state = 'picking')), false) as picking,
      coalesce(greatest(max(p.last_day), max(d.last_day)), 'infinity') as promised_day
    from order_line l
    left join lateral (select sum(quantity) as promised, max(day) as last_day from line_promise where line_id = l.id) p on true
    left join lateral (select sum(quantity - received - closed) as dropped, max(expected_day) as last_day
      from purchase_line where order_line_id = l.id and warehouse is null and received + closed < quantity) d on true
    where l.order_id = o.id and not l.alternative
  ) facts
  where o.id = any(p_orders)
  order by o.id
  on conflict (order_id) do update set kind = excluded.kind, state = excluded.state, customer_name = excluded.customer_name, requested_day = excluded.requested_day,
    promised_day = excluded.promised_day, amount = excluded.amount, lines = excluded.lines, open_lines = excluded.open_lines, waiting_lines = excluded.waiting_lines,
    shipped = excluded.shipped, picking = excluded.picking, billed = excluded.billed, held = excluded.held, search = excluded.search
  where (s.kind, s.state, s.customer_name, s.requested_day, s.promised_day, s.amount, s.lines, s.open_lines, s.waiting_lines, s.shipped, s.picking, s.billed, s.held, s.search)
    is distinct from (excluded.kind, excluded.state, excluded.customer_name, excluded.requested_day, excluded.promised_day, excluded.amount, excluded.lines,
      excluded.open_lines, excluded.waiting_lines, excluded.shipped, excluded.picking, excluded.billed, excluded.held, excluded.search);
$$;
`;

/** The orders rows of a table belong to, as SQL over `changed`. */
const ORDERS_OF: Readonly<Record<string, string>> = {
  sales_order: 'select distinct id from changed',
  order_line: 'select distinct order_id from changed',
  line_promise: 'select distinct l.order_id from changed join order_line l on l.id = changed.line_id',
  purchase_line: 'select distinct l.order_id from changed join order_line l on l.id = changed.order_line_id where changed.warehouse is null',
  shipment: 'select distinct order_id from changed',
  shipment_line: 'select distinct l.order_id from changed join order_line l on l.id = changed.order_line_id',
  order_hold: 'select distinct order_id from changed',
};

/** Once for each statement, however many rows it changes. */
function triggersOf([table, orders]: readonly [string, string]): string {
  const on = (event: 'insert' | 'update' | 'delete') =>
    `create trigger standing_after_${event} after ${event} on ${table} referencing ${event === 'delete' ? 'old' : 'new'} table as changed for each statement execute function standing_after_${table}();`;
  // Orders are not deleted, and their own rows go with them.
  const events = table === 'sales_order' ? (['insert', 'update'] as const) : (['insert', 'update', 'delete'] as const);
  return `
create function standing_after_${table}() returns trigger language plpgsql as $$
declare ids integer[] := array(${orders});
begin
  if cardinality(ids) > 0 then perform refresh_standing(ids); end if;
  return null;
end $$;
${events.map(on).join('\n')}`;
}

const TRIGGERS = `
${Object.entries(ORDERS_OF).map(triggersOf).join('\n')}
create function standing_after_customer() returns trigger language plpgsql as $$
begin
  perform refresh_standing(array(select id from sales_order where customer_id = new.id));
  return null;
end $$;
create trigger standing_after_customer after update of name, number, contact, phone, town, postcode on customer for each row
  when (old.search is distinct from new.search) execute function standing_after_customer();
select refresh_standing(array(select id from sales_order));
`;

/** One index for each way a list is sorted; the open ones, which are few among many, have their own. */
const SORTS = ['requested_day', 'promised_day', 'amount', 'customer_name'];
const INDEXES = `
${SORTS.map((column) => `create index order_standing_${column} on order_standing (${column}, order_id);`).join('\n')}
${SORTS.map((column) => `create index order_standing_open_${column} on order_standing (${column}, order_id) where open;`).join('\n')}
create index order_standing_open on order_standing (order_id desc) where open;
create index order_standing_waiting on order_standing (order_id desc) where waiting;
create index order_standing_draft on order_standing (order_id desc) where state = 'draft';
create index order_standing_quoted on order_standing (order_id desc) where state = 'quoted';
create index order_standing_search on order_standing using gin (search gin_trgm_ops);
drop index sales_order_quotes;
/* Customers by what their number or name begins with. */
create index customer_number_start on customer (lower(number) text_pattern_ops);
create index customer_name_start on customer (lower(name) text_pattern_ops);
`;

const VIEWS = `
create table saved_view (
  id integer generated always as identity primary key,
  user_id integer not null references app_user on delete cascade,
  screen text not null check (screen in ('orders')),
  name text not null check (name <> ''),
  /* As it stands in the address: filter, sort, columns. */
  query text not null,
  unique (user_id, screen, name)
);
`;
