import { createHash } from 'node:crypto';
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

/** Statements longer than this take longer to plan than to run. */
const LONG_STATEMENT = 450;

/**
 * A connection that plans its long statements once: they are sent under a name of their own text, by which the server
 * keeps the plan. Their texts are few: what differs are the parameters.
 */
class PlanningClient extends pg.Client {
  private readonly names = new Map<string, string>();

  override query(...args: unknown[]): never {
    const [text, values, ...rest] = args;
    const planned = typeof text === 'string' && text.length > LONG_STATEMENT && Array.isArray(values) && values.length > 0;
    return (super.query as (...all: unknown[]) => never)(...(planned ? [{ name: this.nameOf(text), text, values: values as unknown[] }, ...rest] : args));
  }

  private nameOf(text: string): string {
    let name = this.names.get(text);
    if (!name) this.names.set(text, (name = createHash('sha256').update(text).digest('base64url').slice(0, 32)));
    return name;
  }
}

/** A pool of connections to the database at `url`. */
export function connect(url: string, most = 12): { readonly db: Db; readonly pool: pg.Pool } {
  // Statements of a desk are short: compiling them to machine code costs more than running them.
  const pool = new pg.Pool({ connectionString: url, max: most, types, options: '-c jit=off', Client: PlanningClient });
  // Without a listener a dropped idle connection would end the process; the next query reports it.
  pool.on('error', () => undefined);
  return { db: new Kysely<Database>({ dialect: new PostgresDialect({ pool }) }), pool };
}
