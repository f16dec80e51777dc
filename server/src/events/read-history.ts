import type { Happened } from '@nockwright/contract/shape';
import type { Db, SubjectKind } from '../database';

const MOST = 200;

/** What happened to a subject, newest first. */
export async function readHistory(db: Db, kind: SubjectKind, key: string | number): Promise<Happened[]> {
  const rows = await db
    .selectFrom('event_subject')
    .innerJoin('event', 'event.id', 'event_subject.event_id')
    .leftJoin('app_user', 'app_user.id', 'event.user_id')
    .select(['event.id', 'event.at', 'app_user.name as who', 'event.what', 'event.why', 'event.before', 'event.after'])
    .where('event_subject.kind', '=', kind)
    .where('event_subject.key', '=', String(key))
    .orderBy('event.id', 'desc')
    .limit(MOST)
    .execute();
  return rows.map((row) => ({ ...row, at: row.at.toISOString(), who: row.who ?? 'Nockwright' }));
}
