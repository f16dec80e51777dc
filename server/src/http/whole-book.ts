import type { Now } from '../clock';
import { connect, type Db } from '../database';
import type { Task } from '../work';
import type { QueryContext, Services } from './context';

/** Something that is read from the whole book, whatever the size of the desk. */
export interface BookReading<In, Out> {
  readonly read: (db: Db, now: Now, input: In) => Promise<Out>;
  readonly task: Task<{ readonly url: string; readonly now: Now; readonly input: In }, Out>;
}

/** `name`: of the task that a thread is asked for. */
export function bookReading<In, Out>(name: string, read: BookReading<In, Out>['read']): BookReading<In, Out> {
  const run: BookReading<In, Out>['task']['run'] = async ({ url, now, input }) => {
    const { db, pool } = connect(url, 1);
    try {
      return await db
        .transaction()
        .setIsolationLevel('repeatable read')
        .setAccessMode('read only')
        .execute((trx) => read(trx, now, input));
    } finally {
      await pool.end();
    }
  };
  return { read, task: { name, run } };
}

/** Reads beside the thread that answers. */
export function readBeside<In, Out>(
  { work, databaseUrl }: Pick<Services, 'work' | 'databaseUrl'>,
  { now, user }: Pick<QueryContext, 'now' | 'user'>,
  task: BookReading<In, Out>['task'],
  input: In,
): Promise<Out> {
  return work.run(task, { url: databaseUrl, now, input }, user.id);
}
