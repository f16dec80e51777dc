import { sql, type Kysely } from 'kysely';

/**
 * The ledger: accounts, entries whose lines sum up to nothing, periods that are closed, and what the goods on hand cost. It posts itself from what the
 * acts write (goods, invoices, settlements, payments), in their transactions, so that none can forget it. The application's role may only read it.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const part of [TABLES, POSTING, VALUATION, INSIDE, DROP_SHIPPED, INVOICES, PAYMENTS, OPENING]) await sql.raw(part).execute(db);
}

const TABLES = `
create table ledger_account (
  code text primary key,
  /* What it is for: rules of posting name accounts by it, so that a firm may number and name them as it likes. */
  role text not null unique,
  name text not null,
  kind text not null check (kind in ('asset', 'liability', 'equity', 'income', 'expense'))
);
insert into ledger_account (code, role, name, kind) values
  ('1000', 'bank', 'Bank', 'asset'),
  ('1010', 'cash', 'Cash', 'asset'),
  ('1020', 'card', 'Card receipts', 'asset'),
  ('1100', 'receivables', 'Receivables', 'asset'),
  ('1200', 'stock', 'Stock', 'asset'),
  ('1210', 'in_transit', 'Goods in transit', 'asset'),
  ('1220', 'assembly', 'Assembly in progress', 'asset'),
  ('1230', 'shipped_not_billed', 'Shipped, not billed', 'asset'),
  ('1300', 'input_tax', 'Input tax', 'asset'),
  ('2000', 'payables', 'Payables', 'liability'),
  ('2010', 'received_not_invoiced', 'Received, not invoiced', 'liability'),
  ('2100', 'output_tax', 'Output tax', 'liability'),
  ('2200', 'on_account', 'Payments on account', 'liability'),
  ('3000', 'opening', 'Opening balances', 'equity'),
  ('4000', 'sales', 'Sales of goods', 'income'),
  ('4010', 'freight', 'Freight charged', 'income'),
  ('4020', 'fees', 'Fees charged', 'income'),
  ('4900', 'discounts', 'Discounts for early payment', 'income'),
  ('5000', 'cost_of_goods', 'Cost of goods sold', 'expense'),
  ('5010', 'stock_differences', 'Stock differences', 'expense'),
  ('5020', 'price_differences', 'Purchase price differences', 'expense'),
  ('5030', 'inbound_freight', 'Inbound freight', 'expense'),
  ('6000', 'written_off', 'Written-off receivables', 'expense'),
  ('6010', 'bank_charges', 'Bank charges', 'expense');
/* Where goods that move come from or go to, by the kind of their movement; null: they only change their bin. */
create table posting_rule (movement text primary key, role text references ledger_account (role));
insert into posting_rule values ('opening', 'opening'), ('receipt', 'received_not_invoiced'), ('shipment', 'shipped_not_billed'),
  ('transfer', 'in_transit'), ('assembly', 'assembly'), ('count', 'stock_differences'), ('adjustment', 'stock_differences'), ('move', null);

create table ledger_period (
  month date primary key check (extract(day from month) = 1),
  closed_at timestamptz not null,
  closed_by integer not null references app_user
);
create table ledger_entry (
  id bigint generated always as identity primary key,
  posted_at timestamptz not null default now(),
  day date not null,
  kind text not null check (kind in ('opening', 'receipt', 'shipment', 'transfer', 'assembly', 'count', 'adjustment', 'drop_ship', 'transfer_lost', 'invoice',
    'credit_note', 'payment', 'payment_reversed', 'settlement', 'supplier_invoice', 'refund')),
  /* The number of the paper it is of. */
  reference text not null default '',
  invoice_id integer references invoice,
  payment_id integer references payment
);
create index ledger_entry_day on ledger_entry (day desc, id desc);
create index ledger_entry_reference on ledger_entry (reference);
create index ledger_entry_invoice on ledger_entry (invoice_id) where invoice_id is not null;
create index ledger_entry_payment on ledger_entry (payment_id) where payment_id is not null;
create table ledger_line (
  id bigint generated always as identity primary key,
  entry_id bigint not null references ledger_entry,
  account text not null references ledger_account,
  /* Debit above 0, credit below. */
  amount numeric(15, 4) not null check (amount <> 0),
  item text references item,
  warehouse text references warehouse,
  shipment_id integer references shipment,
  purchase_id integer references purchase_order,
  category text,
  percent numeric(5, 2)
);
create index ledger_line_entry on ledger_line (entry_id);
create index ledger_line_account on ledger_line (account, entry_id);
create index ledger_line_purchase on ledger_line (purchase_id) where purchase_id is not null;
create index ledger_line_shipment on ledger_line (shipment_id) where shipment_id is not null;

