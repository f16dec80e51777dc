import { sql } from 'kysely';
import type { Trx } from '../database';
import { heldBy, holdOnly } from './take-locks';

/** A place in a transaction to which it can go back. */
export interface Savepoint {
  /** Undoes all that was done since; what was locked since is locked no more. */
  readonly back: () => Promise<void>;
  /** Keeps what was done since. */
  readonly keep: () => Promise<void>;
}

export async function savepoint(trx: Trx, name: string): Promise<Savepoint> {
  const named = sql.id(name);
  await sql`savepoint ${named}`.execute(trx);
  const before = heldBy(trx);
  return {
    back: async () => {
      await sql`rollback to savepoint ${named}`.execute(trx);
      holdOnly(trx, before);
    },
    keep: async () => {
      await sql`release savepoint ${named}`.execute(trx);
    },
  };
}
