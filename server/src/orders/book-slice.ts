import type { OrderId } from '@nockwright/core/ids';
import { draftNumber, inTurn, placeEntered } from '@nockwright/core/book';
import type { BookSlice } from '@nockwright/core/orders';
import type { Now } from '../clock';
import { keepPlans, together, type Db } from '../database';
import { Refusal } from '../http/refusal';
import { loadBook, loadOdds, loadWarehouses } from '../promise';
import { loadContractUse, loadSoldItem } from './draft-line';
import { loadOrder, loadOrderLines } from './load-order';
import { sureFor } from './sure-for';

/** The part of the live book that decides about an item on a draft, with prices and words: what a line of it is tried on. */
export function readBookSlice(db: Db, now: Now, orderId: OrderId, itemCode: string): Promise<BookSlice> {
  return keepPlans(db, () => together(db, (reads) => sliceFrom(reads, now, orderId, itemCode)));
}

async function sliceFrom(db: Db, now: Now, orderId: OrderId, itemCode: string): Promise<BookSlice> {
  const [order, lines] = await Promise.all([loadOrder(db, orderId), loadOrderLines(db, orderId)]);
  if (order.state !== 'draft') throw new Refusal('conflict', 'Lines are added to drafts only.');
  const id = draftNumber(order.id);
  const [item, live, odds, sure, warehouses, contractUse] = await Promise.all([
    loadSoldItem(db, 'query', itemCode, order, now.today),
    loadBook(db, now, { items: [...new Set([...lines.map((line) => line.item), itemCode])], draft: order.id }),
    loadOdds(db),
    sureFor(db, order),
    loadWarehouses(db),
    loadContractUse(db, order.id),
  ]);
  // A draft without lines is not in the book yet; its first line is tried as its turn will be.
  const turns = new Map(live.turns).set(id, { priority: order.priority, place: placeEntered(now.localTime) });
  const draft = { id, priority: order.priority, entered: now.localTime, shipComplete: order.ship_complete };
  const orders = live.turns.has(id) ? live.book.orders : inTurn([...live.book.orders, draft], turns);
  const suppliers = new Set([...live.supplies.values()].flatMap(({ awaited }) => awaited?.supplier ?? []));
  return {
    book: { ...live.book, orders },
    supplies: [...live.supplies].map(([supply, { label, purchase, days, cost, awaited }]) => ({ id: supply, label, purchase, days, cost, awaited })),
    odds: odds.counts([...suppliers]),
    sure,
    item,
    warehouses: warehouses.map(({ name, book }) => ({ name, book })),
    draft: {
      id,
      day: order.order_day,
      deliverBy: order.request_kind === 'deliver_by',
      transitDays: order.transit_days,
      warehouse: order.warehouse,
      currency: order.currency,
      nextLine: Math.max(0, ...lines.map((line) => line.line_no)) + 1,
      lines: contractUse,
    },
  };
}
