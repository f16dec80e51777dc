import { sql, type Kysely } from 'kysely';

/**
 * The firm that keeps the desk is a row: its papers, mails and files name it, and its amounts are in its currency. What a
 * column is given where nobody says a currency is the firm's.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
create table firm (
  one boolean primary key default true check (one),
  name text not null,
  code text not null,
  street text not null default '',
  postcode text not null default '',
  town text not null default '',
  country text not null default '',
  phone text not null default '',
  email text not null default '',
  tax_number text not null default '',
  footer text not null default '',
  currency text not null default 'EUR' check (currency ~ '^[A-Z]{3}$'),
  version integer not null default 1
);
insert into firm (name, code) values ('Our firm', 'FIRM');
create function firm_currency() returns text language sql stable as 'select currency from firm';
alter table sales_order alter column currency set default firm_currency();
alter table invoice alter column currency set default firm_currency();
alter table event_subject drop constraint event_subject_kind_check;
alter table event_subject add constraint event_subject_kind_check check
  (kind in ('order', 'item', 'purchase', 'shipment', 'customer', 'run', 'contract', 'price_list', 'mail', 'transfer', 'assembly', 'supplier', 'user', 'firm'));
`,
    )
    .execute(db);
}
