import { sql, type Kysely } from 'kysely';

/** Browsers that a user has logged in from: what others do wrong with the user's name does not slow them. Only a hash of what they hold is kept. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
create table known_device (
  token_hash text primary key,
  user_id integer not null references app_user on delete cascade,
  seen_at timestamptz not null
);
create index known_device_user on known_device (user_id);
`,
    )
    .execute(db);
}