/* What the goods of a pool cost: items with lots by lot, others by moving average. */
create table stock_value (
  item text not null references item,
  warehouse text not null references warehouse,
  lot text not null default '',
  quantity numeric(15, 4) not null default 0 check (quantity >= 0),
  value numeric(15, 4) not null default 0 check (value >= 0),
  primary key (item, warehouse, lot),
  constraint nothing_costs_nothing check (quantity > 0 or value = 0)
);
/* Of what came: what it cost and the supplier has not invoiced, and how many they have invoiced. */
alter table purchase_line add column accrued numeric(15, 4) not null default 0, add column invoiced numeric(15, 4) not null default 0 check (invoiced >= 0);
create table movement_value (
  movement_id bigint not null references stock_movement,
  lot text not null default '',
  quantity numeric(15, 4) not null,
  value numeric(15, 4) not null,
  primary key (movement_id, lot)
);
`;

const POSTING = `
/* Digits after the point of the firm's currency (ISO 4217), as the application rounds. */
create function money_digits() returns integer language sql stable as $$
  select case when firm_currency() in ('JPY', 'KRW', 'ISK') then 0 when firm_currency() in ('BHD', 'KWD', 'OMR', 'TND') then 3 else 2 end
$$;

/* The day an entry counts for: its own, or the first that is not closed. Held until the end, so that nobody closes meanwhile. */
create function ledger_day(own date) returns date language plpgsql as $$
begin
  perform pg_advisory_xact_lock_shared(2044);
  return greatest(own, coalesce((select (max(month) + interval '1 month')::date from ledger_period), own));
end $$;

create function account_of(wanted text) returns text language sql stable as 'select code from ledger_account where role = wanted';

/* Debit = credit, of each entry, with the statement that writes its lines. */
create function entry_balances() returns trigger language plpgsql as $$
begin
  if exists (select from added group by entry_id having sum(amount) <> 0) then
    raise exception 'an entry of the ledger does not balance' using errcode = 'check_violation', constraint = 'entry_balances';
  end if;
  return null;
end $$;
create trigger entry_balances after insert on ledger_line referencing new table as added for each statement execute function entry_balances();

/* What is posted is never changed, whoever asks. */
create function posted_stays() returns trigger language plpgsql as $$
begin
  raise exception 'what is posted in the ledger is not changed' using errcode = 'check_violation', constraint = 'posted_stays';
end $$;
create trigger posted_stays before update or delete on ledger_entry for each statement execute function posted_stays();
create trigger posted_stays before update or delete on ledger_line for each statement execute function posted_stays();
`;

const VALUATION = `
/*
 * Values goods that move, and posts it. What comes in: a receipt at the cost of its purchase line, a shipment that is undone and a transfer at what left,
 * an assembly at what it used up, goods that only change their status at what they cost before, all else at the average. What leaves: at the average of
 * its pool, of items with lots at that of the lot; the last of it takes what is left, so that nothing is lost by rounding.
 */
create function value_movements() returns trigger language plpgsql security definer set search_path = public as $$
declare
  digits integer := money_digits();
