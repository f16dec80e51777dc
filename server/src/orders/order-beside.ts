import type { OrderId } from '@nockwright/core/ids';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { type Db, anyOf } from '../database';
import type { OrderLineRecord, LineFacts, OrderRecord } from './load-order';
import { listForExport } from './list-orders';
import { loadQuoteFacts, type QuoteFacts } from './load-quote';
import type { costOf } from './line-view';

/** Questions to the customer that are open, by line. */
export async function loadQuestions(db: Db, lineIds: readonly number[], today: string): Promise<ReadonlyMap<number, LineView['asked']>> {
  const rows = await db
    .selectFrom('consent_request')
    .select(['id', 'line_id', 'question', 'answer_by'])
    .where(anyOf('line_id', lineIds))
    .where('state', '=', 'open')
    .execute();
  return new Map(rows.map((row) => [row.line_id!, { consent: row.id, question: row.question, answerBy: row.answer_by, overdue: row.answer_by < today }]));
}

/** Other orders of the customer with the number this one names; none where it names none. */
export async function loadPoRepeats(db: Db, order: OrderRecord): Promise<OrderView['poRepeats']> {
  if (order.po_number === '') return [];
  const rows = await db
    .selectFrom('sales_order')
    .select(['id', 'number', 'entered'])
    .where('customer_id', '=', order.customer_id)
    .where((eb) => eb(eb.fn<string>('lower', ['po_number']), '=', order.po_number.toLowerCase()))
    .where('state', '<>', 'discarded')
    .where('id', '<>', order.id)
    .orderBy('id', 'desc')
    .limit(3)
    .execute();
  return rows.map((row) => ({ id: row.id, number: row.number ?? `draft ${row.id}`, day: row.entered.slice(0, 10) }));
}

/** The contracts the customer may buy under at the order's ship-to, and the one it names in any case. */
export async function loadContractNames(db: Db, order: OrderRecord): Promise<OrderView['contracts']> {
  return db
    .selectFrom('contract')
    .select(['contract.id', 'contract.number', 'contract.name', 'contract.last_day as lastDay'])
    .where(({ exists, selectFrom, eb, or }) =>
      or([
        eb('contract.id', '=', order.contract_id ?? 0),
        exists(
          selectFrom('contract_customer')
            .select('customer_id')
            .whereRef('contract_customer.contract_id', '=', 'contract.id')
            .where('customer_id', '=', order.customer_id)
            .where((ships) => ships.or([ships('ship_to_id', 'is', null), ships('ship_to_id', '=', order.ship_to_id)])),
        ),
      ]),
    )
    .orderBy('contract.number')
    .execute();
}

export async function openCalls(db: Db, orderId: OrderId): Promise<number> {
  const rows = await db.selectFrom('customer_call').select('id').where('order_id', '=', orderId).where('done_at', 'is', null).execute();
  return rows.length;
}

export async function loadShipments(db: Db, orderId: OrderId): Promise<OrderView['shipments']> {
  const byId = new Map<number, { -readonly [Key in keyof Shipment]: Shipment[Key] } & { lines: { lineNo: number; quantity: string }[] }>();
  for (const row of await shipmentRows(db, orderId)) {
    const found = byId.get(row.id) ?? {
      id: row.id,
      number: row.number,
      state: row.state,
      from: row.warehouse_name ?? row.supplier_name ?? '',
      day: row.shipped_day,
      tracking: row.tracking,
      consignment: row.consignment_id,
      tracked: row.tracked,
      invoice: row.invoice,
      lines: [],
    };
    found.lines.push({ lineNo: row.line_no, quantity: row.quantity });
    byId.set(row.id, found);
  }
  return [...byId.values()];
}

type Shipment = OrderView['shipments'][number];

/** A row for each line of a shipment, with what its carrier said last. */
function shipmentRows(db: Db, orderId: OrderId) {
  return db
    .selectFrom('shipment')
    .leftJoin('warehouse', 'warehouse.code', 'shipment.warehouse')
    .leftJoin('purchase_order', 'purchase_order.id', 'shipment.purchase_id')
    .leftJoin('supplier', 'supplier.code', 'purchase_order.supplier')
    .leftJoin('invoice', 'invoice.id', 'shipment.invoice_id')
    .innerJoin('shipment_line', 'shipment_line.shipment_id', 'shipment.id')
    .innerJoin('order_line', 'order_line.id', 'shipment_line.order_line_id')
    .select([
      'shipment.id',
      'shipment.number',
      'shipment.state',
      'shipment.tracking',
      'shipment.shipped_day',
      'shipment.consignment_id',
      'invoice.number as invoice',
      'warehouse.name as warehouse_name',
      'supplier.name as supplier_name',
      'order_line.line_no',
      'shipment_line.quantity',
    ])
    .select(({ selectFrom, ref }) =>
      selectFrom('tracking_event')
        .innerJoin('consignment_label', 'consignment_label.id', 'tracking_event.label_id')
        .select('tracking_event.kind')
        .where('consignment_label.consignment_id', '=', ref('shipment.consignment_id'))
        .where('consignment_label.state', '=', 'made')
        .orderBy('tracking_event.at', 'desc')
        .orderBy('tracking_event.id', 'desc')
        .limit(1)
        .as('tracked'),
    )
    .where('shipment.order_id', '=', orderId)
    .orderBy('shipment.id')
    .orderBy('order_line.line_no')
    .execute();
}

/** What a quote led to, its orders with how far they have come. */
export async function loadQuoted(db: Db, order: OrderRecord, today: string): Promise<Viewed['quote']> {
  const facts = await loadQuoteFacts(db, order);
  if (facts.orders.length === 0) return { ...facts, orders: [] };
  const rows = await listForExport(db, today, { state: 'all', reverse: true, orders: facts.orders.map((row) => row.id).join(',') });
  return { ...facts, orders: rows.map(({ id, number, progress }) => ({ id, number, progress })) };
}

/** Lines as they are shown, with what was loaded for it. */
export interface Viewed {
  readonly views: readonly LineView[];
  readonly facts: LineFacts;
  readonly quote: Omit<QuoteFacts, 'orders'> & Pick<OrderView, 'orders'>;
  /** How sure the desk's promises must be, in percent; null: the supplier's day is believed. */
  readonly desk: number | null;
  /** What so many goods of a line cost by the supply they are pegged to. */
  readonly costOfLine: (line: OrderLineRecord) => ReturnType<typeof costOf>;
}
