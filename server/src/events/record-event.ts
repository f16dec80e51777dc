import { sql } from 'kysely';
import type { Db, SubjectKind } from '../database';
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
export async function recordEvent(context: CommandContext, happening: Happening): Promise<void> {
  await recordEvents(context, [happening]);
}

/** The same for many at once. */
export async function recordEvents({ trx, user, now }: CommandContext, happenings: readonly Happening[]): Promise<void> {
  if (happenings.length === 0) return;
  const events = await trx
    .insertInto('event')
    .values(
      happenings.map(({ what, why = '', before = null, after = null }) => ({
        at: now.instant,
        user_id: user.id || null,
        what,
        why,
        before: JSON.stringify(before),
        after: JSON.stringify(after),
      })),
    )
    .returning('id')
    .execute();
  const rows = happenings.flatMap(({ subjects }, at) => {
    const own = new Map(subjects.map(({ kind, key }) => [`${kind}:${key}`, { event_id: events[at]!.id, kind, key: String(key) }]));
    return [...own.values()];
  });
  if (rows.length > 0) await trx.insertInto('event_subject').values(rows).execute();
  const topics = [...new Set(rows.map(({ kind, key }) => `${kind}:${key}`))];
  for (let at = 0; at < topics.length; at += MOST_TOPICS) await notify(trx, topics.slice(at, at + MOST_TOPICS));
}

/** Tells every server process, and they their browsers, that something is to be looked at anew: at once, or with the transaction it is part of. */
export async function notify(db: Db, topics: readonly string[]): Promise<void> {
  await sql`select pg_notify(${LIVE_CHANNEL}, ${JSON.stringify(topics)})`.execute(db);
}
