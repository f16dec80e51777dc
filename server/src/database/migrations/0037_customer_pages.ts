import { sql, type Kysely } from 'kysely';

/** What items are also called, which numbers customers have for them, and with whom there one speaks. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [ALSO, NUMBERS, CONTACTS]) await sql.raw(statement).execute(db);
}

const ALSO = `
alter table customer add column version integer not null default 1;
alter table item add column also text not null default '' check (length(also) <= 300);
alter table item drop column search;
alter table item add column search text generated always as
  (lower(code || ' ' || replace(code, '-', '') || ' ' || description || ' ' || item_group || ' ' || also)) stored;
create index item_search on item using gin (search gin_trgm_ops);
create or replace function item_words() returns trigger language plpgsql as $$
begin
  perform words_of('item', new.description || ' ' || new.item_group || ' ' || new.also);
  return null;
end $$;
drop trigger item_words on item;
create trigger item_words after insert or update of description, item_group, also on item for each row execute function item_words();
`;

const NUMBERS = `
create table customer_item (
  customer_id integer not null references customer,
  item text not null references item,
  code text not null check (code = btrim(code) and length(code) between 1 and 40),
  primary key (customer_id, item)
);
create unique index customer_item_code on customer_item (customer_id, lower(code));
create index customer_item_item on customer_item (item);
`;

const CONTACTS = `
create table customer_contact (
  id integer generated always as identity primary key,
  customer_id integer not null references customer,
  name text not null check (length(name) between 1 and 60),
  role text not null default '' check (length(role) <= 60),
  phone text not null default '' check (length(phone) <= 40),
  email text not null default '' check (length(email) <= 200),
  search text generated always as (lower(name || ' ' || phone || ' ' || replace(phone, ' ', '') || ' ' || email)) stored
);
create index customer_contact_customer on customer_contact (customer_id);
create index customer_contact_search on customer_contact using gin (search gin_trgm_ops);
`;
