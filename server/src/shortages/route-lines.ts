import { setImmediate as othersTurn } from 'node:timers/promises';
import type { PromisePart } from '@nockwright/contract/promise';
import type { Routed, RouteWish } from '@nockwright/contract/shortages';
import { dayByName } from '@nockwright/core/calendar';
import { compareDecimal, least, minus, plus, sum } from '@nockwright/core/money';
import { beyondNeed, nextCarrierDay, type OpenLine, openQuantity } from '@nockwright/core/orders';
import { chosenRoute, leavingDays, type Lifted, type Route, type RouteKind } from '@nockwright/core/shortages';
import { sql } from 'kysely';
import { anyOf, type Trx } from '../database';
import { recordEvents, type Happening } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { reviseAcknowledgement } from '../documents';
import {
  letGo,
  loadOrder,
  loadLineFacts,
  loadOrderLinesById,
  openLine,
  owedBefore,
  owedFaults,
  readOrder,
  type OwedBefore,
  shipToText,
  type OrderLineRecord,
} from '../orders';
import {
  acceptedOffers,
  callThoseLater,
  loadBook,
  lockOrders,
  lockPools,
  lockPurchases,
  newPromises,
  forgetWaiting,
  storePromises,
  toldParts,
  type PromisedAnew,
} from '../promise';
import { giveUp, loadBoundSupply, loadDraftDropShipments, loadDrafts, lockBoundSupply, makeForRoutes, poolsOfBound, type MadeDocument } from '../supply';
import { RoutingDesk, type RoutedLine } from './routing-desk';
import { insertSubstitute } from './insert-substitute';
import { unpicked } from './unpicked';

export interface LineChoice {
  readonly line: number;
  readonly parts: readonly RouteWish[];
  /** The day the customer agreed to: it must leave by then. */
  readonly by?: string;
}

/** A choice that can be done, with what it takes off the line and the route it is. */
interface Decided {
  readonly choice: LineChoice;
  readonly line: RoutedLine;
  readonly record: OrderLineRecord;
  readonly open: OpenLine;
  readonly route: Route;
  /** What of it goes another way, and what is waited for as it comes now. */
  readonly lifted: Lifted;
  readonly kept: Lifted;
}

export const ROUTE_WORDS: Readonly<Record<RouteKind, string>> = {
  backorder: 'backorder',
  special_order: 'special order',
  drop_ship: 'drop ship',
  transfer: 'transfer',
  assemble: 'assembly',
  substitute: 'substitute',
  cut: 'cut',
};

/** How far the act has come, of how much. */
export type Tell = (done: number, total: number) => void;

/**
 * Carries out routes for lines of released orders, all in one act: what waits, or was promised and comes late, is bought,
 * brought over, assembled, replaced, cut or waited for instead, and promised anew. Purchases gather on one draft for each supplier and
 * warehouse. Lines that cannot be routed as chosen are left as they are, and told. `accept`: lines that get what others
 * give back. A customer whose day becomes later than they were told is to be called, unless they have `agreed` to it.
 */
export async function routeLines(
  context: CommandContext,
  choices: readonly LineChoice[],
  accept: readonly number[] = [],
  tell: Tell = () => undefined,
  agreed = false,
): Promise<Routed> {
  const { trx } = context;
  const ids = choices.map((choice) => choice.line);
  const twice = ids.find((line, at) => ids.indexOf(line) !== at);
  if (twice !== undefined) throw invalid('body.choices', `line ${twice} stands twice`);
  const owed = await lockAll(context, choices, accept);
  if (owed === null) return carryOut(context, choices, accept, tell, agreed);
  // What it makes of limits and margins is known when it is done: what nobody has approved is left as it was, the rest is done without it.
  await sql`savepoint routed`.execute(trx);
  const done = await carryOut(context, choices, accept, tell, agreed);
  const faults = await letGo(context, await owedFaults(context, owed));
  if (faults.length === 0) return done;
  await sql`rollback to savepoint routed`.execute(trx);
  const orderOf = new Map((await loadOrderLinesById(trx, ids)).map((line) => [line.id, line.order_id]));
  const whyOf = (line: number) => faults.find(({ order }) => order.id === orderOf.get(line))?.why;
  const rest = choices.filter(({ line }) => whyOf(line) === undefined);
  const left = choices.flatMap(({ line }) => (whyOf(line) === undefined ? [] : [{ line, why: whyOf(line)! }]));
  const others = rest.length === 0 ? { lines: 0, documents: [], freed: [], left: [] } : await carryOut(context, rest, accept, tell, agreed);
  return { ...others, left: [...others.left, ...left] };
}

