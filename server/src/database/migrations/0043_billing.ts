import { sql, type Kysely } from 'kysely';

/**
 * Invoices and credit notes with their lines and taxes, what is paid of them, and how a customer is billed. Once issued nothing of an invoice changes but
 * what is settled of it, and that only by settlements.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(BILLING).execute(db);
}

const BILLING = `
create table tax_class (
  code text primary key check (code ~ '^[a-z_]{1,20}$'),
  name text not null,
  percent numeric(5, 2) not null default 0 check (percent >= 0 and percent < 100)
);
insert into tax_class (code, name) values ('standard', 'Standard rate'), ('reduced', 'Reduced rate'), ('zero', 'Zero rate');
alter table item add column tax_class text not null default 'standard' references tax_class;
alter table customer
  add column billing_rule text not null default 'shipment' check (billing_rule in ('shipment', 'daily', 'weekly', 'monthly', 'value')),
  add column billing_value numeric(15, 4) check (billing_value > 0),
  add column terms_kind text not null default 'net' check (terms_kind in ('net', 'month_end')),
  add column discount_percent numeric(5, 2) not null default 0 check (discount_percent >= 0 and discount_percent < 100),
  add column discount_days integer not null default 0 check (discount_days between 0 and 180),
  add column tax_number text not null default '',
  add column tax_exemption text not null default '',
  add constraint value_of_rule check (billing_rule <> 'value' or billing_value is not null);

alter table invoice
  add column kind text not null default 'invoice' check (kind in ('invoice', 'credit_note')),
  add column net numeric(15, 4),
  add column tax numeric(15, 4) not null default 0,
  add column reference text not null default '',
  add column terms text not null default '',
  add column discount_percent numeric(5, 2) not null default 0,
  add column discount_until date,
  add column bill_to jsonb,
  add column credits_id integer references invoice,
  add column reason text not null default '',
  add column issued_at timestamptz,
  add column issued_by integer references app_user,
  add constraint paid_at_most check (paid <= amount),
  add constraint credits_an_invoice check ((kind = 'credit_note') = (credits_id is not null)),
  add constraint sums_up check (net is null or net + tax = amount);
create index invoice_of_customer on invoice (customer_id, day desc, id desc);
create index invoice_credits on invoice (credits_id) where credits_id is not null;

create table invoice_line (
  id integer generated always as identity primary key,
  invoice_id integer not null references invoice,
  line_no integer not null,
  kind text not null check (kind in ('goods', 'freight')),
  shipment_id integer references shipment,
  order_id integer references sales_order,
  order_line_id integer references order_line,
  item text references item,
  text text not null,
  quantity numeric(15, 4) not null check (quantity > 0),
  unit text not null,
  price numeric(24, 12) not null check (price >= 0),
  amount numeric(15, 4) not null check (amount >= 0),
  category text not null check (category in ('S', 'Z', 'E', 'G')),
  percent numeric(5, 2) not null,
  tax_reason text not null default '',
  /* The line of an invoice that a line of a credit note takes back. */
  credits_id integer references invoice_line,
  unique (invoice_id, line_no)
);
create index invoice_line_shipment on invoice_line (shipment_id) where shipment_id is not null;
create index invoice_line_credits on invoice_line (credits_id) where credits_id is not null;
create table invoice_tax (
  invoice_id integer not null references invoice,
  category text not null,
  percent numeric(5, 2) not null,
  reason text not null default '',
  base numeric(15, 4) not null,
  tax numeric(15, 4) not null,
  primary key (invoice_id, category, percent, reason)
);

/* Nothing is credited above what was billed, whoever writes it. */
create function credited_at_most() returns trigger language plpgsql as $$
begin
  if exists (
    select from invoice_line b join lateral (select sum(amount) as amount from invoice_line where credits_id = b.id) c on true
    where b.id in (select credits_id from added where credits_id is not null) and c.amount > b.amount)
  then raise exception 'more is credited than was billed' using errcode = 'check_violation', constraint = 'credited_at_most';
  end if;
  return null;
end $$;
create trigger credited_at_most after insert on invoice_line referencing new table as added
  for each statement execute function credited_at_most();

create table payment (
  id integer generated always as identity primary key,
  customer_id integer not null references customer,
  day date not null,
  method text not null check (method in ('bank', 'card', 'cash', 'cheque')),
  amount numeric(15, 4) not null check (amount > 0),
  /* What of it went to invoices; the rest is on account. */
  applied numeric(15, 4) not null default 0 check (applied >= 0),
  reference text not null default '',
  made_at timestamptz not null,
  made_by integer not null references app_user,
  reversed_at timestamptz,
  reversed_why text not null default '',
  constraint applied_at_most check (applied <= amount)
);
create index payment_of_customer on payment (customer_id, day desc, id desc);
create index payment_on_account on payment (customer_id) where applied < amount and reversed_at is null;
create table settlement (
  id integer generated always as identity primary key,
  invoice_id integer not null references invoice,
  kind text not null check (kind in ('payment', 'discount', 'credit', 'write_off')),
  payment_id integer references payment,
  credit_note_id integer references invoice,
  /* Below 0 where it is taken back. */
  amount numeric(15, 4) not null check (amount <> 0),
  reason text not null default '',
  made_at timestamptz not null,
  made_by integer not null references app_user,
  constraint from_somewhere check ((kind in ('payment', 'discount')) = (payment_id is not null) and (kind = 'credit') = (credit_note_id is not null))
);
create index settlement_invoice on settlement (invoice_id);
create index settlement_payment on settlement (payment_id) where payment_id is not null;
create index settlement_credit on settlement (credit_note_id) where credit_note_id is not null;

/* What is settled of invoices, payments and credit notes is the sum of settlements; checks of those tables hold it in bounds. */
create function settle() returns trigger language plpgsql as $$
begin
  update invoice i set paid = i.paid + k.amount
    from (select invoice_id, sum(amount) as amount from added group by 1) k where i.id = k.invoice_id;
  update invoice i set paid = i.paid + k.amount
    from (select credit_note_id, sum(amount) as amount from added where credit_note_id is not null group by 1) k where i.id = k.credit_note_id;
  update payment p set applied = p.applied + k.amount
    from (select payment_id, sum(amount) as amount from added where kind = 'payment' group by 1) k where p.id = k.payment_id;
  return null;
end $$;
create trigger settle after insert on settlement referencing new table as added for each statement execute function settle();

insert into number_series (name, next, prefix)
  select name, next, prefix from (values ('invoice', 1, 'I'), ('credit_note', 1, 'CN')) k(name, next, prefix)
  where not exists (select from number_series s where s.name = k.name);
alter table event_subject drop constraint event_subject_kind_check;
alter table event_subject add constraint event_subject_kind_check check
  (kind in ('order', 'item', 'purchase', 'shipment', 'customer', 'run', 'contract', 'price_list', 'mail', 'transfer', 'assembly', 'supplier', 'user', 'firm', 'invoice'));
alter table mail add column invoice_id integer references invoice;
alter table document add column invoice_id integer references invoice,
  drop constraint document_kind_check, drop constraint document_about_one,
  add constraint document_kind_check check (kind in ('acknowledgement', 'quote', 'pro_forma', 'purchase', 'packing_list', 'invoice')),
  add constraint document_about_one check (num_nonnulls(order_id, purchase_id, consignment_id, invoice_id) = 1
    and (kind = 'purchase') = (purchase_id is not null) and (kind = 'packing_list') = (consignment_id is not null) and (kind = 'invoice') = (invoice_id is not null));
create unique index document_of_invoice on document (invoice_id) where invoice_id is not null;
`;
