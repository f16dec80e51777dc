import { sql } from 'kysely';
import type { Db } from '../database';

/** How long what is only of use for a while is kept. Whoever repeats a request does it within a day; log-ins are counted for minutes. */
const KEPT = {
  idempotency: sql`at < now() - interval '7 days'`,
  failed_log_in: sql`at < now() - interval '1 day'`,
  known_device: sql`seen_at < now() - interval '1 year'`,
  session: sql`expires_at < now() - interval '1 day'`,
} as const;
/** Of one kind in one go: a sweep must not hold anything for long. */
const MOST = 5_000;
const LOCK = 7_204_118;

/** Throws away what is of no use any more; of several server processes one does it. Gives how many rows went. */
export async function sweep(db: Db): Promise<number> {
  return db.transaction().execute(async (trx) => {
    const { rows } = await sql<{ mine: boolean }>`select pg_try_advisory_xact_lock(${LOCK}) as mine`.execute(trx);
    if (!rows[0]!.mine) return 0;
    let gone = 0;
    for (const [table, old] of Object.entries(KEPT)) {
      const { numAffectedRows } = await sql`
        delete from ${sql.table(table)} where ctid in (select ctid from ${sql.table(table)} where ${old} limit ${MOST})`.execute(trx);
      gone += Number(numAffectedRows ?? 0n);
    }
    return gone;
  });
}