async function carryOut(context: CommandContext, choices: readonly LineChoice[], accept: readonly number[], tell: Tell, agreed: boolean): Promise<Routed> {
  const { trx, now } = context;
  const total = choices.length * 2;
  const desk = await RoutingDesk.load(
    trx,
    now,
    choices.map((choice) => choice.line),
  );
  tell(0, total);

  const { decided, left } = await decide(context, desk, choices, (done) => tell(done, total));
  const told = await toldParts(
    trx,
    decided.map(({ record }) => record.id),
  );
  await takeOff(trx, decided);
  const dealt = await dealWithSlipped(context, decided);
  const routes = await storeRoutes(context, decided, told);
  tell(choices.length, total);
  const documents = await makeDocuments(context, routes);
  const added = await addSubstitutes(context, desk, routes);
  tell(choices.length + Math.floor(choices.length / 2), total);
  await freeLifted(context, desk, decided, dealt);
  await promiseAnew(context, desk, [...decided.map(({ record }) => record), ...added]);
  await freeSurplus(context, decided, dealt);
  await forgetWaiting(
    trx,
    decided.map(({ record }) => record.id),
  );
  if (!agreed)
    await callThoseLater(
      context,
      decided.map((row) => promisedAnew(row, told.get(row.record.id) ?? [])),
      'routed anew: the goods it was promised from come too late, or not at all',
    );
  await touchOrders(context, decided);
  await recordEvents(context, happenings(decided, documents, dealt));
  // What is cut or replaced is no longer what was acknowledged.
  const lessened = decided.filter(({ choice }) => choice.parts.some((part) => part.kind === 'cut' || part.kind === 'substitute'));
  for (const order of new Set(lessened.map(({ record }) => record.order_id))) await reviseAcknowledgement(context, await readOrder(trx, now, order));
  if (accept.length > 0) await acceptedOffers(context, accept);
  tell(total, total);
  return {
    lines: decided.length,
    documents: documents.map(({ kind, id, number }) => ({ kind, id, number })),
    freed: [...dealt.values()].flat(),
    left,
  };
}

/**
 * Locks all that the act may change, in the one lock order. Gives how the orders stand where it may raise what is owed, or lower
 * the margin on a price set by hand; null where it can do neither.
 */
async function lockAll(context: CommandContext, choices: readonly LineChoice[], accept: readonly number[]): Promise<OwedBefore | null> {
  const { trx, now } = context;
  const lines = choices.map((choice) => choice.line);
  const orders = await trx
    .selectFrom('order_line')
    .select(['id', 'order_id'])
    .select(sql<boolean>`coalesce(price_pin->>'kind' = 'manual', false)`.as('by_hand'))
    .where(anyOf('id', [...lines, ...accept]))
    .execute();
  for (const line of lines) if (!orders.some((row) => row.id === line)) throw new Refusal('not-found', `There is no line ${line}.`);
  await lockOrders(trx, [...new Set(orders.map((row) => row.order_id))]);
  const replaced = new Set(choices.filter(({ parts }) => parts.some((part) => part.kind === 'substitute')).map((choice) => choice.line));
  const judged = orders.filter((row) => row.by_hand || replaced.has(row.id)).map((row) => row.order_id);
  const owed = judged.length === 0 ? null : await owedBefore(context, judged);
  const before = await RoutingDesk.load(trx, now, lines);
  const suppliers = [...new Set([...before.lines.values()].flatMap((line) => before.offersOf(line).map((offer) => offer.supplier)))];
  const bound = await loadBoundSupply(trx, lines);
  const purchases = bound.filter((row) => row.kind === 'purchase' || row.kind === 'drop_ship').map((row) => row.document);
  const drafts = [...(await loadDrafts(trx, suppliers)).values(), ...(await loadDraftDropShipments(trx, [...new Set(orders.map((row) => row.order_id))]))];
  await lockPurchases(trx, [...drafts.map((draft) => draft.id), ...purchases]);
  await lockBoundSupply(
    trx,
    bound.filter((row) => row.kind === 'transfer' || row.kind === 'assembly'),
  );
  await lockPools(trx, [...[...before.lines.values()].flatMap((line) => before.poolsFor(line)), ...(await poolsOfBound(trx, bound))]);
  return owed;
}

