import type { PurchaseId } from '@nockwright/core/ids';
import { noteLock } from '../locks';
import { type LiveBook } from '@nockwright/core/book';
import type { PurchaseView } from '@nockwright/contract/supply';
import { lineAmount, roundMoney, sum } from '@nockwright/core/money';
import { promiseBook } from '@nockwright/core/promise';
import { sql, type Selectable } from 'kysely';
import type { Now } from '../clock';
import { anyOf, together, type Database, type Db, type Trx } from '../database';
import { changedSince } from '../events';
import { notFound, Refusal } from '../http/refusal';
import { decimal, loadBook } from '../promise';
import { loadTold } from './exchange/load-told';

export async function loadPurchaseLines(db: Db, purchaseId: PurchaseId) {
  return db
    .selectFrom('purchase_line')
    .innerJoin('item', 'item.code', 'purchase_line.item')
    .innerJoin('purchase_order', 'purchase_order.id', 'purchase_line.purchase_id')
    .leftJoin('supplier_item', (join) =>
      join.onRef('supplier_item.item', '=', 'purchase_line.item').onRef('supplier_item.supplier', '=', 'purchase_order.supplier'),
    )
    .leftJoin('item_home', (join) => join.onRef('item_home.item', '=', 'purchase_line.item').onRef('item_home.warehouse', '=', 'purchase_line.warehouse'))
    .selectAll('purchase_line')
    .select([
      'item.description',
      'item.unit',
      'item.gtin',
      'item.tracks_lots',
      'item.tracks_expiry',
      'item.tracks_serials',
      'supplier_item.their_code',
      'item_home.bin as home',
    ])
    .select(sql<string>`purchase_line.quantity - received - closed`.as('open'))
    .where('purchase_id', '=', purchaseId)
    .orderBy('line_no')
    .execute();
}

export type PurchaseLineRecord = Awaited<ReturnType<typeof loadPurchaseLines>>[number];

/** Locks a purchase order for a change; refused if someone else has changed it since `version`, or it has ended. */
export async function lockPurchase(trx: Trx, purchaseId: PurchaseId, version: number) {
  const purchase = await trx.selectFrom('purchase_order').selectAll().where('id', '=', purchaseId).forNoKeyUpdate().executeTakeFirst();
  if (!purchase) throw notFound(`purchase order ${purchaseId}`);
  noteLock(trx, 'purchases', purchaseId);
  if (purchase.version !== version)
    throw await changedSince(trx, { kind: 'purchase', key: purchase.id, label: `Purchase ${purchase.number}`, given: version, current: purchase.version });
  if (purchase.state === 'closed' || purchase.state === 'cancelled') throw new Refusal('conflict', `Purchase ${purchase.number} is ${purchase.state}.`);
  return purchase;
}

/** Counts the change, and closes the order when nothing more is awaited of it. */
export async function touchPurchase(trx: Trx, purchaseId: PurchaseId): Promise<void> {
  await trx
    .updateTable('purchase_order')
    .set({ version: sql`version + 1` })
    .where('id', '=', purchaseId)
    .execute();
  const { open, received } = await trx
    .selectFrom('purchase_line')
    .select([sql<number>`count(*) filter (where received + closed < quantity)`.as('open'), sql<string>`sum(received)`.as('received')])
    .where('purchase_id', '=', purchaseId)
    .executeTakeFirstOrThrow();
  if (Number(open) > 0) return;
  await trx
    .updateTable('purchase_order')
    .set({ state: Number(received) > 0 ? 'closed' : 'cancelled' })
    .where('id', '=', purchaseId)
    .execute();
}

/** A purchase order with, for each line, the orders that its goods are owed to. */
export async function readPurchase(db: Db, now: Now, purchaseId: PurchaseId): Promise<PurchaseView> {
  return together(db, async (all) => {
    const [purchase, lines, told] = await Promise.all([
      all
        .selectFrom('purchase_order')
        .innerJoin('supplier', 'supplier.code', 'purchase_order.supplier')
        .leftJoin('sales_order', 'sales_order.id', 'purchase_order.order_id')
        .selectAll('purchase_order')
        .select(sql<string>`firm_currency()`.as('currency'))
        .select(['supplier.name as supplier_name', 'supplier.email', 'sales_order.number as order_number'])
        .where('purchase_order.id', '=', purchaseId)
        .executeTakeFirst(),
      loadPurchaseLines(all, purchaseId),
      loadTold(all, purchaseId),
    ]);
    if (!purchase) throw notFound(`purchase order ${purchaseId}`);
    const live = await loadBook(all, now, { items: [...new Set(lines.map((line) => line.item))] });
    const owed = await owedFrom(all, live, purchase.number, lines);
    return viewOf(purchase, lines, live, owed, told, now.today);
  });
}

