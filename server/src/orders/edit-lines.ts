import type { LineId, OrderId } from '@nockwright/core/ids';
import type { orderRoutes, OrderView } from '@nockwright/contract/orders';
import type { BodyOf } from '@nockwright/contract/shape';
import { compareDecimal } from '@nockwright/core/money';
import { alternativeFault, type NewLineWish } from '@nockwright/core/orders';
import { inUnit } from '@nockwright/core/pricing';
import { sql, type Selectable } from 'kysely';
import { recordEvent } from '../events';
import type { Database, Trx } from '../database';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { checkCollisions } from './check-collisions';
import { checkPlace } from './check-place';
import { draftedLine, loadContractUse } from './draft-line';
import { lockDraft, touchOrder } from './lock-order';
import { readOrder } from './read-order';

type LineChange = Partial<Omit<NewLineWish, 'item'>>;

/** Changes a line of a draft. The price agreed stands, per unit: another that is looked up now stands beside it until it is accepted. */
export async function changeLine(
  context: CommandContext,
  orderId: OrderId,
  lineId: LineId,
  { version, seen, ...change }: BodyOf<typeof orderRoutes.changeLine>,
): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockDraft(trx, orderId);
  const line = await trx.selectFrom('order_line').selectAll().where('id', '=', lineId).where('order_id', '=', orderId).executeTakeFirst();
  if (!line) throw notFound(`line ${lineId} on this order`);
  await checkCollisions(trx, order, lineFields(line), { version, ...(seen ? { seen } : {}), ...change });
  await checkPlace(trx, 'body', change, now.today);
  await checkAlternative(trx, order, change, lineId);
  await checkShipTo(trx, order.customer_id, change.shipTo);
  const shipTo = change.shipTo === undefined ? line.ship_to_id : change.shipTo;
  const wish = { item: line.item, unit: change.unit ?? line.unit, quantity: change.quantity ?? line.quantity };
  const before = (await loadContractUse(trx, orderId)).filter((row) => row.lineNo < line.line_no);
  const { unit, ratio, quantity, stockQuantity } = await draftedLine(trx, { ...order, ship_to_id: shipTo ?? order.ship_to_id }, wish, before, now.today);
  const price = inUnit(line.price, line, ratio);
  await trx
    .updateTable('order_line')
    .set({
      unit,
      ...ratio,
      quantity,
      stock_quantity: stockQuantity,
      price,
      price_pin: line.price_pin?.kind === 'manual' ? JSON.stringify({ ...line.price_pin, price }) : line.price_pin && JSON.stringify(line.price_pin),
      warehouse: change.warehouse ?? line.warehouse,
      requested_day: change.requestedDay === undefined ? line.requested_day : change.requestedDay,
      note: change.note ?? line.note,
      ship_to_id: shipTo === order.ship_to_id ? null : shipTo,
      alternative: change.alternative ?? line.alternative,
      alternative_to: change.alternative === false ? null : change.alternativeTo === undefined ? line.alternative_to : change.alternativeTo,
    })
    .where('id', '=', lineId)
    .execute();
  // What was routed was routed for the quantity before.
  if (compareDecimal(stockQuantity, line.stock_quantity) !== 0) await trx.deleteFrom('line_route').where('line_id', '=', lineId).execute();
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'line.changed',
    facts: { lineNo: line.line_no },
    before: { quantity: line.quantity, unit: line.unit, warehouse: line.warehouse, requestedDay: line.requested_day, price: line.price },
    after: { ...change, price },
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}

/** A line as the wire names its fields. */
function lineFields(line: Selectable<Database['order_line']>) {
  return {
    unit: line.unit,
    quantity: line.quantity,
    requestedDay: line.requested_day,
    warehouse: line.warehouse,
    note: line.note,
    shipTo: line.ship_to_id,
    alternative: line.alternative,
    alternativeTo: line.alternative_to,
  };
}

async function checkShipTo(trx: Trx, customer: number, shipTo: number | null | undefined): Promise<void> {
  if (!shipTo) return;
  const known = await trx.selectFrom('ship_to').select('id').where('id', '=', shipTo).where('customer_id', '=', customer).executeTakeFirst();
  if (!known) throw invalid('body.shipTo', `${shipTo} is no address of this customer`);
}

/** Refuses what a line cannot be an alternative to. */
async function checkAlternative(
  trx: Trx,
  order: { readonly id: number; readonly kind: 'order' | 'quote' },
  change: Pick<LineChange, 'alternative' | 'alternativeTo'>,
  lineId: LineId,
): Promise<void> {
  if (change.alternative === undefined && change.alternativeTo === undefined) return;
  const rows = await trx
    .selectFrom('order_line')
    .select(['id', 'line_no as lineNo', 'alternative', 'alternative_to'])
    .where('order_id', '=', order.id)
    .execute();
  const fault = alternativeFault({ kind: order.kind, lines: rows }, change, lineId);
  if (fault) throw invalid(`body.${fault.field}`, fault.message);
  const instead = change.alternative ? rows.find((row) => row.alternative_to === lineId) : undefined;
  if (instead) throw invalid('body.alternative', `line ${instead.lineNo} is the alternative to this one`);
}

/** Puts a line of a draft at another place; those between move over. Contracts are asked in the new sequence from then on. */
export async function moveLine(context: CommandContext, orderId: OrderId, lineId: LineId, to: number): Promise<OrderView> {
  const { trx, now } = context;
  await lockDraft(trx, orderId);
  const lines = await trx.selectFrom('order_line').select(['id', 'line_no', 'item']).where('order_id', '=', orderId).orderBy('line_no').execute();
  const line = lines.find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on this order`);
  if (to > lines.length) throw invalid('body.to', `expected 1 to ${lines.length}, got ${to}`);
  const rest = lines.filter((row) => row !== line);
  const sequence = [...rest.slice(0, to - 1), line, ...rest.slice(to - 1)];
  // Line numbers are unique at the end of the transaction only.
  await sql`set constraints order_line_order_id_line_no_key deferred`.execute(trx);
  for (const [at, row] of sequence.entries())
    if (row.line_no !== at + 1)
      await trx
        .updateTable('order_line')
        .set({ line_no: at + 1 })
        .where('id', '=', row.id)
        .execute();
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'line.moved',
    facts: { lineNo: line.line_no, item: line.item, to },
    before: { lineNo: line.line_no },
    after: { lineNo: to },
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}

/** Takes a line off a draft; those below move up. */
export async function removeLine(context: CommandContext, orderId: OrderId, lineId: LineId): Promise<OrderView> {
  const { trx, now } = context;
  await lockDraft(trx, orderId);
  const line = await trx
    .deleteFrom('order_line')
    .where('id', '=', lineId)
    .where('order_id', '=', orderId)
    .returning(['line_no', 'item', 'quantity', 'unit'])
    .executeTakeFirst();
  if (!line) throw notFound(`line ${lineId} on this order`);
  await trx
    .updateTable('order_line')
    .set({ line_no: sql`line_no - 1` })
    .where('order_id', '=', orderId)
    .where('line_no', '>', line.line_no)
    .execute();
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'line.removed',
    facts: { lineNo: line.line_no, item: line.item, quantity: line.quantity, unit: line.unit },
    before: line,
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}