/** What each choice takes and gives, one after the other: what one takes the next does not have. */
async function decide(context: CommandContext, desk: RoutingDesk, choices: readonly LineChoice[], tell: (done: number) => void) {
  const { trx } = context;
  const records = new Map((await loadOrderLinesById(trx, [...desk.lines.keys()])).map((record) => [record.id, record]));
  const facts = await loadLineFacts(trx, [...desk.lines.keys()]);
  const byLine = groupFacts(facts);
  const decided: Decided[] = [];
  const left: { line: number; why: string }[] = [];
  const wished = new Map(choices.map((choice) => [choice.line, choice]));
  let done = 0;
  // In the sequence of orders: who has their turn first chooses first.
  for (const line of desk.lines.values()) {
    const choice = wished.get(line.id)!;
    const record = records.get(line.id)!;
    const why = (text: string) => left.push({ line: line.id, why: text });
    if (++done % 25 === 0) {
      tell(done);
      // Whoever else asks is answered meanwhile.
      await othersTurn();
    }
    if (line.state !== 'released' || line.kind !== 'order') {
      why(`order ${line.number ?? line.order_id} is ${line.state}`);
      continue;
    }
    const lifted = sum(choice.parts.filter((part) => part.kind !== 'backorder').map((part) => part.quantity));
    const waits = sum(choice.parts.filter((part) => part.kind === 'backorder').map((part) => part.quantity));
    const open = openLine(record, byLine(line.id));
    const promises = leavingDays(unpicked(open), desk.risksOf(line));
    const result = desk.lift(line, lifted, waits, { waiting: open.waiting, promises });
    if (!result.ok) {
      why(`${plus(lifted, waits)} is more than the ${result.most} of this line that can still be routed`);
      continue;
    }
    const mayWait = minus(plus(open.waiting, desk.shortOf(line).astray), lifted);
    if (compareDecimal(waits, '0') > 0 && compareDecimal(waits, mayWait) > 0) {
      why(`${waits} is more than the ${compareDecimal(mayWait, '0') > 0 ? mayWait : '0'} that wait, or come late, on this line`);
      continue;
    }
    const shortage = { ...desk.shortageOf(line, plus(lifted, waits)), mayWait: true };
    const found = chosenRoute(shortage, choice.parts, desk.policyOf(line).policy);
    if (!found.ok) {
      why(`${ROUTE_WORDS[choice.parts[found.at]!.kind]}: ${found.why}`);
      continue;
    }
    const late = afterAgreed(found.route, choice.by, context.now.today);
    if (late !== null) {
      why(late);
      continue;
    }
    desk.take(line, found.route);
    decided.push({ choice, line, record, open, route: found.route, lifted: result.lifted, kept: result.kept });
  }
  return { decided, left };
}

/** Why a route is not the one that was agreed to: it leaves later, or on no day that is known. Null where it is, or nothing was. */
export function afterAgreed({ shipDay }: Route, by: string | undefined, today: string): string | null {
  if (by === undefined || (shipDay !== null && shipDay <= by)) return null;
  return `it would leave ${shipDay === null ? 'on a day that is not known' : dayByName(shipDay, today)}, and ${dayByName(by, today)} was agreed to`;
}

function promisedAnew({ record, route }: Decided, told: PromisedAnew['told']): PromisedAnew {
  return {
    order: record.order_id,
    line: record.id,
    item: record.item,
    told,
    givenUp: sum(route.parts.filter(({ kind }) => kind === 'cut' || kind === 'substitute').map((part) => part.quantity)),
  };
}

type Facts = Awaited<ReturnType<typeof loadLineFacts>>;

