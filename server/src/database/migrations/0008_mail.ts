import PgBoss from 'pg-boss';
import { sql, type Kysely } from 'kysely';
import { QUEUES, QUEUE_SCHEMA } from '../queues';

/**
 * Mail: what is to be sent, to whom, with what attached, and what became of it; the outbox the stand-in post office keeps;
 * and the queue the work waits in. The queue's tables are made here, by the owner: the application may only use them.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(MAIL).execute(db);
  // Its plan brings a transaction of its own; this one is the migration's.
  await sql.raw(PgBoss.getConstructionPlans(QUEUE_SCHEMA).replace(/^\s*BEGIN;|COMMIT;\s*$/g, '')).execute(db);
  for (const { name, ...options } of QUEUES.filter((queue) => queue.name === 'mail'))
    await sql`select ${sql.id(QUEUE_SCHEMA)}.create_queue(${name}, ${JSON.stringify(options)}::json)`.execute(db);
}

const MAIL = `
create table mail (
  id integer generated always as identity primary key,
  order_id integer not null references sales_order,
  document_id integer not null references document,
  recipients text[] not null check (cardinality(recipients) > 0),
  subject text not null,
  body text not null,
  state text not null default 'waiting' check (state in ('waiting', 'sent', 'failed')),
  attempts integer not null default 0 check (attempts >= 0),
  /* Why the last attempt failed. */
  fault text not null default '',
  made_at timestamptz not null,
  made_by integer not null references app_user,
  sent_at timestamptz,
  constraint sent_at_some_time check ((state = 'sent') = (sent_at is not null))
);
create index mail_order on mail (order_id, id desc);
create index mail_state on mail (state, id desc);
create table mail_file (
  mail_id integer not null references mail on delete cascade,
  file_id integer not null references order_file,
  primary key (mail_id, file_id)
);
/* What the stand-in post office took in, as it would have gone over the wire. */
create table outbox_message (
  id integer generated always as identity primary key,
  mail_id integer not null references mail,
  at timestamptz not null,
  sender text not null,
  recipients text[] not null,
  message bytea not null
);
create index outbox_message_mail on outbox_message (mail_id);
alter table event_subject drop constraint event_subject_kind_check;
alter table event_subject add constraint event_subject_kind_check check (kind in ('order', 'item', 'purchase', 'shipment', 'customer', 'run', 'contract', 'price_list', 'mail'));
`;
