import type { Db, SubjectKind } from '../database';
import { Refusal } from '../http/refusal';
import { readHistory, wordsThen } from './read-history';

const MOST_TOLD = 3;

/** What was changed, and which version of it the request was made for. */
export interface ChangedSubject {
  readonly kind: SubjectKind;
  readonly key: string | number;
  /** `Draft 112`. */
  readonly label: string;
  readonly given: number;
  readonly current: number;
}

/** Refuses a change of something that is no longer as it was read, and tells who has done what to it meanwhile. */
export async function changedSince(db: Db, { kind, key, label, given, current }: ChangedSubject): Promise<Refusal> {
  const history = await readHistory(db, kind, key);
  const happened = history.slice(0, Math.min(MOST_TOLD, Math.max(1, current - given))).map((row) => `${row.who} ${wordsThen(row)}`);
  const told = happened.length > 0 ? `: ${happened.reverse().join('; ')}` : '';
  return new Refusal('changed', `${label} was changed by someone else while you worked on it${told}. Look at it again, then decide.`, [
    { field: 'body.version', message: `you have ${given}, it is now ${current}` },
  ]);
}