function groupFacts(facts: Facts): (line: number) => Facts {
  const group = <T extends { readonly line_id: number | null }>(rows: readonly T[]) => {
    const found = new Map<number | null, T[]>();
    for (const row of rows) {
      const list = found.get(row.line_id);
      if (list) list.push(row);
      else found.set(row.line_id, [row]);
    }
    return (line: number) => found.get(line) ?? [];
  };
  const [promises, picks, dropShipments, routes] = [group(facts.promises), group(facts.picks), group(facts.dropShipments), group(facts.routes)];
  return (line) => ({ promises: promises(line), picks: picks(line), dropShipments: dropShipments(line), routes: routes(line) });
}

/** Takes what is routed off the promises, and what is cut or replaced off the line. */
async function takeOff(trx: Trx, decided: readonly Decided[]): Promise<void> {
  const remains = decided.flatMap(({ record, open, lifted, kept }) => {
    const off = new Map<string, string>();
    // What is waited for is promised anew, for the day it really comes.
    for (const { day, cut } of [...lifted.promises, ...kept.promises]) off.set(day, plus(off.get(day) ?? '0', cut));
    return open.promises.flatMap(({ day, quantity }) => (off.has(day) ? [{ line_id: record.id, day, remains: minus(quantity, off.get(day)!) }] : []));
  });
  const gone = remains.filter((row) => compareDecimal(row.remains, '0') <= 0);
  const less = remains.filter((row) => compareDecimal(row.remains, '0') > 0);
  for (const { line_id, day } of gone) await trx.deleteFrom('line_promise').where('line_id', '=', line_id).where('day', '=', day).execute();
  for (const { line_id, day, remains: quantity } of less)
    await trx.updateTable('line_promise').set({ quantity }).where('line_id', '=', line_id).where('day', '=', day).execute();
  for (const { record, choice } of decided) {
    const lost = sum(choice.parts.filter((part) => part.kind === 'cut' || part.kind === 'substitute').map((part) => part.quantity));
    if (compareDecimal(lost, '0') <= 0) continue;
    const cancelled = plus(record.cancelled, lost);
    const open = openQuantity({ ...record, cancelled });
    await trx
      .updateTable('order_line')
      .set({ cancelled, reserved: least(record.reserved, open) })
      .where('id', '=', record.id)
      .execute();
  }
}

/**
 * Drop shipments that slipped are taken back from the supplier where another way is better; of those that are waited for
 * the later day is from now on what was told. Gives what was done, by line.
 */
async function dealWithSlipped(context: CommandContext, decided: readonly Decided[]): Promise<Map<number, string[]>> {
  const dealt = new Map<number, string[]>();
  const bound = await loadBoundSupply(
    context.trx,
    decided.filter(({ lifted }) => lifted.slipped.length > 0).map(({ record }) => record.id),
  );
  for (const { record, lifted, kept } of decided) {
    const words: string[] = [];
    for (const { id, cut } of lifted.slipped)
      words.push(
        ...(await giveUp(
          context,
          bound.find((row) => row.kind === 'drop_ship' && row.id === id)!,
          cut,
          'cancel',
          'it leaves too late',
        )),
      );
    if (words.length > 0) dealt.set(record.id, words);
    for (const { id } of kept.slipped)
      await context.trx
        .updateTable('purchase_line')
        .set({ told_day: sql`case when expected_day < ${context.now.today}::date then ${nextCarrierDay(context.now.today)}::date else expected_day end` })
        .where('id', '=', id)
        .execute();
  }
  return dealt;
}

/**
 * What was bought, brought over or put together for parts of a line that go another way now is bound to it no more: it is
 * free for anyone, struck off its draft, or stays where it is. Adds what was done to `dealt`.
 */
async function freeLifted(context: CommandContext, desk: RoutingDesk, decided: readonly Decided[], dealt: Map<number, string[]>): Promise<void> {
  const free = decided.flatMap(({ line, lifted }) => {
    const names = boundNames(desk, line, lifted);
    return names.size === 0 ? [] : [{ line: line.id, names }];
  });
  if (free.length === 0) return;
  const bound = await loadBoundSupply(
    context.trx,
    free.map((row) => row.line),
  );
  for (const { line, names } of free)
    for (const row of bound) {
      const quantity = row.order_line_id === line && row.kind !== 'drop_ship' ? least(names.get(row.name) ?? '0', row.open) : '0';
      if (compareDecimal(quantity, '0') > 0) tellDealt(dealt, line, await giveUp(context, row, quantity, 'keep', 'the line is served another way'));
    }
}

