import { sql, type Kysely } from 'kysely';

/**
 * A question may be mailed more than once, each time with a link of its own; only hashes of them are kept, and none stands in
 * the text of a mail. The link is made when the mail goes out.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `
create table answer_link (
  hash text primary key,
  request_id integer not null references consent_request on delete cascade
);
create index answer_link_request on answer_link (request_id);
insert into answer_link (hash, request_id) select secret_hash, id from consent_request where secret_hash is not null;
alter table consent_request add column by_mail boolean not null default false;
update consent_request set by_mail = secret_hash is not null;
alter table consent_request drop column secret_hash;
alter table mail add column request_id integer references consent_request;
delete from outbox_message where mail_id in (select id from mail where body ~ '/answer/[0-9]+-');
update mail set body = regexp_replace(body, 'https?://[^[:space:]]+/answer/[^[:space:]]+', '[a link that only the customer sees]') where state <> 'waiting';
`,
    )
    .execute(db);
}
