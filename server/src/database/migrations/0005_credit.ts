import { sql, type Kysely } from 'kysely';

/** What customers owe: invoices with what is paid of them, which shipments they bill, and how much credit each has. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(CREDIT).execute(db);
}

const CREDIT = `
/* Null: no limit. */
alter table customer add column credit_limit numeric(15, 4) check (credit_limit >= 0);
create table invoice (
  id integer generated always as identity primary key,
  number text not null unique,
  customer_id integer not null references customer,
  day date not null,
  due_day date not null,
  currency text not null default 'EUR',
  amount numeric(15, 4) not null check (amount >= 0),
  paid numeric(15, 4) not null default 0 check (paid >= 0),
  constraint due_after_made check (due_day >= day)
);
create index invoice_unpaid on invoice (customer_id, due_day) where paid < amount;
alter table shipment add column invoice_id integer references invoice;
create index order_line_open on order_line (order_id) where shipped + cancelled < stock_quantity;
create index shipment_unbilled on shipment (order_id) where state = 'shipped' and invoice_id is null;
`;