function boundNames(desk: RoutingDesk, line: RoutedLine, { promises }: Lifted): ReadonlyMap<string, string> {
  return promises.length === 0 ? new Map() : desk.boundToLifted(line, sum(promises.map((row) => row.cut)));
}

function tellDealt(dealt: Map<number, string[]>, line: number, done: readonly string[]): void {
  dealt.set(line, [...(dealt.get(line) ?? []), ...done]);
}

/** What is bound to a line beyond all it is open for is bound to it no more. Adds what was done to `dealt`. */
async function freeSurplus(context: CommandContext, decided: readonly Decided[], dealt: Map<number, string[]>): Promise<void> {
  const ids = decided.filter(({ lifted }) => lifted.promises.length > 0).map(({ record }) => record.id);
  if (ids.length === 0) return;
  const bound = await loadBoundSupply(context.trx, ids);
  for (const line of await loadOrderLinesById(context.trx, ids)) {
    const own = bound.filter((row) => row.order_line_id === line.id);
    const open = openQuantity(line);
    const dropped = sum(own.filter((row) => row.kind === 'drop_ship').map((row) => row.open));
    for (const { row, surplus } of beyondNeed(own, minus(minus(open, dropped), least(line.reserved, open)))) {
      tellDealt(dealt, line.id, await giveUp(context, row, surplus, 'keep', 'the line is served another way'));
    }
  }
}

interface StoredRoute {
  readonly id: number;
  readonly decided: Decided;
  readonly part: RouteWish;
}

async function storeRoutes(
  { trx, now }: CommandContext,
  decided: readonly Decided[],
  told: ReadonlyMap<number, readonly PromisePart[]>,
): Promise<StoredRoute[]> {
  const wanted = decided.flatMap((row) => row.choice.parts.map((part, at) => ({ decided: row, part, unitCost: row.route.parts[at]!.unitCost })));
  if (wanted.length === 0) return [];
  const rows = await trx
    .insertInto('line_route')
    .values(
      wanted.map(({ decided: { record }, part, unitCost }) => ({
        line_id: record.id,
        ...routeColumns(part),
        unit_cost: unitCost,
        told_before: JSON.stringify(told.get(record.id) ?? []),
        made_at: now.instant,
      })),
    )
    .returning('id')
    .execute();
  return rows.map(({ id }, at) => ({ id, decided: wanted[at]!.decided, part: wanted[at]!.part }));
}

/** A route as it is stored. */
export function routeColumns({ kind, quantity, supplier, warehouse, item, shipTo, more }: RouteWish) {
  return { kind, quantity, supplier: supplier ?? null, warehouse: warehouse ?? null, item: item ?? null, ship_to_id: shipTo ?? null, more: more ?? null };
}

/** Makes the purchases, transfers and assemblies that routes need. */
async function makeDocuments(context: CommandContext, routes: readonly StoredRoute[]): Promise<MadeDocument[]> {
  const addresses = await addressesFor(
    context.trx,
    routes.filter(({ part }) => part.kind === 'drop_ship'),
  );
  return makeForRoutes(
    context,
    routes.map((row) => ({
      id: row.id,
      order: row.decided.record.order_id,
      line: { id: row.decided.record.id, item: row.decided.record.item, warehouse: row.decided.record.warehouse },
      kind: row.part.kind,
      supplier: row.part.supplier ?? null,
      warehouse: row.part.warehouse ?? null,
      quantity: row.part.quantity,
      more: row.part.more ?? null,
      shipTo: row.part.kind === 'drop_ship' ? addresses(row) : '',
    })),
  );
}

