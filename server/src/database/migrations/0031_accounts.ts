import { sql, type Kysely } from 'kysely';

/** Users are kept by a manager: shut out, given another role or password; sessions are named, so that they can be ended one by one. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
alter table app_user
  add column disabled_at timestamptz,
  add column must_change_password boolean not null default false,
  add column totp_key text,
  add column totp_begun text,
  add column totp_last_step integer,
  add column version integer not null default 1,
  add constraint login_is_lower check (login = lower(login)) not valid;
alter table session
  add column id integer generated always as identity unique,
  add column opened_at timestamptz not null default now(),
  add column seen_at timestamptz not null default now(),
  add column device text not null default '';
create index session_of_user on session (user_id);
alter table event_subject drop constraint event_subject_kind_check;
alter table event_subject add constraint event_subject_kind_check check
  (kind in ('order', 'item', 'purchase', 'shipment', 'customer', 'run', 'contract', 'price_list', 'mail', 'transfer', 'assembly', 'supplier', 'user'));
`,
    )
    .execute(db);
}
