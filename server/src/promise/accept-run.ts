import { poolName, takeLocks } from '../locks';
import { poolsOf, type LiveBook } from '@nockwright/core/book';
import type { Decision, ResequenceRun, RippleView } from '@nockwright/contract/promise';
import { resequence, type Moved } from '@nockwright/core/promise';
import { recordEvent } from '../events';
import type { CommandContext, QueryContext, Services } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { bookReading, readBeside } from '../http/whole-book';
import { loadBook } from './load-book';
import { ordersOf, readRun, type Stored } from './resequence-run';
import { rippleOf, viewRipple, type RipplePlan } from './ripple-plan';
import { checkAsSeen, lockMoving, movesOf, named, settleMoves, type LineMove } from './settle-ripple';

const choiceReading = bookReading('choiceOfRun', async (db, now, lines: readonly number[]) =>
  viewRipple(db, choicePlan(await loadBook(db, now, { moving: true }), lines), [], now.today),
);
export const choiceOfRunTask = choiceReading.task;

/** What it would do to all if only some of the lines that a run brings forward took their turn anew; computed beside the thread that answers. */
export async function previewChoice(services: Services, context: QueryContext, id: number, lines: readonly number[]): Promise<RippleView> {
  await readRun(context.db, id, context.now.today);
  return readBeside(services, context, choiceOfRunTask, lines);
}

/** What of a run is accepted: all of it where `chosen` is null. `asked`: lines whose names are wanted. */
interface Acceptance {
  readonly chosen: readonly number[] | null;
  readonly asked: readonly number[];
}

const poolsReading = bookReading('poolsOfRun', async (db, now) => {
  const { book } = await loadBook(db, now, { moving: true });
  return poolsOf(book);
});
export const poolsOfRunTask = poolsReading.task;

const movesReading = bookReading('movesOfRun', async (db, now, { chosen, asked }: Acceptance) => {
  const live = await loadBook(db, now, { moving: true });
  const { later, earlier } = chosen ? rippleOf(choicePlan(live, chosen), []) : resequence(live.book, new Map());
  return {
    pools: poolsOf(live.book),
    moves: movesOf({ live, after: live.book }, [...later, ...earlier]),
    names: asked.flatMap((line) => live.demands.get(live.demandOfLine.get(line) ?? '') ?? []),
  };
});
export const movesOfRunTask = movesReading.task;

/**
 * Moves promises as a run found: all of them, where the book still gives the same answer; or of some lines, as their
 * own ripple was seen. Each customer who had been told another day is to be told. What moves is computed in a thread
 * while this transaction holds every order that may move and every pool: that thread reads what nobody can change.
 */
export async function acceptRun(
  services: Pick<Services, 'work' | 'databaseUrl'>,
  context: CommandContext,
  id: number,
  wish: { readonly all: boolean; readonly lines: readonly number[]; readonly decision?: Decision },
): Promise<ResequenceRun> {
  const { trx, now } = context;
  const run = await trx.selectFrom('resequence_run').select(['state', 'result']).where('id', '=', id).forNoKeyUpdate().executeTakeFirst();
  if (!run) throw notFound(`run ${id}`);
  if (run.state !== 'done') throw new Refusal('conflict', run.state === 'accepted' ? 'This run has been accepted already.' : `This run is ${run.state}.`);
  const { decision } = wish;
  if (!wish.all && !decision) throw invalid('body.decision', 'missing: the ripple of the chosen lines, as it was seen');
  const { later, earlier } = run.result as Stored['result'];
  const found = [...later, ...earlier];
  const ofFound = wish.all
    ? await ordersOf(
        trx,
        found.map((row) => row.id),
      )
    : [];
  await lockMoving(trx, wish.all ? undefined : decision, ofFound);
  const pools = await readBeside(services, context, poolsOfRunTask, null);
  await takeLocks(trx, { pools });
  const asked = decision ? decision.seen.map((row) => row.line) : [];
  const again = await readBeside(services, context, movesOfRunTask, { chosen: wish.all ? null : wish.lines, asked });
  const locked = new Set(pools.map(poolName));
  if (again.pools.some((pool) => !locked.has(poolName(pool))))
    throw new Refusal('changed', 'Goods have come to the book just now. Nothing was moved: try again.');
  const { moves, names } = again;
  if (wish.all) checkAsFound(found, moves);
  else checkAsSeen(decision!, moves.map(named), (line) => names.find((row) => row.lineId === line), now.today);
  await settleMoves(context, moves, { kind: 'run.accepted', facts: { moves: moves.length } });
  await trx.updateTable('resequence_run').set({ state: 'accepted' }).where('id', '=', id).execute();
  await recordEvent(context, { kind: 'run.accepted', facts: { moves: moves.length }, subjects: [{ kind: 'run', key: id }] });
  return readRun(trx, id, now.today);
}

function choicePlan(live: LiveBook, lines: readonly number[]): RipplePlan {
  return { live, after: live.book, claims: new Set(lines.flatMap((line) => live.demandOfLine.get(line) ?? [])) };
}

/** Refuses where the book gives another answer than the run found, and says how far. */
function checkAsFound(found: readonly Moved[], moves: readonly LineMove[]): void {
  const current = new Map(
    moves.map(({ info, after }) => [`${info.orderNumber}/${info.lineNo}`, JSON.stringify(after.map((part) => [part.day, Number(part.quantity)]))]),
  );
  const expected = new Map(found.map((row) => [row.id, JSON.stringify(row.after.map((part) => [part.day, part.quantity]))]));
  const differ = [...new Set([...current.keys(), ...expected.keys()])].filter((line) => current.get(line) !== expected.get(line));
  if (differ.length === 0) return;
  throw new Refusal(
    'changed',
    `The book has changed since the run: ${differ.length} ${differ.length === 1 ? 'line would move' : 'lines would move'} otherwise than you saw (${differ.slice(0, 5).join(', ')}${differ.length > 5 ? ', …' : ''}). Nothing was moved: run it again, then decide.`,
  );
}