/** Where drop shipments go: the address of the route, else the line's, else the order's. */
async function addressesFor(trx: Trx, drops: readonly StoredRoute[]): Promise<(route: StoredRoute) => string> {
  const orders = new Map<number, Awaited<ReturnType<typeof loadOrder>>>();
  for (const { decided } of drops) if (!orders.has(decided.record.order_id)) orders.set(decided.record.order_id, await loadOrder(trx, decided.record.order_id));
  const own = drops.flatMap(({ part }) => part.shipTo ?? []);
  const rows = await trx
    .selectFrom('ship_to')
    .select(['id', 'customer_id', 'name as ship_name', 'street as ship_street', 'postcode as ship_postcode', 'town as ship_town', 'country as ship_country'])
    .where(anyOf('id', own))
    .execute();
  return ({ decided, part }) => {
    const order = orders.get(decided.record.order_id);
    if (!order) return '';
    if (part.shipTo === undefined) return shipToText(decided.record.ship_to_id === null ? order : decided.record);
    const row = rows.find((address) => address.id === part.shipTo && address.customer_id === order.customer_id);
    if (!row) throw invalid('body.parts.shipTo', `${part.shipTo} is no address of this customer`);
    return shipToText(row);
  };
}

/** Adds the lines that go instead. */
async function addSubstitutes(context: CommandContext, desk: RoutingDesk, routes: readonly StoredRoute[]): Promise<OrderLineRecord[]> {
  const { trx } = context;
  const ids: number[] = [];
  for (const { id: route, decided, part } of routes) {
    if (part.kind !== 'substitute') continue;
    const { ratio } = desk.substituteOf(decided.line, part.item!)!;
    const id = await insertSubstitute(context, decided.record, part.item!, part.quantity, ratio);
    await trx.updateTable('line_route').set({ new_line_id: id }).where('id', '=', route).execute();
    ids.push(id);
  }
  return loadOrderLinesById(trx, ids);
}

/** Promises all that can be promised of lines, each as surely as its customer or the desk wants. */
export async function promiseAnew(context: CommandContext, desk: RoutingDesk, lines: readonly OrderLineRecord[]): Promise<void> {
  const groups = new Map<number | null, OrderLineRecord[]>();
  for (const line of lines) {
    const sure = desk.sureFor(line.order_id);
    groups.set(sure, [...(groups.get(sure) ?? []), line]);
  }
  for (const [confidence, list] of groups) {
    const live = await loadBook(context.trx, context.now, { items: [...new Set(list.map((line) => line.item))], confidence });
    const { promises } = newPromises(
      live,
      list.map((line) => line.id),
    );
    await storePromises(context, promises);
  }
}

async function touchOrders({ trx, now }: CommandContext, decided: readonly Decided[]): Promise<void> {
  await trx
    .updateTable('sales_order')
    .set({ version: sql`version + 1`, saved_at: now.instant })
    .where(anyOf('id', [...new Set(decided.map(({ record }) => record.order_id))]))
    .execute();
}

/** An event for each order; what was made is told with the first. */
function happenings(decided: readonly Decided[], documents: readonly MadeDocument[], dealt: ReadonlyMap<number, readonly string[]>): Happening[] {
  const orders = new Map<number, Decided[]>();
  for (const row of decided) orders.set(row.record.order_id, [...(orders.get(row.record.order_id) ?? []), row]);
  const made = documents.length > 0 ? `; ${documents.map(({ kind, number }) => `${kind} ${number}`).join(', ')}` : '';
  return [...orders].map(([order, rows]) => ({
    what: `routed ${rows.map(({ record, choice }) => `line ${record.line_no} (${record.item}): ${[...choice.parts.map(partWords), ...(dealt.get(record.id) ?? [])].join(', ')}`).join('; ')}${made}`,
    after: rows.map(({ record, choice }) => ({ lineNo: record.line_no, parts: choice.parts })),
    subjects: [
      { kind: 'order', key: order },
      ...rows.map(({ record }) => ({ kind: 'item' as const, key: record.item })),
      ...documents.map(({ kind, id }) => ({ kind, key: id })),
    ],
  }));
}

export function partWords({ kind, quantity, supplier, warehouse, item, more }: RouteWish): string {
  const with_ = supplier ?? warehouse ?? item;
  return `${quantity} ${ROUTE_WORDS[kind]}${with_ === undefined ? '' : kind === 'substitute' ? ` ${with_}` : ` from ${with_}`}${more === undefined ? '' : `, ${more} more for stock`}`;
}
