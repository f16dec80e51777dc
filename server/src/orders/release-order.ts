import type { ItemCode, OrderId, WarehouseCode } from '@nockwright/core/ids';
import { takeLocks } from '../locks';
import type { OrderView } from '@nockwright/contract/orders';
import type { FieldFault } from '@nockwright/contract/shape';
import { decideRelease, type Release, type ReleaseFacts, type SeenLine } from '@nockwright/core/orders';
import { promiseBook } from '@nockwright/core/promise';
import type { Selectable } from 'kysely';
import { readCredit } from '../customers';
import { anyOf, keepPlans, together, type Database, type Db, type Trx } from '../database';
import { storePaper } from '../documents';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { nextNumber } from '../numbers';

import { loadBook, newPromises, storePromises, type NewPromise } from '../promise';
import { loadDraftDropShipments, loadDrafts, loadRecipes, makeForRoutes, type MadeDocument } from '../supply';
import { otherPrices, pricesChanged } from './check-prices';
import { hasChanged } from './check-seen';
import { floorMargin } from './floor-margin';
import { approvalsIn, creditHoldOf, floorHoldOf, judgeByHand, type NeededHold } from './holds';
import { placeHolds, forgetHolds } from './store-holds';
import { loadHolds } from './load-holds';
import { loadLineFacts, loadOrder, loadOrderLines, type LineFacts, type OrderLineRecord } from './load-order';
import { lockDraft } from './lock-order';
import { lookUpPrices } from './look-up-prices';
import { readOrder } from './read-order';
import { shipToText } from './ship-to-text';

type Draft = Selectable<Database['sales_order']>;

/**
 * Releases a draft: gives it its number, makes the purchases its routes need and commits its goods, all or nothing.
 * The promise is computed again under lock; where it is no longer what the coordinator saw, nothing is done and the
 * difference is told. What has no cover needs a route.
 */
export function releaseOrder(context: CommandContext, orderId: OrderId, version: number, seen: readonly SeenLine[]): Promise<OrderView> {
  return keepPlans(context.trx, async () => {
    const { trx, now } = context;
    const draft = await lockDraft(trx, orderId, version);
    const known = await lockReach(context, draft);
    const facts = await loadFacts(trx, now, draft, known);
    const decision = decideRelease(facts.decided, seen, now.today);
    if (decision.does !== 'release' && decision.does !== 'hold') throw await refusalOf(trx, draft, decision, facts.priceFaults);
    if (facts.openHolds) await forgetHolds(context, orderId);
    if (decision.does === 'hold') {
      await placeHolds(context, orderId, facts.holds);
      return readOrder(trx, now, orderId);
    }
    return store(context, draft, known, facts.promises);
  });
}

interface Known {
  readonly lines: readonly OrderLineRecord[];
  readonly own: LineFacts;
}

/** Locks all that the release will touch, in the one lock order; the order is locked already, so its lines stand. */
async function lockReach({ trx }: CommandContext, draft: Draft): Promise<Known> {
  const known = await together(trx, async (db) => {
    const lines = await loadOrderLines(db, draft.id);
    const ids = lines.map((line) => line.id);
    return { lines, own: await loadLineFacts(db, ids) };
  });
  const { lines, own } = known;
  await takeLocks(trx, {
    customers: [draft.customer_id],
    contractLines: lines.map((line) => line.contract_line_id),
    purchases: await draftsOf(trx, draft.id, own),
    pools: [...lines, ...(await poolsOfPlans(trx, lines, own))],
  });
  return known;
}

/** What decides about the release, and what it would promise. */
async function loadFacts(trx: Trx, now: CommandContext['now'], draft: Draft, { lines, own }: Known) {
  const found = await together(trx, (db) => readFacts(db, now, draft, lines));
  const { customer, credit, prices, holds, floor, live } = found;
  const priceFaults = otherPrices(lines, prices, customer.must_name_contract && draft.contract_id === null);
  const { promises, uncovered } = newPromises(
    live,
    lines.map((line) => line.id),
  );
  const byHand = lines.some((line) => line.price_pin?.kind === 'manual');
  const promiseOf = new Map(byHand ? promiseBook(live.book).promises.map((promise) => [promise.id, promise]) : []);
  const sold = judgeByHand(lines, { floor, live, promiseOf, routes: own.routes, currency: draft.currency });
  const needed = [floorHoldOf(sold, approvalsIn(holds), floor), creditHoldOf(draft, lines, credit, holds, now.today)];
  const held: NeededHold[] = needed.filter((hold) => hold !== null);
  const decided: ReleaseFacts = {
    kind: draft.kind,
    customer,
    otherPrices: priceFaults.length > 0,
    waitsFor: holds.find((hold) => hold.kind === 'customer' && hold.cleared_at === null)?.why ?? null,
    lines: lines.map((line) => ({
      id: line.id,
      lineNo: line.line_no,
      item: line.item,
      stockQuantity: line.stock_quantity,
      promised: promises.filter((row) => row.lineId === line.id),
      uncovered: uncovered.get(line.id) ?? '0',
      routes: own.routes.filter((route) => route.line_id === line.id),
    })),
    holds: held.length,
  };
  return { decided, promises, priceFaults, holds: held, openHolds: holds.some((hold) => hold.kind !== 'customer' && hold.cleared_at === null) };
}

async function readFacts(db: Db, now: CommandContext['now'], draft: Draft, lines: readonly OrderLineRecord[]) {
  const [customer, credit, prices, holds, floor, live] = await Promise.all([
    db.selectFrom('customer').select(['name', 'prospect', 'must_name_contract']).where('id', '=', draft.customer_id).executeTakeFirstOrThrow(),
    readCredit(db, draft.customer_id, now.today),
    lookUpPrices(db, draft, lines, now.today),
    loadHolds(db, draft.id),
    floorMargin(db),
    loadBook(db, now, { items: lines.map((line) => line.item), draft: draft.id }),
  ]);
  return { customer, credit, prices, holds, floor, live };
}

