import { sql, type Kysely } from 'kysely';

/** Suppliers' invoices: what each line is for, whether it was accepted, and what of it is paid. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(INVOICES).execute(db);
  await sql.raw(POSTING).execute(db);
}

const INVOICES = `
create table supplier_invoice (
  id integer generated always as identity primary key,
  supplier text not null references supplier,
  number text not null,
  day date not null,
  due_day date not null,
  net numeric(15, 4) not null,
  freight numeric(15, 4) not null default 0 check (freight >= 0),
  tax numeric(15, 4) not null default 0 check (tax >= 0),
  total numeric(15, 4) not null check (total >= 0),
  state text not null default 'held' check (state in ('held', 'accepted', 'refused', 'paid')),
  /* What it was read from; empty: it was typed. */
  file text not null default '',
  reason text not null default '',
  made_at timestamptz not null,
  made_by integer not null references app_user,
  decided_at timestamptz,
  decided_by integer references app_user,
  paid_day date,
  version integer not null default 1,
  constraint paid_on_a_day check ((state = 'paid') = (paid_day is not null))
);
create unique index supplier_invoice_number on supplier_invoice (supplier, lower(number)) where state <> 'refused';
create index supplier_invoice_state on supplier_invoice (state, id desc);
create table supplier_invoice_line (
  id integer generated always as identity primary key,
  invoice_id integer not null references supplier_invoice,
  line_no integer not null,
  purchase_line_id integer not null references purchase_line,
  quantity numeric(15, 4) not null check (quantity > 0),
  price numeric(15, 4) not null check (price >= 0),
  amount numeric(15, 4) not null,
  unique (invoice_id, line_no)
);
create index supplier_invoice_line_purchase on supplier_invoice_line (purchase_line_id);
alter table purchase_line add constraint invoiced_at_most check (invoiced <= received + damaged);
alter table event_subject drop constraint event_subject_kind_check;
alter table event_subject add constraint event_subject_kind_check check
  (kind in ('order', 'item', 'purchase', 'shipment', 'customer', 'run', 'contract', 'price_list', 'mail', 'transfer', 'assembly', 'supplier', 'user', 'firm', 'invoice', 'supplier_invoice'));
alter table ledger_entry drop constraint ledger_entry_kind_check;
alter table ledger_entry add constraint ledger_entry_kind_check check
  (kind in ('opening', 'receipt', 'shipment', 'transfer', 'assembly', 'count', 'adjustment', 'drop_ship', 'transfer_lost', 'invoice',
    'credit_note', 'payment', 'payment_reversed', 'settlement', 'supplier_invoice', 'supplier_paid', 'refund'));
alter table ledger_entry add column supplier_invoice_id integer references supplier_invoice;
`;

const POSTING = `
/*
 * An invoice that is accepted takes the place of what was owed for its goods. Where it is dearer or cheaper, the goods that are still on hand cost so much
 * more or less, and what of them has gone is a difference.
 */
create function post_supplier_invoice() returns trigger language plpgsql security definer set search_path = public as $$
declare
  digits integer := money_digits();
  entry bigint;
  line record;
  cleared numeric;
  more numeric;
  to_stock numeric;
  pool record;
  parts jsonb := '[]';
begin
  if new.state = 'paid' and old.state = 'accepted' then
    if new.total = 0 then return null; end if;
    insert into ledger_entry (day, kind, reference, supplier_invoice_id) values (ledger_day(new.paid_day), 'supplier_paid', new.number, new.id) returning id into entry;
    insert into ledger_line (entry_id, account, amount) values (entry, account_of('payables'), new.total), (entry, account_of('bank'), -new.total);
    return null;
  end if;
  if new.state <> 'accepted' or old.state <> 'held' then return null; end if;
  insert into ledger_entry (day, kind, reference, supplier_invoice_id)
    values (ledger_day(new.decided_at::date), 'supplier_invoice', new.number, new.id) returning id into entry;
  for line in
    select k.quantity, k.amount, l.id, l.item, l.warehouse, l.purchase_id, l.accrued, l.received + l.damaged - l.invoiced as left_over
    from supplier_invoice_line k join purchase_line l on l.id = k.purchase_line_id where k.invoice_id = new.id order by k.line_no
  loop
    cleared := case when line.quantity >= line.left_over then line.accrued else round(line.accrued * line.quantity / line.left_over, digits) end;
    more := line.amount - cleared;
    to_stock := 0;
    if more <> 0 and line.warehouse is not null then
      select lot, quantity, value into pool from stock_value where item = line.item and warehouse = line.warehouse and quantity > 0
        order by quantity desc, lot limit 1 for update;
      if found then
        to_stock := round(more * least(pool.quantity, line.quantity) / line.quantity, digits);
        if pool.value + to_stock < 0 then to_stock := -pool.value; end if;
        update stock_value set value = value + to_stock where item = line.item and warehouse = line.warehouse and lot = pool.lot;
      end if;
    end if;
    update purchase_line set invoiced = invoiced + line.quantity, accrued = accrued - cleared where id = line.id;
    parts := parts || jsonb_build_array(
      jsonb_build_object('role', 'received_not_invoiced', 'amount', cleared, 'item', line.item, 'purchase_id', line.purchase_id),
      jsonb_build_object('role', 'stock', 'amount', to_stock, 'item', line.item, 'warehouse', line.warehouse),
      jsonb_build_object('role', 'price_differences', 'amount', more - to_stock, 'item', line.item));
  end loop;
  parts := parts || jsonb_build_array(jsonb_build_object('role', 'inbound_freight', 'amount', new.freight), jsonb_build_object('role', 'input_tax', 'amount', new.tax),
    jsonb_build_object('role', 'payables', 'amount', -new.total));
  insert into ledger_line (entry_id, account, amount, item, warehouse, purchase_id)
    select entry, account_of(k.role), sum(k.amount), k.item, k.warehouse, k.purchase_id
    from jsonb_to_recordset(parts) k(role text, amount numeric, item text, warehouse text, purchase_id integer)
    group by k.role, k.item, k.warehouse, k.purchase_id having sum(k.amount) <> 0;
  return null;
end $$;
create trigger post_supplier_invoice after update on supplier_invoice for each row execute function post_supplier_invoice();
`;