begin
  if not exists (select from added where kind <> 'move') then return null; end if;
  insert into stock_value (item, warehouse, lot)
    select distinct m.item, m.warehouse, case when i.tracks_lots then s.lot else '' end
    from added m join item i on i.code = m.item join stock_movement_place p on p.movement_id = m.id join stock_place s on s.id = p.place_id
    where m.kind <> 'move' order by 1, 2, 3 on conflict do nothing;
  perform from stock_value v where exists (select from added m where m.item = v.item and m.warehouse = v.warehouse)
    order by item, warehouse, lot for update;
  with goods as (
    select m.id, m.kind, m.reference, m.at, m.item, m.warehouse, case when i.tracks_lots then s.lot else '' end as lot, sum(p.quantity) as quantity, i.cost
    from added m join item i on i.code = m.item join stock_movement_place p on p.movement_id = m.id join stock_place s on s.id = p.place_id
    where m.kind <> 'move' group by m.id, m.kind, m.reference, m.at, m.item, m.warehouse, 7, i.cost),
  /* What so many cost, to take a part of. */
  based as (
    select g.*, case when b.quantity > 0 then b.value else g.cost end as base_value, case when b.quantity > 0 then b.quantity else 1 end as base_quantity
    from goods g left join lateral (
      select 1 as turn, l.cost as value, 1::numeric as quantity from purchase_order o join purchase_line l on l.purchase_id = o.id
        where g.kind = 'receipt' and o.number = split_part(g.reference, '/', 1) and l.line_no::text = split_part(g.reference, '/', 2)
      union all
      select 1, -sum(v.value), -sum(v.quantity) from stock_movement k join movement_value v on v.movement_id = k.id
        where g.kind = 'shipment' and k.reference = g.reference and k.kind = 'shipment' and k.item = g.item and k.warehouse = g.warehouse and v.lot = g.lot
        having sum(v.quantity) < 0
      union all
      select 1, (select sum(l.amount) from ledger_entry e join ledger_line l on l.entry_id = e.id
          where e.reference = g.reference and l.account = account_of('in_transit') and l.item = g.item), -sum(v.quantity)
        from stock_movement k join movement_value v on v.movement_id = k.id
        where g.kind = 'transfer' and k.reference = g.reference and k.kind = 'transfer' and k.item = g.item having sum(v.quantity) < 0
      union all
      select 1, -sum(v.value), g.quantity from stock_movement k join movement_value v on v.movement_id = k.id
        where g.kind = 'assembly' and k.reference = g.reference and k.kind = 'assembly' having sum(v.value) < 0
      union all
      (select 1, -v.value, -v.quantity from stock_movement k join movement_value v on v.movement_id = k.id
        where g.kind = 'adjustment' and k.reference = g.reference and k.kind = 'adjustment' and k.at = g.at and k.item = g.item and k.warehouse = g.warehouse
          and v.lot = g.lot and v.quantity = -g.quantity order by k.id desc limit 1)
      union all
      select 2, v.value, v.quantity from stock_value v
        where g.kind <> 'opening' and v.item = g.item and v.warehouse = g.warehouse and v.lot = g.lot and v.quantity > 0
      order by turn limit 1) b on true
    where g.quantity > 0),
  came as (
    select id, kind, reference, at, item, warehouse, lot, quantity,
      round(base_value * sum(quantity) over so_far / base_quantity, digits) - round(base_value * (sum(quantity) over so_far - quantity) / base_quantity, digits) as value
    from based window so_far as (partition by kind, reference, item, warehouse, case when kind in ('receipt', 'transfer') then '' else lot end order by id, lot)),
  pools as (
    select v.item, v.warehouse, v.lot, v.quantity + coalesce(c.quantity, 0) as quantity, v.value + coalesce(c.value, 0) as value
    from stock_value v left join (select item, warehouse, lot, sum(quantity) as quantity, sum(value) as value from came group by item, warehouse, lot) c
      using (item, warehouse, lot)
    where (v.item, v.warehouse, v.lot) in (select item, warehouse, lot from goods)),
  gone as (
    select g.id, g.kind, g.reference, g.at, g.item, g.warehouse, g.lot, g.quantity,
      round(p.value * (-sum(g.quantity) over so_far + g.quantity) / p.quantity, digits) - round(p.value * -sum(g.quantity) over so_far / p.quantity, digits) as value
    from goods g join pools p using (item, warehouse, lot)
    where g.quantity < 0 window so_far as (partition by g.item, g.warehouse, g.lot order by g.id)),
  valued as (select * from came union all select * from gone),
  kept as (insert into movement_value (movement_id, lot, quantity, value) select id, lot, quantity, value from valued),
  pooled as (
    update stock_value v set quantity = v.quantity + k.quantity, value = v.value + k.value
    from (select item, warehouse, lot, sum(quantity) as quantity, sum(value) as value from valued group by item, warehouse, lot) k
    where v.item = k.item and v.warehouse = k.warehouse and v.lot = k.lot),
  entries as (
    insert into ledger_entry (day, kind, reference)
    select ledger_day(min(at)::date), kind, case when kind = 'receipt' then split_part(reference, '/', 1) else reference end
    from valued where value <> 0 group by 2, 3 order by 3 returning id, kind, reference),
  sides as (
    select e.id, v.item, v.warehouse, v.kind, v.reference, v.value from valued v
    join entries e on e.kind = v.kind and e.reference = case when v.kind = 'receipt' then split_part(v.reference, '/', 1) else v.reference end)
  insert into ledger_line (entry_id, account, amount, item, warehouse, shipment_id, purchase_id)
    select id, account_of('stock'), sum(value), item, warehouse, null::integer, null::integer from sides group by id, item, warehouse having sum(value) <> 0
    union all
    select k.id, a.code, -sum(k.value), k.item, k.warehouse, s.id, p.id from sides k
      join posting_rule r on r.movement = k.kind join ledger_account a on a.role = r.role
      left join shipment s on k.kind = 'shipment' and s.number = k.reference
      left join purchase_order p on k.kind = 'receipt' and p.number = split_part(k.reference, '/', 1)
      group by k.id, a.code, k.item, k.warehouse, s.id, p.id having sum(k.value) <> 0;
  /* What is owed for it, line by line of the purchase, until the supplier invoices it. */
  update purchase_line l set accrued = l.accrued + k.value
    from (select o.id, split_part(m.reference, '/', 2) as line_no, sum(v.value) as value
      from added m join movement_value v on v.movement_id = m.id join purchase_order o on o.number = split_part(m.reference, '/', 1)
      where m.kind = 'receipt' group by 1, 2) k
    where l.purchase_id = k.id and l.line_no::text = k.line_no;
  return null;
