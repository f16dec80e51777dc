import { sql, type Kysely } from 'kysely';

/** What banks say of the firm's accounts, payments that are given back or taken back by the bank, and payments that are for an order to come. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const part of [BANK, REFUNDS, DEPOSITS]) await sql.raw(part).execute(db);
}

const BANK = `
create table bank_file (
  id integer generated always as identity primary key,
  name text not null,
  sha256 text not null unique,
  account text not null,
  added_at timestamptz not null,
  added_by integer not null references app_user
);
create table bank_entry (
  id integer generated always as identity primary key,
  file_id integer not null references bank_file,
  account text not null,
  /* What the bank knows it by: the same movement in two files is one. */
  key text not null,
  day date not null,
  amount numeric(15, 4) not null check (amount > 0),
  direction text not null check (direction in ('in', 'out')),
  party text not null default '',
  party_account text not null default '',
  reference text not null default '',
  text text not null default '',
  state text not null default 'waiting' check (state in ('waiting', 'booked', 'set_aside')),
  payment_id integer references payment,
  why text not null default '',
  done_at timestamptz,
  done_by integer references app_user,
  unique (account, key),
  constraint booked_is_paid check ((state = 'booked') = (payment_id is not null))
);
create index bank_entry_waiting on bank_entry (day, id) where state = 'waiting';
create unique index bank_entry_payment on bank_entry (payment_id) where payment_id is not null;
/* Which customer paid from which account. */
create table customer_account (account text primary key, customer_id integer not null references customer);
`;

const REFUNDS = `
create table refund (
  id integer generated always as identity primary key,
  customer_id integer not null references customer,
  /* What it is given back of: a payment's rest on account, or a credit note that is not used up. */
  payment_id integer references payment,
  credit_note_id integer references invoice,
  day date not null,
  method text not null check (method in ('bank', 'card', 'cash', 'cheque')),
  amount numeric(15, 4) not null check (amount > 0),
  reason text not null,
  made_at timestamptz not null,
  made_by integer not null references app_user,
  constraint of_one check (num_nonnulls(payment_id, credit_note_id) = 1)
);
create index refund_customer on refund (customer_id, id desc);
create index refund_payment on refund (payment_id) where payment_id is not null;
create index refund_credit on refund (credit_note_id) where credit_note_id is not null;
create function post_refund() returns trigger language plpgsql security definer set search_path = public as $$
declare
  entry bigint;
begin
  update payment set applied = applied + new.amount where id = new.payment_id;
  update invoice set paid = paid + new.amount where id = new.credit_note_id;
  insert into ledger_entry (day, kind, reference, invoice_id, payment_id)
    values (ledger_day(new.day), 'refund', coalesce((select number from invoice where id = new.credit_note_id), 'Refund ' || new.id), new.credit_note_id, new.payment_id)
    returning id into entry;
  insert into ledger_line (entry_id, account, amount) values
    (entry, account_of(case when new.payment_id is null then 'receivables' else 'on_account' end), new.amount),
    (entry, account_of(case new.method when 'cash' then 'cash' when 'card' then 'card' else 'bank' end), -new.amount);
  return null;
end $$;
create trigger post_refund after insert on refund for each row execute function post_refund();

/* What the bank takes for a payment that did not come in. */
alter table payment add column bank_fee numeric(15, 4) not null default 0 check (bank_fee >= 0), add column chargeback boolean not null default false;
create or replace function post_payment() returns trigger language plpgsql security definer set search_path = public as $$
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
    insert into ledger_line (entry_id, account, amount)
      select * from (values (entry, place, -new.amount - new.bank_fee), (entry, account_of('on_account'), new.amount), (entry, account_of('bank_charges'), new.bank_fee))
        k(e, account, amount) where amount <> 0;
  end if;
  return null;
end $$;
`;

const DEPOSITS = `
/* An order it is for: what of it is on account goes to the invoices of that order. */
alter table payment add column order_id integer references sales_order;
create index payment_of_order on payment (order_id) where order_id is not null;
`;
