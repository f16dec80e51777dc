import { sql } from 'kysely';
import type { SubjectKind } from '../database';
import type { CommandContext } from '../http/context';

export interface Happening {
  /** What was done, as it is read in a history: `released order 20417`. */
  readonly what: string;
  readonly why?: string;
  readonly before?: unknown;
  readonly after?: unknown;
  /** Whose history it belongs to. */
  readonly subjects: readonly { readonly kind: SubjectKind; readonly key: string | number }[];
}

export const LIVE_CHANNEL = 'nockwright_live';
/** PostgreSQL refuses a payload of 8,000 bytes. */
const MOST_TOPICS = 120;

/** Appends to the history and, when the transaction commits, tells every server process whose views have changed. */
export async function recordEvent({ trx, user, now }: CommandContext, happening: Happening): Promise<void> {
  const { what, why = '', before = null, after = null } = happening;
  const { id } = await trx
    .insertInto('event')
    .values({ at: now.instant, user_id: user.id || null, what, why, before: JSON.stringify(before), after: JSON.stringify(after) })
    .returning('id')
    .executeTakeFirstOrThrow();
  const subjects = [...new Map(happening.subjects.map(({ kind, key }) => [`${kind}:${key}`, { kind, key: String(key) }])).values()];
  if (subjects.length > 0)
    await trx
      .insertInto('event_subject')
      .values(subjects.map(({ kind, key }) => ({ event_id: id, kind, key })))
      .execute();
  const topics = subjects.map(({ kind, key }) => `${kind}:${key}`);
  for (let at = 0; at < topics.length; at += MOST_TOPICS) {
    await sql`select pg_notify(${LIVE_CHANNEL}, ${JSON.stringify(topics.slice(at, at + MOST_TOPICS))})`.execute(trx);
  }
}
