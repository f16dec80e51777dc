import { Kysely, PostgresDialect, type Transaction } from 'kysely';
import pg from 'pg';
import type { Database } from './tables';

export type Db = Kysely<Database>;
export type Trx = Transaction<Database>;

const NUMERIC = 1700;
const DATE = 1082;
const TIMESTAMP = 1114;
const BIGINT = 20;

/** Decimals as text without trailing zeros, days as `YYYY-MM-DD`, local times as `YYYY-MM-DDTHH:MM`: never through binary numbers or time zones. */
const types = new pg.TypeOverrides();
types.setTypeParser(NUMERIC, (text) => (text.includes('.') ? text.replace(/\.?0+$/, '') : text));
types.setTypeParser(DATE, (text) => text);
types.setTypeParser(TIMESTAMP, (text) => text.slice(0, 16).replace(' ', 'T'));
types.setTypeParser(BIGINT, Number);

/** A pool of connections to the database at `url`. */
export function connect(url: string, most = 12): { readonly db: Db; readonly pool: pg.Pool } {
  // Statements of a desk are short: compiling them to machine code costs more than running them.
  const pool = new pg.Pool({ connectionString: url, max: most, types, options: '-c jit=off' });
  // Without a listener a dropped idle connection would end the process; the next query reports it.
  pool.on('error', () => undefined);
  return { db: new Kysely<Database>({ dialect: new PostgresDialect({ pool }) }), pool };
}
