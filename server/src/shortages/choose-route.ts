import type { OrderView } from '@nockwright/contract/orders';
import type { RouteWish } from '@nockwright/contract/shortages';
import { compareDecimal, divide, minus, sum, times } from '@nockwright/core/money';
import { chosenRoute } from '@nockwright/core/shortages';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { changeLine, loadOrderLines, lockOrder, orderLabel, readOrder, removeLine, touchOrder, type OrderLineRecord } from '../orders';
import { insertSubstitute } from './insert-substitute';
import { afterAgreed, partWords, routeColumns, routeLines } from './route-lines';
import { RoutingDesk } from './routing-desk';

/**
 * Routes a quantity (stocking units) of a line over up to three ways. On a draft a route is a plan, carried out on
 * release; what is cut or replaced there is changed at once. On a released order all is carried out at once.
 * `agreed`: the customer has said yes to it, and need not be told. `by`: the day they said yes to.
 */
export async function chooseRoute(
  context: CommandContext,
  orderId: number,
  lineId: number,
  { parts, agreed = false, by }: { readonly parts: readonly RouteWish[]; readonly agreed?: boolean; readonly by?: string },
): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockOrder(trx, orderId);
  if (order.state !== 'draft' && order.state !== 'released') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}.`);
  const line = (await loadOrderLines(trx, orderId)).find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on this order`);
  if (order.state === 'draft') await plan(context, orderId, line, parts, by);
  else {
    const { left } = await routeLines(context, [{ line: lineId, parts, ...(by ? { by } : {}) }], [], undefined, agreed);
    if (left.length > 0) throw invalid('body.parts', left[0]!.why);
  }
  return readOrder(trx, now, orderId);
}

/** Plans ways for a line of a draft; for no more than the line. */
async function plan(context: CommandContext, orderId: number, line: OrderLineRecord, parts: readonly RouteWish[], by?: string): Promise<void> {
  const { trx, now } = context;
  const planned = await trx.selectFrom('line_route').select('quantity').where('line_id', '=', line.id).execute();
  const free = minus(line.stock_quantity, sum(planned.map((row) => row.quantity)));
  const wanted = sum(parts.map((part) => part.quantity));
  if (compareDecimal(wanted, free) > 0) throw invalid('body.parts', `${wanted} is more than the ${free} of this line without a route`);
  const desk = await RoutingDesk.load(trx, now, [line.id]);
  const routed = desk.lines.get(line.id)!;
  const found = chosenRoute({ ...desk.shortageOf(routed, wanted), mayWait: true }, parts, desk.policyOf(routed).policy);
  if (!found.ok) throw invalid(`body.parts[${found.at}].${found.field}`, found.why);
  const late = afterAgreed(found.route, by, now.today);
  if (late !== null) throw invalid('body.parts', late);
  for (const [at, part] of parts.entries()) {
    await checkAddress(context, orderId, part, at);
    if (part.kind === 'cut' || part.kind === 'substitute') continue;
    await trx
      .insertInto('line_route')
      .values({
        line_id: line.id,
        ...routeColumns(part),
        unit_cost: found.route.parts[at]!.unitCost,
        work_days: part.kind === 'assemble' ? desk.assemblyDays(routed, part.quantity) : null,
      })
      .execute();
  }
  await touchOrder(context, orderId);
  await recordEvent(context, {
    what: `planned for line ${line.line_no} (${line.item}): ${parts.map(partWords).join(', ')}`,
    after: parts,
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'item', key: line.item },
    ],
  });
  await takeOffDraft(context, desk, orderId, line, parts);
}

/** What is cut of a draft, or goes as another item, is no longer ordered. */
async function takeOffDraft(context: CommandContext, desk: RoutingDesk, orderId: number, line: OrderLineRecord, parts: readonly RouteWish[]): Promise<void> {
  const { trx } = context;
  const off = parts.filter((part) => part.kind === 'cut' || part.kind === 'substitute');
  if (off.length === 0) return;
  const rest = minus(line.stock_quantity, sum(off.map((part) => part.quantity)));
  const whole = compareDecimal(rest, '0') === 0;
  for (const part of off)
    if (part.kind === 'substitute') {
      const { ratio } = desk.substituteOf(desk.lines.get(line.id)!, part.item!)!;
      await insertSubstitute(context, line, part.item!, part.quantity, ratio, whole ? null : line.id);
    }
  if (whole) {
    await removeLine(context, orderId, line.id);
    return;
  }
  const quantity = divide(times(rest, line.denominator), line.numerator, 4);
  if (compareDecimal(times(quantity, line.numerator), times(rest, line.denominator)) !== 0)
    throw invalid('body.parts', `${rest} ${line.stock_unit} are no exact number of ${line.unit}: cut another quantity, or change the unit of the line`);
  const kept = await trx.selectFrom('line_route').selectAll().where('line_id', '=', line.id).execute();
  const { version } = await trx.selectFrom('sales_order').select('version').where('id', '=', orderId).executeTakeFirstOrThrow();
  await changeLine(context, orderId, line.id, { version, quantity });
  // The line is for less; what was routed of it stays as it was.
  for (const { id: _, told_before: told, ...row } of kept)
    await trx
      .insertInto('line_route')
      .values({ ...row, told_before: told && JSON.stringify(told) })
      .execute();
}

/** A drop shipment may go to another address of the same customer. */
async function checkAddress({ trx }: CommandContext, orderId: number, part: RouteWish, at: number): Promise<void> {
  if (part.shipTo === undefined) return;
  if (part.kind !== 'drop_ship') throw invalid(`body.parts[${at}].shipTo`, 'only a drop shipment goes to an address of its own');
  const known = await trx
    .selectFrom('ship_to')
    .innerJoin('sales_order', 'sales_order.customer_id', 'ship_to.customer_id')
    .select('ship_to.id')
    .where('sales_order.id', '=', orderId)
    .where('ship_to.id', '=', part.shipTo)
    .executeTakeFirst();
  if (!known) throw invalid(`body.parts[${at}].shipTo`, `${part.shipTo} is no address of this customer`);
}
