import { dueRun } from '@nockwright/core/shipping';
import { sql } from 'kysely';
import { recordEvent } from '../events';
import type { CommandContext, Services } from '../http/context';
import { loadRules, loadStops } from './pick-rules';
import { readBoard } from './read-board';
import { startPicks } from './start-picks';

/** What Nockwright does of itself. */
const NOBODY = { id: 0, login: '', name: 'Nockwright', role: 'coordinator' } as const;
const RAN = 'pick_rules_ran';
const LOCK = 7_204_120;
/** So many at once: what is left comes with the next round. */
const MOST = 40;

/**
 * Releases to pick what is due and no rule stops, at the times that the rules name; once at each. Of several server processes one does it. Gives how
 * many picks were started.
 */
export async function releasePicks(services: Pick<Services, 'db' | 'clock' | 'jobs' | 'publicUrl'>): Promise<number> {
  const { db, clock, jobs, publicUrl } = services;
  return db.transaction().execute(async (trx) => {
    const { rows } = await sql<{ mine: boolean }>`select pg_try_advisory_xact_lock(${LOCK}) as mine`.execute(trx);
    if (!rows[0]!.mine) return 0;
    const now = clock();
    const rules = await loadRules(trx);
    const ran = await trx.selectFrom('desk_setting').select('value').where('name', '=', RAN).executeTakeFirst();
    const time = dueRun(rules, now.localTime, (ran?.value as { day: string; time: string } | undefined) ?? null);
    if (time === null) return 0;
    const { ready } = await readBoard(trx, now, { most: 2000 });
    const due = ready.filter((row) => row.due);
    const stops = await loadStops(
      trx,
      rules,
      due.map((row) => row.order),
    );
    const free = due.filter((row) => !stops.has(row.order));
    const context: CommandContext = { trx, now, jobs, publicUrl, user: NOBODY, afterCommit: () => undefined };
    const { started } = await startPicks(
      context,
      free.slice(0, MOST).map(({ order, warehouse, lines }) => ({ order, warehouse, lines: lines.map(({ line, quantity }) => ({ line, quantity })) })),
    );
    // What did not fit into this round comes with the next: the time is done when nothing more is to be started.
    if (free.length <= MOST) {
      const value = JSON.stringify({ day: now.today, time });
      await trx
        .insertInto('desk_setting')
        .values({ name: RAN, value })
        .onConflict((conflict) => conflict.column('name').doUpdateSet({ value }))
        .execute();
    }
    if (started.length > 0)
      await recordEvent(context, {
        kind: 'picks.released',
        facts: { time, picks: started.length, stopped: due.length - free.length },
        subjects: started.map((pick) => ({ kind: 'shipment' as const, key: pick.id })),
      });
    return started.length;
  });
}
