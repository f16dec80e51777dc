import { Kysely, PostgresAdapter, PostgresIntrospector, PostgresQueryCompiler, type CompiledQuery, type DatabaseConnection, type QueryResult } from 'kysely';
import type { Db } from './connect';
import { readTogether } from './read-together';
import type { Database } from './tables';

interface Waiting {
  readonly query: CompiledQuery;
  readonly resolve: (result: QueryResult<never>) => void;
  readonly reject: (error: unknown) => void;
}

/** Reads only, and no lock: what changes something, or waits for somebody, is a statement of its own. */
const READS = /^\s*(?:select|with)\b/i;
const LOCKS = /\bfor\s+(?:no\s+key\s+)?(?:update|share)\b/i;

/**
 * Reads with `work`, whose queries are sent in rounds: all that wait for an answer at the same time are one statement. So
 * what is read costs as many statements as answers are needed one after the other, however many queries there are.
 * `work` is given the database to read from, and awaits several loaders by `Promise.all`.
 */
export async function together<T>(db: Db, work: (db: Db) => Promise<T>): Promise<T> {
  const round = new Round(db);
  return work(round.db);
}

class Round {
  private waiting: Waiting[] = [];
  readonly db: Db;

  constructor(private readonly to: Db) {
    const connection: DatabaseConnection = {
      executeQuery: <R>(query: CompiledQuery) => this.take(query) as Promise<QueryResult<R>>,
      streamQuery: () => {
        throw new Error('what is read together is not streamed');
      },
    };
    const driver = {
      init: async () => undefined,
      acquireConnection: async () => connection,
      releaseConnection: async () => undefined,
      destroy: async () => undefined,
      beginTransaction: () => Promise.reject(new Error('what is read together has no transaction of its own')),
      commitTransaction: async () => undefined,
      rollbackTransaction: async () => undefined,
    };
    this.db = new Kysely<Database>({
      dialect: {
        createDriver: () => driver,
        createAdapter: () => new PostgresAdapter(),
        createQueryCompiler: () => new PostgresQueryCompiler(),
        createIntrospector: (db) => new PostgresIntrospector(db),
      },
    });
  }

  private take(query: CompiledQuery): Promise<QueryResult<never>> {
    if (!READS.test(query.sql) || LOCKS.test(query.sql)) throw new Error(`only reads are done together: ${query.sql.slice(0, 80)}`);
    return new Promise((resolve, reject) => {
      this.waiting.push({ query, resolve, reject });
      // Whoever else is about to ask has asked by then.
      if (this.waiting.length === 1) setImmediate(() => void this.send());
    });
  }

  private async send(): Promise<void> {
    const list = this.waiting;
    this.waiting = [];
    try {
      const found = await readTogether(this.to, Object.fromEntries(list.map(({ query }, at) => [`q${at}`, query])));
      for (const [at, { resolve }] of list.entries()) resolve({ rows: found[`q${at}`] as never[] });
    } catch (error) {
      for (const { reject } of list) reject(error);
    }
  }
}