end $$;
create trigger value_movements after insert on stock_movement referencing new table as added for each statement execute function value_movements();
`;

const INSIDE = `
/* A lot that has another name costs what it cost. */
create function value_of_renamed() returns trigger language plpgsql security definer set search_path = public as $$
begin
  update stock_value set lot = new.lot where item = new.item and lot = old.lot;
  update movement_value v set lot = new.lot from stock_movement m where m.id = v.movement_id and m.item = new.item and v.lot = old.lot;
  return null;
end $$;
create trigger value_of_renamed after update on item_lot for each row when (old.lot <> new.lot) execute function value_of_renamed();

/* Of a transfer everything has come or is lost: what is left of its cost is lost. Asked once all of the act is done. */
create function post_lost() returns trigger language plpgsql security definer set search_path = public as $$
declare
  own text := (select number from transfer_order where id = new.transfer_id) || '/' || new.line_no;
  rest numeric;
  entry bigint;
begin
  if not exists (select from transfer_line where id = new.id and shipped > 0 and received + lost >= shipped) then return null; end if;
  rest := (select sum(l.amount) from ledger_entry e join ledger_line l on l.entry_id = e.id where e.reference = own and l.account = account_of('in_transit'));
  if coalesce(rest, 0) = 0 then return null; end if;
  insert into ledger_entry (day, kind, reference) values (ledger_day(coalesce((
    select max(v.at)::date from event v join event_subject t on t.event_id = v.id where t.kind = 'transfer' and t.key = new.transfer_id::text), current_date)), 'transfer_lost', own) returning id into entry;
  insert into ledger_line (entry_id, account, amount, item) values
    (entry, account_of('stock_differences'), rest, new.item), (entry, account_of('in_transit'), -rest, new.item);
  return null;
