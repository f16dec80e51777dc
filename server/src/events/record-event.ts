import type { Cause, EventFacts } from '@nockwright/contract/history';
import { sql } from 'kysely';
import type { Db, SubjectKind } from '../database';
import type { CommandContext } from '../http/context';

export type Happening = EventFacts & {
  /** The reason that whoever did it gave. */
  readonly why?: string;
  /** What brought it about, where it was not done for itself. */
  readonly cause?: Cause;
  readonly before?: unknown;
  readonly after?: unknown;
  /** Whose history it belongs to. */
  readonly subjects: readonly { readonly kind: SubjectKind; readonly key: string | number }[];
};

export const LIVE_CHANNEL = 'nockwright_live';
/** PostgreSQL refuses a payload of 8,000 bytes. */
const MOST_TOPICS = 120;

/** Appends to the history and, when the transaction commits, tells every server process whose views have changed. */
export async function recordEvent(context: CommandContext, happening: Happening): Promise<void> {
  await recordEvents(context, [happening]);
}

/** The same for many at once, in the sequence they are given. */
export async function recordEvents({ trx, user, now }: CommandContext, happenings: readonly Happening[]): Promise<void> {
  if (happenings.length === 0) return;
  const events = happenings.map(({ kind: name, facts, why = '', cause = null, before = null, after = null, subjects }) => {
    const own = new Map(subjects.map(({ kind, key }) => [`${kind}:${key}`, { kind, key: String(key) }]));
    return { kind: name, facts, why, cause, before, after, subjects: [...own.values()] };
  });
  const topics = [...new Set(events.flatMap(({ subjects }) => subjects.map(({ kind, key }) => `${kind}:${key}`)))];
  const payloads = Array.from({ length: Math.ceil(topics.length / MOST_TOPICS) }, (_, at) =>
    JSON.stringify(topics.slice(at * MOST_TOPICS, (at + 1) * MOST_TOPICS)),
  );
  // Ids rise in the sequence in which rows are inserted.
  await sql`
    with given as (select e, n from jsonb_array_elements(${JSON.stringify(events)}::jsonb) with ordinality as g(e, n)),
    made as (
      insert into event (at, user_id, kind, facts, why, cause, before, after)
      select ${now.instant}::timestamptz, ${user.id || null}::int, e->>'kind', e->'facts', e->>'why', nullif(e->'cause', 'null'), e->'before', e->'after' from given order by n
      returning id
    ),
    numbered as (select id, row_number() over (order by id) as n from made),
    told as (
      insert into event_subject (event_id, kind, key)
      select m.id, s->>'kind', s->>'key' from numbered m join given g on g.n = m.n, jsonb_array_elements(g.e->'subjects') s
    )
    select pg_notify(${LIVE_CHANNEL}, payload) from unnest(${payloads}::text[]) payload`.execute(trx);
}

/** Tells every server process, and they their browsers, that something is to be looked at anew: at once, or with the transaction it is part of. */
export async function notify(db: Db, topics: readonly string[]): Promise<void> {
  await sql`select pg_notify(${LIVE_CHANNEL}, ${JSON.stringify(topics)})`.execute(db);
}
