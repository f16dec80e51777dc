import { decideRouting, poolsFor, type LineChoice, type Routing } from '@nockwright/core/routing';
import type { PoolKey } from '@nockwright/core/book';
import type { RouteWish } from '@nockwright/contract/shortages';
import type { Now } from '../clock';
import type { Db } from '../database';
import type { CommandContext, Services } from '../http/context';
import { bookReading, readBeside, type BookReading } from '../http/whole-book';
import { loadLineFacts, loadOrderLinesById, openLines } from '../orders';
import { loadRoutingFacts } from './load-facts';

type WishedLine = LineChoice<RouteWish>;

/** What a routing may touch: to be locked before it is decided. */
export interface RoutingReach {
  readonly pools: readonly PoolKey[];
  readonly suppliers: readonly string[];
}

const reachReading = bookReading('reachOfRouting', async (db: Db, now: Now, lines: readonly number[]): Promise<RoutingReach> => {
  const facts = await loadRoutingFacts(db, now, lines);
  const routed = [...facts.lines.values()];
  const pools = new Map(routed.flatMap((line) => poolsFor(facts, line)).map((pool) => [`${pool.item}/${pool.warehouse}`, pool]));
  return { pools: [...pools.values()], suppliers: [...new Set(routed.flatMap((line) => (facts.offers.get(line.item) ?? []).map((offer) => offer.supplier)))] };
});
export const reachOfRoutingTask = reachReading.task;

const decisionReading = bookReading('decideRouting', async (db: Db, now: Now, choices: readonly WishedLine[]): Promise<Routing<RouteWish>> => {
  const facts = await loadRoutingFacts(
    db,
    now,
    choices.map((choice) => choice.line),
  );
  const records = await loadOrderLinesById(db, [...facts.lines.keys()]);
  return decideRouting(facts, choices, openLines(records, await loadLineFacts(db, [...facts.lines.keys()])));
});
export const decideRoutingTask = decisionReading.task;

/** The ways of so many lines are decided in the thread that answers; each takes about a millisecond of it. */
const MOST_LINES_HERE = 20;

/**
 * Reads in the command's own transaction where there are few lines. Where there are many a thread reads beside it: that
 * sees what the command has locked and has not changed yet, and nothing that it has.
 */
export interface RoutingReader {
  readonly reach: (lines: readonly number[]) => Promise<RoutingReach>;
  readonly decide: (choices: readonly WishedLine[]) => Promise<Routing<RouteWish>>;
}

export function routingReader(context: CommandContext, services?: Pick<Services, 'work' | 'databaseUrl'>): RoutingReader {
  const read = <In extends readonly unknown[], Out>(reading: BookReading<In, Out>, input: In): Promise<Out> =>
    services && input.length > MOST_LINES_HERE ? readBeside(services, context, reading.task, input) : reading.read(context.trx, context.now, input);
  return { reach: (lines) => read(reachReading, lines), decide: (choices) => read(decisionReading, choices) };
}
