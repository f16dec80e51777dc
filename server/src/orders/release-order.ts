import type { OrderView } from '@nockwright/contract/orders';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import type { Now } from '../clock';
import { anyOf, type Trx } from '../database';
import { storePaper } from '../documents';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { nextNumber } from '../numbers';
import { lockContractLines } from '../pricing';
import { loadBook, lockPools, lockPurchases, newPromises, storePromises } from '../promise';
import { loadDraftDropShipments, loadDrafts, loadRecipes, makeForRoutes } from '../supply';
import type { CreditFacts } from '@nockwright/core/credit';
import { lockCredit } from '../customers';
import { loadHolds } from './load-holds';
import { forgetHolds, neededCreditHold, neededFloorHold, placeHolds, type NeededHold } from './holds';
import { loadLineFacts, loadOrder, loadOrderLines, type LineFacts, type OrderLineRecord } from './load-order';
import { lockDraft, touchOrder } from './lock-order';
import { checkPrices } from './check-prices';
import { checkSeen, type SeenLine } from './check-seen';
import { loadPapers } from './load-papers';
import { readOrder } from './read-order';
import { shipToText } from './ship-to-text';

/**
 * Releases a draft: gives it its number, makes the purchases its routes need and commits its goods, all or nothing.
 * The promise is computed again under lock; where it is no longer what the coordinator saw, nothing is done and the
 * difference is told. What has no cover needs a route.
 */
export async function releaseOrder(context: CommandContext, orderId: number, version: number, seen: readonly SeenLine[]): Promise<OrderView> {
  const { trx, now } = context;
  const draft = await lockDraft(trx, orderId, version);
  if (draft.kind === 'quote') throw new Refusal('conflict', 'A quote is sent, and accepted by the customer; then its order is released.');
  await checkSoldTo(trx, draft.customer_id);
  const lines = await loadOrderLines(trx, orderId);
  if (lines.length === 0) throw invalid('body', 'the order has no lines');
  const credit = await lockCredit(trx, draft.customer_id, now.today);
  await lockContractLines(
    trx,
    lines.map((line) => line.contract_line_id),
  );
  await checkPrices(trx, draft, lines, now.today);
  await forgetHolds(context, orderId);
  const held = await neededHolds(trx, now, draft, lines, credit);
  if (held.length > 0) {
    await placeHolds(context, orderId, held);
    return readOrder(trx, now, orderId);
  }
  const facts = await loadLineFacts(
    trx,
    lines.map((line) => line.id),
  );
  await lockDraftsOf(trx, orderId, facts);
  await lockPools(trx, [...lines, ...(await poolsOfPlans(trx, lines, facts))]);

  const live = await loadBook(trx, now, { items: lines.map((line) => line.item), draft: orderId });
  const { promises, uncovered } = newPromises(
    live,
    lines.map((line) => line.id),
  );
  await checkSeen(trx, { id: orderId, savedAt: draft.saved_at }, lines, seen, promises, uncovered, now.today);
  checkRouted(lines, facts, uncovered);

  const number = await nextNumber(trx, 'order', draft.source);
  await trx.updateTable('sales_order').set({ number, state: 'released', entered: now.localTime }).where('id', '=', orderId).execute();
  const order = await loadOrder(trx, orderId);
  const addresses = await loadAddresses(trx, facts);
  const made = await makeForRoutes(
    context,
    facts.routes.map((route) => {
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
  await storePromises(context, promises);
  await touchOrder(context, orderId);

  const view = await readOrder(trx, now, orderId);
  await storePaper(context, 'acknowledgement', view);
  await recordEvent(context, {
    what: `released order ${number}${made.map(({ kind, number: name }) => `, ${kind} ${name} made`).join('')}`,
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
      { kind: 'order', key: orderId },
      { kind: 'customer', key: order.customer_id },
      ...lines.map((line) => ({ kind: 'item' as const, key: line.item })),
      ...made.map(({ kind, id }) => ({ kind, key: id })),
    ],
  });
  return { ...view, papers: await loadPapers(trx, orderId) };
}

/** A prospect is quoted, not sold to. */
async function checkSoldTo(trx: Trx, customer: number): Promise<void> {
  const { name, prospect } = await trx.selectFrom('customer').select(['name', 'prospect']).where('id', '=', customer).executeTakeFirstOrThrow();
  if (prospect) throw new Refusal('conflict', `${name} is a prospect: make them a customer first.`);
}

/** Why the order has to wait for someone; those that were let go already do not count. */
async function neededHolds(
  trx: Trx,
  now: Now,
  order: { readonly id: number; readonly currency: string },
  lines: readonly OrderLineRecord[],
  credit: CreditFacts,
): Promise<NeededHold[]> {
  const open = (await loadHolds(trx, order.id)).find((hold) => hold.kind === 'customer' && hold.cleared_at === null);
  if (open) throw new Refusal('conflict', `It waits for the customer: ${open.why}. Clear that first.`);
  const floor = await neededFloorHold(trx, now, order, lines);
  const owing = await neededCreditHold(trx, order, lines, credit, now.today);
  return [floor, owing].filter((hold) => hold !== null);
}

/** Locks the draft purchases that planned purchases would join: whoever sends one locks it before its pools, too. */
async function lockDraftsOf(trx: Trx, orderId: number, { routes }: LineFacts): Promise<void> {
  const suppliers = [...new Set(routes.flatMap((route) => (route.purchase_line_id === null ? (route.supplier ?? []) : [])))];
  if (suppliers.length === 0) return;
  const drafts = [...(await loadDrafts(trx, suppliers)).values(), ...(await loadDraftDropShipments(trx, [orderId]))];
  await lockPurchases(
    trx,
    drafts.map((draft) => draft.id),
  );
}

/** The pools that planned transfers and assemblies take from. */
async function poolsOfPlans(trx: Trx, lines: readonly OrderLineRecord[], { routes }: LineFacts): Promise<{ item: string; warehouse: string }[]> {
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

/** What no supply covers must have a way: waiting is one too, if it is chosen. */
function checkRouted(lines: readonly OrderLineRecord[], facts: LineFacts, uncovered: ReadonlyMap<number, string>) {
  const errors = lines.flatMap((line) => {
    const routed = (kind: string) => sum(facts.routes.filter((route) => route.line_id === line.id && route.kind === kind).map((route) => route.quantity));
    const short = uncovered.get(line.id) ?? '0';
    // A line that must leave whole is short as a whole, what will be bought for it included.
    const brought = sum(['special_order', 'transfer', 'assemble'].map(routed));
    const bought = compareDecimal(plus(short, brought), line.stock_quantity) > 0 ? brought : '0';
    const open = minus(minus(short, routed('backorder')), bought);
    return compareDecimal(open, '0') > 0
      ? [{ field: `lines[${line.line_no - 1}].routes`, message: `line ${line.line_no}, ${line.item}: ${open} have no cover and no route` }]
      : [];
  });
  if (errors.length > 0) throw new Refusal('invalid', `${errors.map((error) => error.message).join('. ')}. Choose a route, or let it wait.`, errors);
}
