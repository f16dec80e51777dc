import type { ItemCode } from '@nockwright/core/ids';
import { eventWords } from '@nockwright/contract/history';
import type { Happened } from '@nockwright/contract/shape';
import type { Db, SubjectKind } from '../database';

const MOST = 200;

/** What happened to a subject, newest first. */
export async function readHistory(db: Db, kind: SubjectKind, key: string | number): Promise<Happened[]> {
  const rows = await db
    .selectFrom('event_subject')
    .innerJoin('event', 'event.id', 'event_subject.event_id')
    .leftJoin('app_user', 'app_user.id', 'event.user_id')
    .select([
      'event.id',
      'event.at',
      'app_user.name as who',
      'event.kind',
      'event.facts',
      'event.what',
      'event.why',
      'event.cause',
      'event.before',
      'event.after',
    ])
    .where('event_subject.kind', '=', kind)
    .where('event_subject.key', '=', String(key))
    .orderBy('event.id', 'desc')
    .limit(MOST)
    .execute();
  return rows.map((row) => ({ ...row, at: row.at.toISOString(), who: row.who ?? 'Nockwright' }));
}

/** The last thing that happened to an item since a moment, but what was done to one order itself; null where nothing did. */
export async function lastOnItem(db: Db, item: ItemCode, since: Date, butOrder: number): Promise<{ readonly what: string; readonly who: string } | null> {
  const row = await db
    .selectFrom('event_subject')
    .innerJoin('event', 'event.id', 'event_subject.event_id')
    .leftJoin('app_user', 'app_user.id', 'event.user_id')
    .select(['event.at', 'event.kind', 'event.facts', 'event.what', 'app_user.name as who'])
    .where('event_subject.kind', '=', 'item')
    .where('event_subject.key', '=', item)
    .where('event.at', '>=', since)
    .where(({ not, exists, selectFrom }) =>
      not(
        exists(
          selectFrom('event_subject as own')
            .select('own.event_id')
            .whereRef('own.event_id', '=', 'event.id')
            .where('own.kind', '=', 'order')
            .where('own.key', '=', String(butOrder)),
        ),
      ),
    )
    .orderBy('event.id', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ? { what: wordsThen({ ...row, at: row.at.toISOString() }), who: row.who ?? 'Nockwright' } : null;
}

/** An event in words, with its days as they were written when it happened. */
export function wordsThen(row: Pick<Happened, 'at' | 'kind' | 'facts' | 'what'>): string {
  return eventWords(row, row.at.slice(0, 10));
}
