import { sql } from 'kysely';
import type { Now } from '../clock';
import { connect, type Db } from '../database';
import type { Task } from '../work';
import type { QueryContext, Services } from './context';

/** So many open lines are read and promised in less than 20 ms: what is more is computed beside the thread that answers. */
export const MOST_LINES_HERE = 2_000;

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

/** Reads here where the desk is small, else beside the thread that answers: nobody waits for another's whole book. */
export async function readWholeBook<In, Out>(
  services: Pick<Services, 'work' | 'databaseUrl'>,
  { db, now, user }: Pick<QueryContext, 'db' | 'now' | 'user'>,
  { read, task }: BookReading<In, Out>,
  input: In,
): Promise<Out> {
  const { rows } = await sql`select from order_line where shipped + cancelled < stock_quantity offset ${MOST_LINES_HERE} limit 1`.execute(db);
  return rows.length === 0 ? read(db, now, input) : readBeside(services, { now, user }, task, input);
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