async function refusalOf(trx: Trx, draft: Draft, decision: Exclude<Release, { does: 'release' | 'hold' }>, prices: readonly FieldFault[]): Promise<Refusal> {
  switch (decision.does) {
    case 'refuse':
      return new Refusal('conflict', decision.why);
    case 'refuse_empty':
      return invalid('body', 'the order has no lines');
    case 'tell_prices':
      return pricesChanged(prices);
    case 'tell_changes':
      return hasChanged(trx, { id: draft.id, savedAt: draft.saved_at }, decision.lines);
    case 'ask_routes': {
      const errors = decision.lines.map(({ lineNo, item, open }) => ({
        field: `lines[${lineNo - 1}].routes`,
        message: `line ${lineNo}, ${item}: ${open} are backordered and have no route`,
      }));
      return new Refusal('invalid', `${errors.map((error) => error.message).join('. ')}. Choose a route, or let it wait.`, errors);
    }
  }
}

/** Numbers the order, makes what its routes need, commits its promises, and keeps what is told of it. */
async function store(context: CommandContext, draft: Draft, { lines, own }: Known, promises: readonly NewPromise[]): Promise<OrderView> {
  const { trx, now } = context;
  const number = await nextNumber(trx, 'order', draft.source);
  await trx
    .updateTable('sales_order')
    .set({ number, state: 'released', entered: now.localTime, version: draft.version + 1, saved_at: now.instant })
    .where('id', '=', draft.id)
    .execute();
  const made = own.routes.length === 0 ? [] : await makeRoutes(context, draft.id, lines, own);
  await storePromises(context, promises);
  const view = await readOrder(trx, now, draft.id);
  const paper = await storePaper(context, 'acknowledgement', view);
  await recordEvent(context, {
    kind: 'order.released',
    facts: { number, made: made.map(({ kind, number: name }) => ({ kind, number: name })) },
    after: {
      lines: view.lines.map((line) => ({
        lineNo: line.lineNo,
        item: line.item,
        quantity: line.stockQuantity,
        promised: line.schedule.map(({ day, quantity }) => ({ day, quantity })),
        waiting: line.waiting,
      })),
    },
    subjects: [
      { kind: 'order', key: draft.id },
      { kind: 'customer', key: draft.customer_id },
      ...lines.map((line) => ({ kind: 'item' as const, key: line.item })),
      ...made.map(({ kind, id }) => ({ kind, key: id })),
    ],
  });
  return { ...view, papers: [{ id: paper, kind: 'acknowledgement', at: now.instant.toISOString(), mails: [] }, ...view.papers] };
}

/** Makes the purchases, transfers and assemblies that the routes of a draft plan. */
async function makeRoutes(context: CommandContext, orderId: OrderId, lines: readonly OrderLineRecord[], own: LineFacts): Promise<readonly MadeDocument[]> {
  const order = await loadOrder(context.trx, orderId);
  const addresses = await loadAddresses(context.trx, own);
  return makeForRoutes(
    context,
    own.routes.map((route) => {
      const line = lines.find((row) => row.id === route.line_id)!;
      const address = route.ship_to_id === null ? (line.ship_to_id === null ? order : line) : addresses.get(route.ship_to_id)!;
      return {
        id: route.id,
        order: orderId,
        line,
        kind: route.kind,
        supplier: route.supplier,
        warehouse: route.warehouse,
        quantity: route.quantity,
        more: route.more,
        shipTo: shipToText(address),
      };
    }),
  );
}

/** The draft purchases that planned purchases would join. */
async function draftsOf(trx: Trx, orderId: OrderId, { routes }: LineFacts): Promise<number[]> {
  const suppliers = [...new Set(routes.flatMap((route) => (route.purchase_line_id === null ? (route.supplier ?? []) : [])))];
  if (suppliers.length === 0) return [];
  const drafts = [...(await loadDrafts(trx, suppliers)).values(), ...(await loadDraftDropShipments(trx, [orderId]))];
  return drafts.map((draft) => draft.id);
}

/** The pools that planned transfers and assemblies take from. */
async function poolsOfPlans(trx: Trx, lines: readonly OrderLineRecord[], { routes }: LineFacts): Promise<{ item: ItemCode; warehouse: WarehouseCode }[]> {
  const lineOf = (id: number) => lines.find((line) => line.id === id)!;
  const moved = routes.flatMap((route) => (route.kind === 'transfer' ? [{ item: lineOf(route.line_id).item, warehouse: route.warehouse! }] : []));
  const assembled = routes.filter((route) => route.kind === 'assemble').map((route) => lineOf(route.line_id));
  const recipes = await loadRecipes(trx, [...new Set(assembled.map((line) => line.item))]);
  const parts = [...recipes].flatMap(([item, recipe]) => [item, ...recipe.components.map((row) => row.item)]);
  return [...moved, ...assembled.flatMap(({ warehouse }) => parts.map((item) => ({ item, warehouse })))];
}

/** Addresses that drop shipments go to, where those are their own. */
async function loadAddresses(trx: Trx, { routes }: LineFacts) {
  const rows = await trx
    .selectFrom('ship_to')
    .select(['id', 'name as ship_name', 'street as ship_street', 'postcode as ship_postcode', 'town as ship_town', 'country as ship_country'])
    .where(
      anyOf(
        'id',
        routes.flatMap((route) => route.ship_to_id ?? []),
      ),
    )
    .execute();
  return new Map(rows.map((row) => [row.id, row]));
}
