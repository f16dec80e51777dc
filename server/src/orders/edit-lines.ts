import type { OrderView } from '@nockwright/contract/orders';
import { sql } from 'kysely';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { changedSince, invalid, notFound } from '../http/refusal';
import { checkPlace } from './check-place';
import { draftedLine } from './draft-line';
import { lockDraft, touchOrder } from './lock-order';
import { readOrder } from './read-order';

export interface LineChange {
  readonly unit?: string;
  readonly quantity?: string;
  readonly requestedDay?: string | null;
  readonly warehouse?: string;
  readonly note?: string;
}

const MOST_LINES = 500;

/** Adds a line at the end of a draft. */
export async function addLine(
  context: CommandContext,
  orderId: number,
  wish: LineChange & { readonly item: string; readonly quantity: string },
): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockDraft(trx, orderId);
  const line = await draftedLine(trx, wish, await priceListOf(context, order.customer_id));
  await checkPlace(trx, 'body', wish, now.today);
  const { lines } = await trx
    .selectFrom('order_line')
    .select(({ fn }) => fn.countAll<number>().as('lines'))
    .where('order_id', '=', orderId)
    .executeTakeFirstOrThrow();
  if (lines >= MOST_LINES) throw invalid('body', `an order has at most ${MOST_LINES} lines`);
  const lineNo = Number(lines) + 1;
  await trx
    .insertInto('order_line')
    .values({
      ...storedFields(line),
      order_id: orderId,
      line_no: lineNo,
      item: line.item,
      warehouse: wish.warehouse ?? order.warehouse,
      requested_day: wish.requestedDay ?? null,
      note: wish.note ?? '',
    })
    .execute();
  await touchOrder(context, orderId);
  await recordEvent(context, {
    what: `added line ${lineNo}: ${line.quantity} ${line.unit} ${line.item}`,
    after: { ...line },
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}

/** Changes a line of a draft; its price is looked up anew. */
export async function changeLine(context: CommandContext, orderId: number, lineId: number, version: number, change: LineChange): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockDraft(trx, orderId);
  const line = await trx.selectFrom('order_line').selectAll().where('id', '=', lineId).where('order_id', '=', orderId).executeTakeFirst();
  if (!line) throw notFound(`line ${lineId} on this order`);
  if (order.version !== version) throw changedSince(`Draft ${orderId}`, version, order.version);
  await checkPlace(trx, 'body', change, now.today);
  const wish = { item: line.item, unit: change.unit ?? line.unit, quantity: change.quantity ?? line.quantity };
  const drafted = await draftedLine(trx, wish, await priceListOf(context, order.customer_id));
  await trx
    .updateTable('order_line')
    .set({
      ...storedFields(drafted),
      warehouse: change.warehouse ?? line.warehouse,
      requested_day: change.requestedDay === undefined ? line.requested_day : change.requestedDay,
      note: change.note ?? line.note,
    })
    .where('id', '=', lineId)
    .execute();
  // What was routed was routed for the quantity before.
  if (drafted.stock_quantity !== line.stock_quantity) await trx.deleteFrom('line_route').where('line_id', '=', lineId).execute();
  await touchOrder(context, orderId);
  await recordEvent(context, {
    what: `changed line ${line.line_no}`,
    before: { quantity: line.quantity, unit: line.unit, warehouse: line.warehouse, requestedDay: line.requested_day, price: line.price },
    after: { ...change, price: drafted.price },
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}

/** Takes a line off a draft; those below move up. */
export async function removeLine(context: CommandContext, orderId: number, lineId: number): Promise<OrderView> {
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
    what: `took line ${line.line_no} off: ${line.quantity} ${line.unit} ${line.item}`,
    before: line,
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}

async function priceListOf({ trx }: CommandContext, customerId: number) {
  return (await trx.selectFrom('customer').select('price_list').where('id', '=', customerId).executeTakeFirstOrThrow()).price_list;
}

function storedFields(line: Awaited<ReturnType<typeof draftedLine>>) {
  const { unit, numerator, denominator, quantity, stock_quantity, price, price_source, price_trail } = line;
  return { unit, numerator, denominator, quantity, stock_quantity, price, price_source, price_trail: JSON.stringify(price_trail) };
}
