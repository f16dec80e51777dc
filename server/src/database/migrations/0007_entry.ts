import { sql, type Kysely } from 'kysely';

/** What an order is entered with: notes that show again when the customer calls, files, and an address of its own for a line. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(ENTRY).execute(db);
}

const ENTRY = `
create table customer_note (
  id integer generated always as identity primary key,
  customer_id integer not null references customer,
  text text not null check (text <> ''),
  made_at timestamptz not null,
  made_by integer not null references app_user,
  closed_at timestamptz,
  closed_by integer references app_user,
  constraint closed_by_someone check ((closed_at is null) = (closed_by is null))
);
create index customer_note_open on customer_note (customer_id, id) where closed_at is null;
create table order_file (
  id integer generated always as identity primary key,
  order_id integer not null references sales_order,
  name text not null check (name <> ''),
  /* By its content, not by its name. */
  media text not null,
  size integer not null check (size between 1 and 5242880),
  sha256 text not null,
  content bytea not null,
  added_at timestamptz not null,
  added_by integer not null references app_user,
  unique (order_id, sha256)
);
/* Where a line goes, where that is another address than the order's. */
alter table order_line add column ship_to_id integer references ship_to;
create index customer_email on customer (lower(email));
create index customer_postcode on customer (replace(lower(postcode), ' ', ''));
create index customer_name_like on customer using gin (lower(name) gin_trgm_ops);
`;
