import { sql, type Kysely } from 'kysely';

/**
 * What goes to and comes from suppliers: papers and mails of purchase orders, and messages through the exchange folder, each
 * with its text as it went or came; and what they say has left them.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(PAPERS).execute(db);
  await sql.raw(MESSAGES).execute(db);
}

const PAPERS = `
alter table document
  alter column order_id drop not null,
  add column purchase_id integer references purchase_order,
  drop constraint document_kind_check,
  add constraint document_kind_check check (kind in ('acknowledgement', 'quote', 'pro_forma', 'purchase')),
  add constraint document_about_one check (num_nonnulls(order_id, purchase_id) = 1 and (kind = 'purchase') = (purchase_id is not null));
create index document_purchase on document (purchase_id, id desc) where purchase_id is not null;
alter table mail
  alter column order_id drop not null,
  add column purchase_id integer references purchase_order,
  add constraint mail_about_one check (num_nonnulls(order_id, purchase_id) = 1);
create index mail_purchase on mail (purchase_id, id desc) where purchase_id is not null;
`;

const MESSAGES = `
/* They take orders as UBL files, and answer with them. */
alter table supplier add column exchanges boolean not null default false, add column version integer not null default 1;
create table exchange_message (
  id integer generated always as identity primary key,
  supplier text not null references supplier,
  direction text not null check (direction in ('out', 'in')),
  kind text not null check (kind in ('order', 'cancellation', 'order_response', 'despatch_advice', 'unreadable')),
  /* Null where a file names none of ours. */
  purchase_id integer references purchase_order,
  /* As whoever wrote it numbered it. */
  number text not null,
  file text not null,
  content text not null,
  at timestamptz not null,
  /* Out: waits to be written, written. In: acted on, refused. */
  state text not null check (state in ('waiting', 'written', 'taken', 'refused')),
  /* What came of it, sentence by sentence; why it was refused. */
  says text[] not null default '{}',
  /* Order lines whose promises it left at risk. */
  hurts integer[] not null default '{}',
  /* Somebody has to look at it: it was not as ordered, or refused. */
  needs_look boolean not null default false,
  constraint direction_of_state check ((direction = 'out') = (state in ('waiting', 'written')))
);
create unique index exchange_message_once on exchange_message (supplier, kind, number) where direction = 'in' and state = 'taken';
create index exchange_message_waiting on exchange_message (id) where state = 'waiting';
create index exchange_message_look on exchange_message (id) where needs_look;
create index exchange_message_purchase on exchange_message (purchase_id, id desc) where purchase_id is not null;
create table despatch_notice (
  id integer generated always as identity primary key,
  purchase_id integer not null references purchase_order,
  number text not null,
  day date not null,
  tracking text not null default '',
  /* Its goods have been taken in, or were confirmed. */
  done boolean not null default false,
  unique (purchase_id, number)
);
create table despatch_notice_line (
  notice_id integer not null references despatch_notice,
  position integer not null,
  purchase_line_id integer not null references purchase_line,
  quantity numeric(15, 4) not null check (quantity > 0),
  lot text not null default '',
  expires date,
  primary key (notice_id, position)
);
`;