end $$;
create constraint trigger post_lost after update on transfer_line deferrable initially deferred
  for each row when (new.received + new.lost >= new.shipped and new.shipped > 0) execute function post_lost();
`;

const DROP_SHIPPED = `
/* What a supplier sent to a customer never stood in stock: it is shipped and not billed, and owed to the supplier. */
create function post_drop_shipped() returns trigger language plpgsql security definer set search_path = public as $$
declare
  digits integer := money_digits();
begin
  if not exists (select from changed n join before b using (id) join purchase_order o on o.id = n.purchase_id where o.kind = 'drop_ship' and n.received <> b.received) then return null; end if;
  with left_them as (
    select n.id as line, n.item, o.id as purchase, o.number, (select max(id) from shipment s where s.purchase_id = o.id) as shipment,
      round((n.received - b.received) * n.cost, digits) as value
    from changed n join before b using (id) join purchase_order o on o.id = n.purchase_id where o.kind = 'drop_ship' and n.received <> b.received),
  owed as (update purchase_line l set accrued = l.accrued + k.value from left_them k where l.id = k.line),
  entries as (
    insert into ledger_entry (day, kind, reference)
    select ledger_day(s.shipped_day), 'drop_ship', k.number from left_them k join shipment s on s.id = k.shipment where k.value <> 0
    group by 1, k.number returning id, reference)
  insert into ledger_line (entry_id, account, amount, item, shipment_id, purchase_id)
    select e.id, account_of('shipped_not_billed'), sum(k.value), k.item, k.shipment, null from left_them k join entries e on e.reference = k.number
      group by e.id, k.item, k.shipment having sum(k.value) <> 0
    union all
    select e.id, account_of('received_not_invoiced'), -sum(k.value), k.item, null, k.purchase from left_them k join entries e on e.reference = k.number
      group by e.id, k.item, k.purchase having sum(k.value) <> 0;
  return null;
end $$;
create trigger post_drop_shipped after update on purchase_line referencing new table as changed old table as before
  for each statement execute function post_drop_shipped();
`;

const INVOICES = `
/*
 * Posts an invoice or a credit note once its lines, taxes and shipments stand: what is owed, what was sold, the tax of each rate, and what the goods of
 * its shipments cost. An invoice that was not made here is what stood open before.
 */
create function post_invoice() returns trigger language plpgsql security definer set search_path = public as $$
declare
  sign integer := case new.kind when 'invoice' then 1 else -1 end;
  entry bigint;
begin
  if new.issued_at is null then
    if new.amount = new.paid then return null; end if;
    insert into ledger_entry (day, kind, reference, invoice_id) values (ledger_day(new.day), 'opening', new.number, new.id) returning id into entry;
    insert into ledger_line (entry_id, account, amount)
      values (entry, account_of('receivables'), new.amount - new.paid), (entry, account_of('opening'), new.paid - new.amount);
    return null;
  end if;
  insert into ledger_entry (day, kind, reference, invoice_id) values (ledger_day(new.day), new.kind, new.number, new.id) returning id into entry;
  insert into ledger_line (entry_id, account, amount, shipment_id, category, percent)
    select * from (
      select entry, account_of('receivables'), sign * new.amount, null::integer, null::text, null::numeric
      union all
      select entry, account_of(case kind when 'goods' then 'sales' when 'freight' then 'freight' else 'fees' end), -sign * sum(amount), null, null, null
        from invoice_line where invoice_id = new.id group by kind
      union all
      select entry, account_of('output_tax'), -sign * tax, null, category, percent from invoice_tax where invoice_id = new.id
      union all
      select entry, account_of(k.role), k.side * c.cost, c.id, null, null
        from (select s.id, sum(l.amount) as cost from shipment s join ledger_line l on l.shipment_id = s.id and l.account = account_of('shipped_not_billed')
          where s.invoice_id = new.id group by s.id) c
          cross join (values ('cost_of_goods', 1), ('shipped_not_billed', -1)) k(role, side)
    ) k(e, account, amount, shipment, category, percent) where amount <> 0;
  return null;
