import type { OrderId } from '@nockwright/core/ids';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { compareDecimal, divide, times } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Db } from '../database';
import type { OrderLineRecord, OrderRecord } from './load-order';

type Quoted = NonNullable<LineView['quoted']>;

/** What a quote led to, or what an order came from. */
export interface QuoteFacts {
  /** Of a quote, the orders that were made of it. */
  readonly orders: readonly { readonly id: number; readonly number: string | null }[];
  /** Of an order, the quote it was made of. */
  readonly quote: OrderView['quote'];
  /** What of a line has become part of an order, in the unit quoted. */
  readonly acceptedOf: (line: OrderLineRecord) => string;
  /** What the customer was told last of a line, by its quote. */
  readonly quotedOf: (line: OrderLineRecord) => Quoted | null;
}

/** `orders`: those of the quote that were not discarded. */
export async function loadQuoteFacts(db: Db, order: OrderRecord): Promise<QuoteFacts> {
  const quoteId = order.kind === 'quote' ? order.id : order.quote_id;
  if (quoteId === null) return { orders: [], quote: null, acceptedOf: () => '0', quotedOf: () => null };
  const told = await loadTold(db, quoteId);
  if (order.kind === 'order') {
    const quote = await db.selectFrom('sales_order').select(['id', 'number', 'valid_until']).where('id', '=', quoteId).executeTakeFirstOrThrow();
    return {
      orders: [],
      quote: { id: quote.id, number: quote.number!, validUntil: quote.valid_until! },
      acceptedOf: () => '0',
      quotedOf: (line) => told.get(line.quote_line_id ?? 0) ?? null,
    };
  }
  const orders = await db
    .selectFrom('sales_order')
    .select(['id', 'number'])
    .where('quote_id', '=', quoteId)
    .where('state', '<>', 'discarded')
    .orderBy('id')
    .execute();
  const accepted = await loadAccepted(db, quoteId);
  return {
    orders,
    quote: null,
    acceptedOf: (line) => divide(times(accepted.get(line.id) ?? '0', line.denominator), line.numerator, 4),
    quotedOf: (line) => told.get(line.id) ?? null,
  };
}

/** What of each line of a quote stands on an order, in stocking units. */
export async function loadAccepted(db: Db, quoteId: OrderId): Promise<ReadonlyMap<number, string>> {
  const rows = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .select(['order_line.quote_line_id as line', sql<string>`sum(order_line.stock_quantity)`.as('quantity')])
    .where('sales_order.quote_id', '=', quoteId)
    .where('sales_order.state', '<>', 'discarded')
    .where('order_line.quote_line_id', 'is not', null)
    .groupBy('order_line.quote_line_id')
    .execute();
  return new Map(rows.map((row) => [row.line!, row.quantity]));
}

/** Each line of a quote as it went out last. */
async function loadTold(db: Db, quoteId: OrderId): Promise<ReadonlyMap<number, Quoted>> {
  const row = await db
    .selectFrom('document')
    .select('content')
    .where('order_id', '=', quoteId)
    .where('kind', '=', 'quote')
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  const lines = row ? (row.content as unknown as { readonly order: OrderView }).order.lines : [];
  return new Map(lines.map((line) => [line.id, { quantity: line.quantity, unit: line.unit, price: line.price, day: lastDay(line) }]));
}

/** The day the last of a line leaves; null where some of it has none. */
export function lastDay(line: Pick<LineView, 'uncovered' | 'schedule'>): string | null {
  if (compareDecimal(line.uncovered, '0') > 0 || line.schedule.length === 0) return null;
  return line.schedule.map((entry) => entry.arrives ?? entry.day).reduce((a, b) => (a > b ? a : b));
}
