import type { Routed, RouteWish } from '@nockwright/contract/shortages';
import type { LineChoice } from '@nockwright/core/routing';
import { reviseAcknowledgement } from '../documents';
import { recordEvents } from '../events';
import type { CommandContext, Services } from '../http/context';
import { invalid } from '../http/refusal';
import { savepoint, touchOrders } from '../locks';
import { letGo, loadOrderLinesById, owedFaults, readOrder } from '../orders';
import { acceptedOffers, callThoseLater, forgetWaiting, toldParts, type PromisedAnew } from '../promise';
import { dealWithSlipped, freeLifted, freeSurplus, type Dealt } from './free-bound';
import { lockRouting } from './lock-routing';
import { promiseAnew } from './promise-anew';
import { routingReader, type RoutingReader } from './routing-decision';
import { happenings } from './routing-events';
import { addSubstitutes, makeDocuments, storeRoutes, takeOff, type RoutedRecord } from './store-routing';

/** How far the act has come, of how much. */
export type Tell = (done: number, total: number) => void;

export interface RoutingManner {
  /** Lines that get what others give back. */
  readonly accept?: readonly number[];
  /** The customers have agreed to it: none is to be called. */
  readonly agreed?: boolean;
  readonly tell?: Tell;
  /** Where many lines are decided. */
  readonly services?: Pick<Services, 'work' | 'databaseUrl'>;
}

interface Act extends Required<Omit<RoutingManner, 'services'>>, Pick<RoutingManner, 'services'> {
  readonly reader: RoutingReader;
}

/**
 * Carries out routes for lines of released orders, all in one act: what waits, or was promised and comes late, is bought,
 * brought over, assembled, replaced, cut or waited for instead, and promised anew. Purchases gather on one draft for each
 * supplier and warehouse. Lines that cannot be routed as chosen are left as they are, and told. A customer whose day
 * becomes later than they were told is to be called, unless they have agreed to it.
 */
export async function routeLines(context: CommandContext, choices: readonly LineChoice<RouteWish>[], manner: RoutingManner = {}): Promise<Routed> {
  const { trx } = context;
  const { accept = [], agreed = false, tell = () => undefined, services } = manner;
  const act: Act = { accept, agreed, tell, reader: routingReader(context, services), ...(services ? { services } : {}) };
  const ids = choices.map((choice) => choice.line);
  const twice = ids.find((line, at) => ids.indexOf(line) !== at);
  if (twice !== undefined) throw invalid('body.choices', `line ${twice} stands twice`);
  const owed = await lockRouting(context, choices, accept, act.reader.reach);
  if (owed === null) return carryOut(context, choices, act);
  // What it makes of limits and margins is known when it is done: what nobody has approved is left as it was, the rest is done without it.
  const before = await savepoint(trx, 'routed');
  const done = await carryOut(context, choices, act);
  const faults = await letGo(context, await owedFaults(context, owed));
  if (faults.length === 0) return done;
  await before.back();
  const orderOf = new Map((await loadOrderLinesById(trx, ids)).map((line) => [line.id, line.order_id]));
  const whyOf = (line: number) => faults.find(({ order }) => order.id === orderOf.get(line))?.why;
  const rest = choices.filter(({ line }) => whyOf(line) === undefined);
  const left = choices.flatMap(({ line }) => (whyOf(line) === undefined ? [] : [{ line, why: whyOf(line)! }]));
  const others = rest.length === 0 ? { lines: 0, documents: [], freed: [], left: [] } : await carryOut(context, rest, act);
  return { ...others, left: [...others.left, ...left] };
}

/** Decides, and stores what was decided. All that it may change is locked. */
async function carryOut(context: CommandContext, choices: readonly LineChoice<RouteWish>[], { accept, agreed, tell, reader, services }: Act): Promise<Routed> {
  const { trx } = context;
  const steps = (done: number) => tell(Math.floor((choices.length * done) / 4), choices.length);
  steps(0);
  const { decided, left } = await reader.decide(choices);
  const records = new Map(
    (
      await loadOrderLinesById(
        trx,
        decided.map((row) => row.line),
      )
    ).map((record) => [record.id, record]),
  );
  const routed = decided.map((row): RoutedRecord => ({ decided: row, record: records.get(row.line)! }));
  const ids = routed.map(({ record }) => record.id);
  const told = await toldParts(trx, ids);
  const dealt: Dealt = new Map();
  steps(1);
  await takeOff(trx, routed);
  await dealWithSlipped(context, routed, dealt);
  const routes = await storeRoutes(context, routed, told);
  const documents = await makeDocuments(context, routes);
  const added = await addSubstitutes(context, routes);
  steps(2);
  await freeLifted(context, routed, dealt);
  const sure = new Map(routed.map(({ decided: row, record }) => [record.order_id, row.sure]));
  await promiseAnew(context, (order) => sure.get(order) ?? null, [...routed.map(({ record }) => record), ...added], services);
  await freeSurplus(context, routed, dealt);
  await forgetWaiting(trx, ids);
  steps(3);
  if (!agreed)
    await callThoseLater(
      context,
      routed.map((row) => promisedAnew(row, told.get(row.record.id) ?? [])),
      { kind: 'promise.endangered', facts: {} },
    );
  await touchOrders(
    context,
    routed.map(({ record }) => record.order_id),
  );
  await recordEvents(context, happenings(routed, documents, dealt));
  await reviseLessened(context, routed);
  if (accept.length > 0) await acceptedOffers(context, accept);
  steps(4);
  return { lines: routed.length, documents: documents.map(({ kind, id, number }) => ({ kind, id, number })), freed: [...dealt.values()].flat(), left };
}

function promisedAnew({ record, decided }: RoutedRecord, told: PromisedAnew['told']): PromisedAnew {
  return { order: record.order_id, line: record.id, item: record.item, told, givenUp: decided.lost };
}

/** What is cut or replaced is no longer what was acknowledged. */
async function reviseLessened(context: CommandContext, routed: readonly RoutedRecord[]): Promise<void> {
  const lessened = routed.filter(({ decided }) => decided.parts.some((part) => part.kind === 'cut' || part.kind === 'substitute'));
  for (const order of new Set(lessened.map(({ record }) => record.order_id)))
    await reviseAcknowledgement(context, await readOrder(context.trx, context.now, order));
}