end $$;
create constraint trigger post_invoice after insert on invoice deferrable initially deferred for each row execute function post_invoice();

/*
 * A discount for early payment makes the tax less, too: what of it falls to each rate, by what the rate has of the invoice. Rounded so that the parts are
 * the whole.
 */
create function discount_tax(invoice_of integer, discount numeric) returns table (category text, percent numeric, tax numeric) language sql stable as $$
  with rates as (
    select t.category, t.percent, t.base + t.tax as gross, i.amount as total,
      sum(t.base + t.tax) over (order by t.category, t.percent, t.reason) as so_far
    from invoice_tax t join invoice i on i.id = t.invoice_id where t.invoice_id = invoice_of),
  shares as (
    select category, percent, round(discount * so_far / total, money_digits()) - round(discount * (so_far - gross) / total, money_digits()) as share from rates)
  select category, percent, round(sum(share) * percent / (100 + percent), money_digits()) from shares group by category, percent having sum(share) <> 0
$$;
`;

const PAYMENTS = `
create function post_payment() returns trigger language plpgsql security definer set search_path = public as $$
declare
  entry bigint;
  place text := account_of(case new.method when 'cash' then 'cash' when 'card' then 'card' else 'bank' end);
begin
  if tg_op = 'INSERT' then
    insert into ledger_entry (day, kind, reference, payment_id) values (ledger_day(new.day), 'payment', new.reference, new.id) returning id into entry;
    insert into ledger_line (entry_id, account, amount) values (entry, place, new.amount), (entry, account_of('on_account'), -new.amount);
  elsif old.reversed_at is null and new.reversed_at is not null then
    insert into ledger_entry (day, kind, reference, payment_id)
      values (ledger_day(new.reversed_at::date), 'payment_reversed', new.reference, new.id) returning id into entry;
    insert into ledger_line (entry_id, account, amount) values (entry, place, -new.amount), (entry, account_of('on_account'), new.amount);
  end if;
  return null;
end $$;
create trigger post_payment after insert or update on payment for each row execute function post_payment();

/* What goes to invoices: off what is on account, off the discount and its tax, or off what is given up. A credit note moves nothing: it is a receivable, too. */
create function post_settlements() returns trigger language plpgsql security definer set search_path = public as $$
begin
  with each as (select * from added where kind <> 'credit'),
  entries as (
    insert into ledger_entry (day, kind, reference, invoice_id, payment_id)
    select ledger_day(min(a.made_at)::date), 'settlement', i.number, i.id, a.payment_id from each a join invoice i on i.id = a.invoice_id group by i.number, i.id, a.payment_id
    returning id, invoice_id, payment_id),
  sides as (
    select e.id, a.kind, sum(a.amount) as amount, a.invoice_id from each a
      join entries e on e.invoice_id = a.invoice_id and e.payment_id is not distinct from a.payment_id group by e.id, a.kind, a.invoice_id),
  taxes as (select s.id, t.category, t.percent, t.tax from sides s cross join lateral discount_tax(s.invoice_id, s.amount) t where s.kind = 'discount')
  insert into ledger_line (entry_id, account, amount, category, percent)
    select * from (
      select id, account_of('receivables'), -sum(amount), null::text, null::numeric from sides group by id
      union all
      select s.id, account_of(case s.kind when 'payment' then 'on_account' when 'discount' then 'discounts' else 'written_off' end),
        s.amount - case s.kind when 'discount' then coalesce((select sum(tax) from taxes t where t.id = s.id), 0) else 0 end, null, null from sides s
      union all
      select id, account_of('output_tax'), tax, category, percent from taxes
    ) k(e, account, amount, category, percent) where amount <> 0;
  return null;
