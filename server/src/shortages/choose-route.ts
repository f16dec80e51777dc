import type { BodyOf } from '@nockwright/contract/shape';
import type { orderRoutes, OrderView } from '@nockwright/contract/orders';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import { cutLine } from '@nockwright/core/orders';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { loadOpenLine, loadOrder, loadOrderLines, lockOrder, orderLabel, readOrder, shipToText, touchOrder, type OrderLineRecord } from '../orders';
import { lockPools, promiseMore, storeRemains } from '../promise';
import { buyForLines } from '../supply';
import { loadOffers } from './read-routes';

type Choice = BodyOf<typeof orderRoutes.chooseRoute>;

const WORDS = { backorder: 'backorder', special_order: 'special order', drop_ship: 'drop ship' } as const;

/**
 * Routes a quantity (stocking units) of a line. On a draft the route is a plan, carried out on release. On a released
 * order it is carried out at once: what waits, or was promised for a later day, is bought instead.
 */
export async function chooseRoute(context: CommandContext, orderId: number, lineId: number, choice: Choice): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockOrder(trx, orderId);
  if (order.state !== 'draft' && order.state !== 'released') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}.`);
  const line = (await loadOrderLines(trx, orderId)).find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on this order`);
  await checkSupplier(context, line, choice);
  if (order.state === 'draft') await checkPlanned(context, line, choice);

  const { id } = await trx
    .insertInto('line_route')
    .values({
      line_id: lineId,
      kind: choice.kind,
      supplier: choice.kind === 'backorder' ? null : choice.supplier!,
      quantity: choice.quantity,
      purchase_line_id: null,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  const bought = order.state === 'released' ? await carryOut(context, orderId, line, choice, id) : [];
  await touchOrder(context, orderId);
  await recordEvent(context, {
    what: `routed ${choice.quantity} of line ${line.line_no} (${line.item}): ${WORDS[choice.kind]}${choice.supplier ? ` from ${choice.supplier}` : ''}${bought.map(({ number }) => `, purchase ${number}`).join('')}`,
    after: choice,
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'item', key: line.item },
      ...bought.map(({ purchaseId }) => ({ kind: 'purchase' as const, key: purchaseId })),
    ],
  });
  return readOrder(trx, now, orderId);
}

/** Takes back a route that has led to no purchase. */
export async function removeRoute(context: CommandContext, orderId: number, lineId: number, routeId: number): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockOrder(trx, orderId);
  if (order.state !== 'draft' && order.state !== 'released') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}.`);
  const route = await trx
    .selectFrom('line_route')
    .innerJoin('order_line', 'order_line.id', 'line_route.line_id')
    .select(['line_route.kind', 'line_route.quantity', 'line_route.purchase_line_id', 'order_line.line_no', 'order_line.item'])
    .where('line_route.id', '=', routeId)
    .where('line_route.line_id', '=', lineId)
    .where('order_line.order_id', '=', orderId)
    .executeTakeFirst();
  if (!route) throw notFound(`route ${routeId} on this line`);
  if (route.purchase_line_id !== null)
    throw new Refusal('conflict', 'This route has led to a purchase order. Cancel the quantity, or close the purchase line.');
  await trx.deleteFrom('line_route').where('id', '=', routeId).execute();
  await touchOrder(context, orderId);
  await recordEvent(context, {
    what: `took back the ${WORDS[route.kind]} of ${route.quantity} of line ${route.line_no}`,
    before: route,
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}

async function checkSupplier({ trx }: CommandContext, line: OrderLineRecord, choice: Choice) {
  if (choice.kind === 'backorder') {
    if (choice.supplier !== undefined) throw invalid('body.supplier', 'a backorder names no supplier');
    return;
  }
  const offers = (await loadOffers(trx, line.item)).filter((offer) => choice.kind === 'special_order' || offer.dropShips);
  const offer = offers.find((row) => row.supplier === choice.supplier);
  if (!offer)
    throw invalid(
      'body.supplier',
      `${choice.supplier ?? 'nobody'} cannot do this for ${line.item}; ${offers.length > 0 ? `possible: ${offers.map((row) => row.supplier).join(', ')}` : 'nobody can'}`,
    );
  if (choice.kind === 'drop_ship' && (compareDecimal(choice.quantity, offer.minimum) < 0 || !isMultiple(choice.quantity, offer.multiple))) {
    throw invalid('body.quantity', `${offer.name} ships at least ${offer.minimum}, in lots of ${offer.multiple}; got ${choice.quantity}`);
  }
}

function isMultiple(quantity: string, multiple: string) {
  const lots = Number(quantity) / Number(multiple);
  return Math.abs(lots - Math.round(lots)) < 1e-9;
}

/** The routes of a draft line cannot be for more than the line. */
async function checkPlanned({ trx }: CommandContext, line: OrderLineRecord, choice: Choice) {
  const planned = await trx.selectFrom('line_route').select('quantity').where('line_id', '=', line.id).execute();
  const free = minus(line.stock_quantity, sum(planned.map((row) => row.quantity)));
  if (compareDecimal(choice.quantity, free) > 0) throw invalid('body.quantity', `${choice.quantity} is more than the ${free} of this line without a route`);
}

async function carryOut(context: CommandContext, orderId: number, line: OrderLineRecord, choice: Choice, routeId: number) {
  const { trx } = context;
  if (choice.kind === 'backorder') {
    const { waiting } = await loadOpenLine(trx, line);
    if (compareDecimal(choice.quantity, waiting) > 0) throw invalid('body.quantity', `${choice.quantity} is more than the ${waiting} that wait on this line`);
    return [];
  }
  await lockPools(trx, [line]);
  const fresh = (await loadOrderLines(trx, orderId)).find((row) => row.id === line.id)!;
  const open = await loadOpenLine(trx, fresh);
  const buyable = { ...open, picks: [], dropShipments: [], promises: withoutPicked(open) };
  const result = cutLine(buyable, choice.quantity);
  if (!result.ok) throw invalid('body.quantity', `${choice.quantity} is more than the ${result.most} of this line that can still be routed`);
  const had = new Map(open.promises.map((entry) => [entry.day, entry.quantity]));
  await storeRemains(
    trx,
    line.id,
    result.cut.promises.map(({ day, cut }) => ({ day, remains: minus(had.get(day)!, cut) })),
  );
  await trx.deleteFrom('line_route').where('line_id', '=', line.id).where('kind', '=', 'backorder').execute();
  const order = await loadOrder(trx, orderId);
  const shipTo = shipToText(fresh.ship_to_id === null ? order : fresh);
  const bought = await buyForLines(context, { id: orderId }, [
    { route: routeId, line: fresh, shipTo, kind: choice.kind, supplier: choice.supplier!, quantity: choice.quantity },
  ]);
  await promiseMore(context, fresh);
  return bought;
}

/** What is promised and not being picked, by day: picks take the earliest promises. */
function withoutPicked(open: Awaited<ReturnType<typeof loadOpenLine>>) {
  let picked = sum(open.picks.map((pick) => pick.quantity));
  return open.promises.flatMap(({ day, quantity }) => {
    const taken = compareDecimal(picked, quantity) < 0 ? picked : quantity;
    picked = minus(picked, taken);
    const rest = minus(quantity, taken);
    return compareDecimal(rest, '0') > 0 ? [{ day, quantity: plus(rest, '0') }] : [];
  });
}
