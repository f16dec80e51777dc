import { sql, type Kysely } from 'kysely';

/**
 * Quotes: an order that is not ordered yet. It is written as a draft, goes out under a number of its own, may be revised,
 * and becomes orders, whole or in part, or is lost. Prospects may be quoted, and become customers when they order.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [QUOTES, LINES, PROSPECTS]) await sql.raw(statement).execute(db);
}

const QUOTES = `
alter table sales_order drop constraint sales_order_state_check;
alter table sales_order
  add column kind text not null default 'order' check (kind in ('order', 'quote')),
  /* Of a quote: the last day it binds us, how often it went out anew, and why it came to nothing. */
  add column valid_until date,
  add column revision integer not null default 1 check (revision > 0),
  add column lost_reason text check (lost_reason in ('price', 'too_late', 'other_supplier', 'not_what_was_asked', 'given_up', 'no_answer', 'other')),
  add column lost_note text not null default '',
  /* Of an order: the quote it came from. */
  add column quote_id integer references sales_order,
  add constraint sales_order_state_check check (state in ('draft', 'discarded') or (kind = 'order' and state = 'released') or (kind = 'quote' and state in ('quoted', 'accepted', 'lost'))),
  add constraint quote_is_dated check ((kind = 'quote') = (valid_until is not null)),
  add constraint quoted_has_number check (state not in ('quoted', 'accepted', 'lost') or number is not null),
  add constraint lost_for_a_reason check ((state = 'lost') = (lost_reason is not null));
create index sales_order_quote on sales_order (quote_id) where quote_id is not null;
create index sales_order_quotes on sales_order (id desc) where kind = 'quote' and state in ('draft', 'quoted');
/* What numbers of a series begin with; order/portal numbers the orders of a source, order those of the others. */
alter table number_series add column prefix text not null default '';
update number_series set prefix = case name when 'purchase' then 'P' when 'shipment' then 'D' when 'contract' then 'K' else '' end;
insert into number_series (name, next, prefix) values ('quote', 1001, 'Q') on conflict do nothing;
alter table document drop constraint document_kind_check;
alter table document add constraint document_kind_check check (kind in ('acknowledgement', 'quote', 'pro_forma'));
`;

const LINES = `
alter table order_line
  /* Offered beside the others and in no total; perhaps instead of one of them. */
  add column alternative boolean not null default false,
  add column alternative_to integer references order_line on delete set null,
  /* Of an order: the line of the quote it came from. */
  add column quote_line_id integer references order_line,
  add constraint alternative_of_a_line check (alternative or alternative_to is null);
create index order_line_quote_line on order_line (quote_line_id) where quote_line_id is not null;
create index order_line_alternative on order_line (alternative_to) where alternative_to is not null;
`;

const PROSPECTS = `
/* Quoted, but not sold to yet. */
alter table customer add column prospect boolean not null default false;
insert into number_series (name, next, prefix) values ('customer', 5001, 'C') on conflict do nothing;
`;
