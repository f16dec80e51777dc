import { sql, type Kysely } from 'kysely';

/**
 * Finding items and customers while somebody types: the words that names and descriptions are made of, so that one that
 * is misspelt can be taken for the one that was meant, and an index for codes by their beginning.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [WORDS, CODES]) await sql.raw(statement).execute(db);
}

const WORDS = `
create extension if not exists fuzzystrmatch;
create table search_word (
  kind text not null check (kind in ('item', 'customer')),
  word text not null,
  primary key (kind, word)
);
create function words_of(p_kind text, p_text text) returns void language sql as $$
  insert into search_word (kind, word)
  select distinct p_kind, word from regexp_split_to_table(lower(p_text), '[^[:alpha:]]+') word where length(word) >= 3
  on conflict do nothing;
$$;
create function item_words() returns trigger language plpgsql as $$
begin
  perform words_of('item', new.description || ' ' || new.item_group);
  return null;
end $$;
create trigger item_words after insert or update of description, item_group on item for each row execute function item_words();
create function customer_words() returns trigger language plpgsql as $$
begin
  perform words_of('customer', new.name || ' ' || new.contact || ' ' || new.town);
  return null;
end $$;
create trigger customer_words after insert or update of name, contact, town on customer for each row execute function customer_words();
select words_of('item', description || ' ' || item_group) from item;
select words_of('customer', name || ' ' || contact || ' ' || town) from customer;
`;

const CODES = `
create index item_code_start on item (lower(code) text_pattern_ops);
create index order_line_order on order_line (order_id);
`;
