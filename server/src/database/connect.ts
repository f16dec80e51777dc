import { createHash } from 'node:crypto';
import { Kysely, PostgresDialect, type Transaction } from 'kysely';
import pg from 'pg';
import { noteColumns } from './columns';
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

/** Statements longer than this take longer to plan than to run; where plans are kept, shorter ones do, too. */
const LONG_STATEMENT = 1_200;
const LONG_WHERE_KEPT = 450;

/** Makes plans that hang on no parameter from now on, and plans as PostgreSQL chooses again; both within a transaction. */
export const PLAN_ONCE = `select set_config('plan_cache_mode', 'force_generic_plan', true)`;
export const PLAN_FREELY = `select set_config('plan_cache_mode', 'auto', true)`;

/**
 * A connection that plans its long statements once: they are sent under a name of their own text, by which the server
 * keeps the plan. Their texts are few: what differs are the parameters.
 */
class PlanningClient extends pg.Client {
  private readonly names = new Map<string, string>();
  private keeps = false;

  constructor(config?: pg.ClientConfig) {
    super(config);
    // Without a listener a connection that is lost while it is in use would end the process; its statement reports it.
    this.on('error', () => undefined);
  }

  override query(...args: unknown[]): never {
    const [text, values, ...rest] = args;
    if (text === PLAN_ONCE) this.keeps = true;
    // What was set within a transaction ends with it, however it ends.
    else if (text === PLAN_FREELY || text === 'commit' || text === 'rollback') this.keeps = false;
    const long = this.keeps ? LONG_WHERE_KEPT : LONG_STATEMENT;
    const planned = typeof text === 'string' && text.length > long && Array.isArray(values) && values.length > 0;
    const result = (super.query as (...all: unknown[]) => unknown)(
      ...(planned ? [{ name: this.nameOf(text), text, values: values as unknown[] }, ...rest] : args),
    );
    if (typeof text === 'string' && result instanceof Promise)
      return result.then((found: pg.QueryResult) => {
        noteColumns(text, found.fields, types);
        return found;
      }) as never;
    return result as never;
  }

  private nameOf(text: string): string {
    let name = this.names.get(text);
    if (!name) this.names.set(text, (name = createHash('sha256').update(text).digest('base64url').slice(0, 32)));
    return name;
  }
}

/** How long a connection is waited for: the pool is full, or the database is away. */
const CONNECT_MS = 5_000;
/** The longest that one statement may take, wait for a lock, or stand idle within a transaction; what is longer is ended by the database. */
const LIMITS = '-c statement_timeout=30s -c lock_timeout=15s -c idle_in_transaction_session_timeout=60s';

/** A pool of connections to the database at `url`. */
export function connect(url: string, most = 12): { readonly db: Db; readonly pool: pg.Pool } {
  // Statements of a desk are short: compiling them to machine code costs more than running them.
  const pool = new pg.Pool({
    connectionString: withOptions(url, `-c jit=off ${LIMITS}`),
    max: most,
    types,
    connectionTimeoutMillis: CONNECT_MS,
    keepAlive: true,
    Client: PlanningClient,
  });
  // Without a listener a dropped idle connection would end the process; the next query reports it.
  pool.on('error', () => undefined);
  return { db: new Kysely<Database>({ dialect: new PostgresDialect({ pool }) }), pool };
}

/** Options of the address itself stand behind ours, so that they hold. */
function withOptions(address: string, options: string): string {
  const url = new URL(address);
  url.searchParams.set('options', [options, url.searchParams.get('options') ?? ''].join(' ').trim());
  return url.href;
}