end $$;
create trigger post_settlements after insert on settlement referencing new table as added for each statement execute function post_settlements();
`;

/** What stood before there was a ledger: at the cost that items have now. */
const OPENING = `
insert into stock_value (item, warehouse, lot, quantity, value)
  select p.item, p.warehouse, case when i.tracks_lots then p.lot else '' end, sum(p.quantity), round(sum(p.quantity) * i.cost, money_digits())
  from stock_place p join item i on i.code = p.item group by 1, 2, 3, i.cost having sum(p.quantity) > 0;
insert into movement_value (movement_id, lot, quantity, value)
  select m.id, case when i.tracks_lots then s.lot else '' end, sum(k.quantity), sum(round(k.quantity * i.cost, money_digits()))
  from stock_movement m join item i on i.code = m.item join stock_movement_place k on k.movement_id = m.id join stock_place s on s.id = k.place_id
  where (m.kind = 'shipment' and exists (select from shipment t where t.number = m.reference and t.state = 'shipped' and t.invoice_id is null))
    or (m.kind = 'transfer' and exists (select from transfer_order t join transfer_line l on l.transfer_id = t.id
      where t.number || '/' || l.line_no = m.reference and l.shipped > l.received + l.lost))
  group by m.id, 2;
update purchase_line set invoiced = received + damaged;
with found as (
  select 'Stock on hand' as reference, 'stock' as role, value as amount, item, warehouse, null::integer as shipment, null::text as category, null::numeric as percent
    from stock_value where value <> 0
  union all
  select t.number || '/' || l.line_no, 'in_transit', round((l.shipped - l.received - l.lost) * i.cost, money_digits()), l.item, null, null, null, null
    from transfer_line l join transfer_order t on t.id = l.transfer_id join item i on i.code = l.item where l.shipped > l.received + l.lost
  union all
  select s.number, 'shipped_not_billed', sum(round(x.quantity * i.cost, money_digits())), l.item, null, s.id, null, null
    from shipment s join shipment_line x on x.shipment_id = s.id join order_line l on l.id = x.order_line_id join item i on i.code = l.item
    where s.state = 'shipped' and s.invoice_id is null group by s.number, l.item, s.id
  union all
  select number, 'receivables', case kind when 'invoice' then amount - paid else paid - amount end, null, null, null, null, null from invoice
  union all
  select 'Payment ' || id, 'on_account', applied - amount, null, null, null, null, null from payment where reversed_at is null
  union all
  select 'Output tax', 'output_tax', -sum(k.tax), null, null, null, k.category, k.percent from (
      select t.category, t.percent, case i.kind when 'invoice' then t.tax else -t.tax end as tax from invoice_tax t join invoice i on i.id = t.invoice_id
      union all
      select t.category, t.percent, -t.tax from (select invoice_id, sum(amount) as amount from settlement where kind = 'discount' group by 1) d
        cross join lateral discount_tax(d.invoice_id, d.amount) t) k
    group by k.category, k.percent having sum(k.tax) <> 0),
entries as (
  insert into ledger_entry (day, kind, reference) select current_date, 'opening', reference from found where amount <> 0 group by reference returning id, reference)
insert into ledger_line (entry_id, account, amount, item, warehouse, shipment_id, category, percent)
  select e.id, account_of(f.role), f.amount, f.item, f.warehouse, f.shipment, f.category, f.percent from found f join entries e using (reference) where f.amount <> 0
  union all
  select e.id, account_of('opening'), -sum(f.amount), null, null, null, null, null from found f join entries e using (reference) group by e.id having sum(f.amount) <> 0;
`;