/** Whom the goods of purchase lines are owed to, by line. */
export async function loadOwed(db: Db, now: Now, number: string, lines: readonly PurchaseLineRecord[]): Promise<ReadonlyMap<number, Owed>> {
  return owedFrom(db, await loadBook(db, now, { items: [...new Set(lines.map((line) => line.item))] }), number, lines);
}

type PurchaseRecord = Selectable<Database['purchase_order']> & {
  readonly currency: string;
  readonly supplier_name: string;
  readonly email: string;
  readonly order_number: string | null;
};

function viewOf(
  purchase: PurchaseRecord,
  lines: readonly PurchaseLineRecord[],
  live: LiveBook,
  owed: ReadonlyMap<number, Owed>,
  told: Awaited<ReturnType<typeof loadTold>>,
  today: string,
): PurchaseView {
  return {
    id: purchase.id,
    number: purchase.number,
    supplier: { code: purchase.supplier, name: purchase.supplier_name, email: purchase.email },
    kind: purchase.kind,
    state: purchase.state,
    version: purchase.version,
    warehouse: purchase.warehouse,
    shipTo: purchase.ship_to,
    order: purchase.order_id === null ? null : { id: purchase.order_id, number: purchase.order_number ?? '' },
    createdDay: purchase.created_day,
    note: purchase.note,
    currency: purchase.currency,
    value: roundMoney(sum(lines.map((line) => lineAmount(line.quantity, line.cost, purchase.currency))), purchase.currency),
    lines: lines.map((line) => ({
      id: line.id,
      lineNo: line.line_no,
      item: line.item,
      description: line.description,
      unit: line.unit,
      quantity: line.quantity,
      received: line.received,
      closed: line.closed,
      damaged: line.damaged,
      open: line.open,
      cost: line.cost,
      expectedDay: line.expected_day,
      toldDay: line.told_day,
      availableDay: live.supplies.get(`${purchase.number}/${line.line_no}`)?.available ?? null,
      lifts: line.lifts,
      bound: line.order_line_id !== null,
      theirCode: line.their_code ?? '',
      gtin: line.gtin,
      tracksLots: line.tracks_lots,
      tracksSerials: line.tracks_serials,
      tracksExpiry: line.tracks_expiry,
      home: line.home,
      overdue: line.expected_day < today && line.open !== '0',
      owed: owed.get(line.id) ?? [],
    })),
    ...told,
  };
}

type Owed = PurchaseView['lines'][number]['owed'];

async function owedFrom(db: Db, live: LiveBook, number: string, lines: readonly PurchaseLineRecord[]): Promise<Map<number, Owed>> {
  const owed = new Map<number, Owed[number][]>();
  const add = (lineId: number, row: Owed[number]) => {
    const list = owed.get(lineId);
    if (list) list.push(row);
    else owed.set(lineId, [row]);
  };
  const rows = pegsOf(live, number, lines);
  const names = await customersOfLines(
    db,
    rows.map((row) => row.orderLine),
  );
  for (const { lineId, orderLine, quantity, day } of rows)
    add(lineId, { ...names.get(orderLine)!, quantity, day, bound: lines.find((line) => line.id === lineId)!.order_line_id === orderLine });
  return owed;
}

/** A quantity of a purchase line that is promised to an order line. */
interface Peg {
  readonly lineId: number;
  readonly orderLine: number;
  readonly quantity: string;
  readonly day: string;
}

/** What of purchase lines is promised to whom, as the book has it now. */
export function pegsOf(live: LiveBook, number: string, lines: readonly PurchaseLineRecord[]): Peg[] {
  const byId = new Map(lines.map((line) => [`${number}/${line.line_no}`, line]));
  const rows: Peg[] = [];
  for (const promise of promiseBook(live.book).promises) {
    for (const entry of promise.schedule) {
      for (const { supply, quantity } of entry.kept ? entry.from : []) {
        const line = byId.get(supply);
        if (line) rows.push({ lineId: line.id, orderLine: live.demands.get(promise.id)!.lineId, quantity: decimal(quantity), day: entry.date });
      }
    }
  }
  for (const line of lines)
    if (line.warehouse === null && line.order_line_id !== null && line.open !== '0')
      rows.push({ lineId: line.id, orderLine: line.order_line_id, quantity: line.open, day: line.expected_day });
  return rows;
}

/** Order, line and customer of order lines. */
export async function customersOfLines(db: Db, lineIds: readonly number[]) {
  const rows = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .select(['order_line.id', 'order_line.line_no', 'sales_order.id as order_id', 'sales_order.number', 'customer.name'])
    .where(anyOf('order_line.id', [...new Set(lineIds)]))
    .execute();
  return new Map(rows.map((row) => [row.id, { order: row.order_id, number: row.number ?? '', lineNo: row.line_no, customer: row.name }]));
}
