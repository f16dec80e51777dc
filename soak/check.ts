import { isDeepStrictEqual } from 'node:util';
import { orderRoutes } from '@nockwright/contract/orders';
import { promiseBook } from '@nockwright/core/promise';
import { sql } from 'kysely';
import { createClock } from '../server/src/clock';
import { loadBook } from '../server/src/promise';
import { brokenInvariants } from '../server/test/invariants';
import { staleBoards } from '../server/test/stale-boards';
import type { LiveEar } from './live-ear';
import type { RemoteDesk } from './remote-desk';

const WAIT_MS = 500;
/** What is told comes within this time, on a machine that has much else to do. */
const HEARD_MS = 20_000;

/** What does not hold at the end, a sentence each; and figures to be looked at. */
export interface Findings {
  readonly faults: string[];
  readonly figures: Record<string, unknown>;
}

/** Looks at the books when all is quiet: balanced, nothing lost, nothing doubled, no mail forgotten, each event told once. */
export async function check(desk: RemoteDesk, ears: readonly LiveEar[], today: string, patienceMs: number): Promise<Findings> {
  const faults = [...desk.wrong, ...(await brokenInvariants(desk.db))];
  faults.push(...(await promisesWithoutGoods(desk, today)));
  faults.push(...(await staleBoards(desk.db, createClock(today)())));
  faults.push(...(await answeredOtherwise(desk)));
  faults.push(...(await eventsToldAnew(desk, ears)));
  const mail = await mailLeft(desk, patienceMs);
  faults.push(...mail.faults);
  return {
    faults,
    figures: { answers: Object.fromEntries([...desk.statuses].sort()), away: desk.away, askedAgain: desk.acknowledged.length, ...mail.figures },
  };
}

/** A promise may have become late by a slip; none may stand without supply. The promise computation says so of the live book. */
async function promisesWithoutGoods(desk: RemoteDesk, today: string): Promise<string[]> {
  const { book } = await loadBook(desk.db, createClock(today)());
  return promiseBook(book)
    .atRisk.filter((row) => row.arrives === null)
    .map((row) => `promised without supply: ${JSON.stringify(row)}`);
}

/** What was acknowledged is there, once: its key has the answer that it had. */
async function answeredOtherwise(desk: RemoteDesk): Promise<string[]> {
  const faults: string[] = [];
  for (const { path, init, reply } of [...desk.acknowledged]) {
    const again = await desk.again(path, init);
    if (!isDeepStrictEqual(JSON.parse(again), JSON.parse(reply)))
      faults.push(`${init.method} ${path}: acknowledged as ${reply.slice(0, 200)}, now ${again.slice(0, 200)}`);
  }
  return faults;
}

/** After all the outages everybody who listens is told of a change, and once: of a draft that is made, and of a line that is added to it. */
async function eventsToldAnew(desk: RemoteDesk, ears: readonly LiveEar[]): Promise<string[]> {
  const { id } = await desk.draft([]);
  const told = () => ears.map((ear) => ear.count(`order:${id}`));
  const heard = async (changes: number) => {
    const until = Date.now() + HEARD_MS;
    while (told().some((times) => times < changes) && Date.now() < until) await new Promise((resolve) => setTimeout(resolve, WAIT_MS));
  };
  await heard(1);
  await desk.call('mona', orderRoutes.addLine, { params: { order: id }, body: { item: 'JAR', quantity: '1' } });
  await heard(2);
  // Whatever is told twice comes by now.
  await new Promise((resolve) => setTimeout(resolve, 4 * WAIT_MS));
  return told().flatMap((times) => (times === 2 ? [] : [`a listener was told ${times} times of two changes`]));
}

/** Nothing waits without a job. */
async function mailLeft(desk: RemoteDesk, patienceMs: number): Promise<Findings> {
  const count = async () =>
    (
      await sql<{ state: string; n: number; forgotten: number }>`
        select m.state, count(*)::int as n, (count(*) filter (where m.state = 'waiting' and coalesce(claimed_until, now()) <= now()
          and not exists (select from job_queue.job j where j.name = 'mail' and j.state < 'completed' and (j.data->>'mail')::int = m.id)))::int as forgotten
        from mail m group by 1`.execute(desk.db)
    ).rows;
  const until = Date.now() + patienceMs;
  let rows = await count();
  while (rows.some((row) => row.state === 'waiting') && Date.now() < until) {
    await new Promise((resolve) => setTimeout(resolve, WAIT_MS));
    rows = await count();
  }
  const forgotten = rows.reduce((sum, row) => sum + row.forgotten, 0);
  return {
    faults: forgotten > 0 ? [`${forgotten} mails wait and have no job`] : [],
    figures: { mail: Object.fromEntries(rows.map((row) => [row.state, row.n])) },
  };
}
