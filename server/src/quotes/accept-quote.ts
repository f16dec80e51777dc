import type { OrderId } from '@nockwright/core/ids';
import type { OrderView } from '@nockwright/contract/orders';
import type { quoteRoutes } from '@nockwright/contract/quotes';
import type { BodyOf } from '@nockwright/contract/shape';
import { shortDay } from '@nockwright/core/calendar';
import { compareDecimal } from '@nockwright/core/money';
import { acceptQuote as takeLines, type QuotedLine } from '@nockwright/core/orders';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import {
  copyApprovals,
  draftedLine,
  isAgreed,
  loadOrder,
  loadOrderLines,
  loadQuoteFacts,
  lockQuote,
  lookUpPrices,
  readOrder,
  touchOrder,
  type OrderLineRecord,
} from '../orders';

type Wish = BodyOf<typeof quoteRoutes.acceptQuote>;

/**
 * Makes a draft order of what a customer takes of a quote. Where a price is looked up otherwise today, `quoted` keeps the
 * one quoted, said as set by hand for the quote's sake; `today` leaves both on the line to be settled. Days are promised
 * when the order is released, as for any other; the draft shows both.
 */
export async function acceptQuote(context: CommandContext, quoteId: OrderId, wish: Wish): Promise<OrderView> {
  const { trx, now } = context;
  const quote = await lockQuote(trx, quoteId, wish.version, ['quoted']);
  const lines = await loadOrderLines(trx, quoteId);
  const facts = await loadQuoteFacts(trx, await loadOrder(trx, quoteId));
  const taken = takeLines(
    lines.map((line): QuotedLine => ({
      id: line.id,
      lineNo: line.line_no,
      quantity: line.quantity,
      alternative: line.alternative,
      alternativeTo: line.alternative_to,
      accepted: facts.acceptedOf(line),
    })),
    wish.lines,
  );
  if (!taken.ok) {
    const errors = taken.faults.map(({ at, field, message }) => ({ field: `body.lines[${at}].${field}`, message }));
    throw new Refusal('invalid', errors.map((error) => error.message).join('; '), errors);
  }
  const id = await insertDraft(context, quote, wish.poNumber);
  const copies = new Map<number, number>();
  for (const [at, { line: lineId, quantity }] of taken.lines.entries()) {
    const line = lines.find((row) => row.id === lineId)!;
    copies.set(lineId, await copyLine(context, { ...quote, id }, line, quantity, at + 1));
  }
  await copyApprovals(trx, quoteId, id, copies);
  if (wish.prices === 'quoted') await keepPrices(context, id, `quoted in ${quote.number}, valid until ${shortDay(quote.valid_until, now.today)}`);

  const closed = taken.whole || wish.rest === 'closed';
  if (closed) await trx.updateTable('sales_order').set({ state: 'accepted' }).where('id', '=', quoteId).execute();
  await touchOrder(context, quoteId);
  const ordered = taken.lines.map(({ line: lineId, quantity }) => {
    const line = lines.find((row) => row.id === lineId)!;
    return { quantity, unit: line.unit, item: line.item };
  });
  await recordEvent(context, {
    kind: 'quote.accepted',
    facts: { number: quote.number!, rest: taken.whole ? ('none' as const) : closed ? ('closed' as const) : ('open' as const), draft: id, lines: ordered },
    after: { draft: id, lines: taken.lines, prices: wish.prices },
    subjects: [
      { kind: 'order', key: quoteId },
      { kind: 'order', key: id },
      { kind: 'customer', key: quote.customer_id },
    ],
  });
  return readOrder(trx, now, id);
}

/** The draft as the quote was, for a day that has not passed; its id. */
async function insertDraft({ trx, now }: CommandContext, quote: Awaited<ReturnType<typeof lockQuote>>, poNumber: string | undefined): Promise<OrderId> {
  const { id } = await trx
    .insertInto('sales_order')
    .values({
      kind: 'order',
      number: null,
      customer_id: quote.customer_id,
      ship_to_id: quote.ship_to_id,
      po_number: poNumber ?? quote.po_number,
      request_kind: quote.request_kind,
      requested_day: quote.requested_day < now.today ? now.today : quote.requested_day,
      warehouse: quote.warehouse,
      carrier_service: quote.carrier_service,
      ship_complete: quote.ship_complete,
      most_shipments: quote.most_shipments,
      terms_days: quote.terms_days,
      description: quote.description,
      source: quote.source,
      note: quote.note,
      currency: quote.currency,
      priority: quote.priority,
      contract_id: quote.contract_id,
      quote_id: quote.id,
      entered: now.localTime,
      saved_at: now.instant,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** A line of the order as it was quoted, with the ways that were planned where all of it is taken; its id. */
async function copyLine(
  { trx, now }: CommandContext,
  order: Parameters<typeof draftedLine>[1],
  line: OrderLineRecord,
  quantity: string,
  lineNo: number,
): Promise<number> {
  const { stockQuantity } = await draftedLine(
    trx,
    { ...order, ship_to_id: line.ship_to_id ?? order.ship_to_id },
    { item: line.item, unit: line.unit, quantity },
    [],
    now.today,
  );
  const { id } = await trx
    .insertInto('order_line')
    .values({
      order_id: order.id,
      line_no: lineNo,
      item: line.item,
      warehouse: line.warehouse,
      unit: line.unit,
      numerator: line.numerator,
      denominator: line.denominator,
      quantity,
      stock_quantity: stockQuantity,
      price: line.price,
      price_source: line.price_source,
      price_trail: JSON.stringify(line.price_trail),
      contract_line_id: line.contract_line_id,
      price_pin: line.price_pin && JSON.stringify(line.price_pin),
      requested_day: line.requested_day && line.requested_day >= now.today ? line.requested_day : null,
      ship_to_id: line.ship_to_id,
      note: line.note,
      quote_line_id: line.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  if (compareDecimal(stockQuantity, line.stock_quantity) === 0)
    await trx
      .insertInto('line_route')
      .columns(['line_id', 'kind', 'supplier', 'quantity'])
      .expression((eb) =>
        eb
          .selectFrom('line_route')
          .select((s) => [s.val(id).as('line_id'), 'kind', 'supplier', 'quantity'])
          .where('line_id', '=', line.id)
          .where('purchase_line_id', 'is', null),
      )
      .execute();
  return id;
}

/** Holds lines to the price they were quoted at where another is looked up today. */
async function keepPrices({ trx, now }: CommandContext, orderId: OrderId, reason: string): Promise<void> {
  const order = await loadOrder(trx, orderId);
  const lines = await loadOrderLines(trx, orderId);
  const prices = await lookUpPrices(trx, order, lines, now.today);
  for (const line of lines) {
    if (isAgreed(line, prices.get(line.id)!)) continue;
    const pin = { kind: 'manual', price: line.price, reason } as const;
    const [kept] = (await lookUpPrices(trx, order, [{ ...line, price_pin: pin }], now.today, lines)).get(line.id)!;
    await trx
      .updateTable('order_line')
      .set({
        price_pin: JSON.stringify(pin),
        price_source: kept!.price.source,
        price_trail: JSON.stringify(kept!.price.trail),
        contract_line_id: kept!.price.contractLine,
      })
      .where('id', '=', line.id)
      .execute();
  }
}
