import { dayNumber, isoDay, isoWeekday } from '@nockwright/core/calendar';
import type { OrderView } from '@nockwright/contract/orders';
import { writeOrderResponse } from '@nockwright/core/exchange';
import { letterFor, type LostReason } from '@nockwright/core/orders';
import { sql } from 'kysely';
import { addReminder, createCustomer } from '../server/src/customers/commands';
import { inThisThread } from '../server/src/work';
import { createTransport, deliverMail, mailPaper } from '../server/src/mail/commands';
import { acceptQuote, loseQuote, reviseQuote, sendQuote } from '../server/src/quotes/commands';
import type { CommandContext, CurrentUser } from '../server/src/http/context';
import type { Db, Trx } from '../server/src/database';
import { loadFirm } from '../server/src/firm';
import {
  addLine,
  addLines,
  cancelOrder,
  changeOrder,
  createOrder,
  holdOrder,
  previewTurn,
  promiseRest,
  rankOrder,
  readOrder,
  releaseOrder,
  setPrice,
} from '../server/src/orders/commands';
import { refreshBoards } from '../server/src/boards';
import { cancelPick, readBoard, ship, startPick } from '../server/src/shipping/commands';
import { RESERVES } from './load-standing';
import { askCustomer, chooseRoute } from '../server/src/shortages/commands';
import {
  closeLine,
  confirmDespatch,
  createAssembly,
  createPurchase,
  createTransfer,
  NOBODY,
  readPurchase,
  receive,
  reschedule,
  sendPurchase,
  shipTransfer,
  takeAnswer,
} from '../server/src/supply/commands';
import { nameSerials } from '../server/src/serials/commands';

/** Carries out the desk's own commands on a day of the past, so that the demo holds nothing the application could not have made. */
export class Desk {
  /** Mail of the demo is handed over by the demo itself, on the day it was written: nothing waits. */
  private readonly jobs: CommandContext['jobs'] = { send: async () => undefined };

  constructor(
    private readonly db: Db,
    private readonly user: CurrentUser,
    readonly today: string,
  ) {}

  /** The working day `days` days before or after today; the past is moved back from a weekend, what is to come on from it. */
  day(days: number): string {
    return workingDay(dayNumber(this.today) + days, days < 0);
  }

  /** Runs commands as of `days` days from today. */
  on<R>(days: number, run: (context: CommandContext) => Promise<R>, time = '10:15'): Promise<R> {
    return this.transaction(days, time, this.user, run);
  }

  private async transaction<R>(days: number, time: string, user: CurrentUser, run: (context: CommandContext) => Promise<R>): Promise<R> {
    const now = this.nowOn(days, time);
    const done = await this.db
      .transaction()
      .execute((trx: Trx) => run({ trx, user, now, jobs: this.jobs, publicUrl: 'http://127.0.0.1', afterCommit: () => undefined }));
    await this.deliverToSuppliers(now);
    return done;
  }

  /** What suppliers are told goes out at once; mail to customers when the demo says so. */
  private async deliverToSuppliers(now: CommandContext['now']): Promise<void> {
    const waiting = await this.db.selectFrom('mail').select('id').where('state', '=', 'waiting').where('purchase_id', 'is not', null).execute();
    for (const { id } of waiting)
      await deliverMail({ db: this.db, clock: () => now, jobs: this.jobs, publicUrl: '', work: inThisThread }, createTransport(this.db, undefined), id, false);
  }

  private nowOn(days: number, time: string): CommandContext['now'] {
    const today = days === 0 ? this.today : this.day(days);
    const localTime = `${today}T${days === 0 ? '08:05' : time}`;
    return { today, localTime, instant: new Date(localTime) };
  }

  /** Enters and releases an order; what has no cover waits. `lines`: item, quantity, unit. */
  async order(
    days: number,
    customer: string,
    lines: readonly (readonly [item: string, quantity: number, unit?: string])[],
    wish: OrderWish = {},
  ): Promise<OrderView> {
    const draft = await this.draft(days, customer, lines, wish);
    return this.release(days, draft);
  }

  async draft(
    days: number,
    customer: string,
    lines: readonly (readonly [item: string, quantity: number, unit?: string])[],
    wish: OrderWish = {},
  ): Promise<OrderView> {
    return this.on(days, async (context) => {
      const { id } = await context.trx.selectFrom('customer').select('id').where('number', '=', customer).executeTakeFirstOrThrow();
      let order = await createOrder(context, id);
      const { inDays = 3, ...header } = wish;
      const requested = workingDay(dayNumber(context.now.today) + inDays);
      order = await changeOrder(context, order.id, { version: order.version, requestedDay: requested, ...header });
      if (order.mustNameContract && order.contracts.length > 0)
        order = await changeOrder(context, order.id, { version: order.version, contract: order.contracts[0]!.id });
      return addLines(context, order.id, { version: order.version, lines: lines.map(asLine) });
    });
  }

  /** Releases a draft as it is seen; what has no cover is left waiting. */
  async release(days: number, draft: OrderView): Promise<OrderView> {
    return this.on(days, async (context) => {
      let order = await readOrder(context.trx, context.now, draft.id);
      for (const line of order.lines) {
        if (Number(line.uncovered) > 0) order = await chooseRoute(context, order.id, line.id, { parts: [{ kind: 'backorder', quantity: line.uncovered }] });
      }
      return releaseOrder(context, order.id, order.version, seenOf(order));
    });
  }

  /** A quote that is being written. `customer`: their number, or a prospect's name. */
  async quote(
    days: number,
    customer: string,
    lines: readonly (readonly [item: string, quantity: number, unit?: string])[],
    { inDays = 3, validDays = 14, poNumber }: OrderWish & { readonly validDays?: number } = {},
  ): Promise<OrderView> {
    return this.on(days, async (context) => {
      const { id } = await context.trx
        .selectFrom('customer')
        .select('id')
        .where((eb) => eb.or([eb('number', '=', customer), eb('name', '=', customer)]))
        .executeTakeFirstOrThrow();
      let quote = await createOrder(context, id, 'quote');
      const today = dayNumber(context.now.today);
      quote = await changeOrder(context, quote.id, {
        version: quote.version,
        requestedDay: workingDay(today + inDays),
        validUntil: workingDay(today + validDays),
        ...(poNumber ? { poNumber } : {}),
      });
      return addLines(context, quote.id, { version: quote.version, lines: lines.map(asLine) });
    });
  }

  /** Another line of a quote, to be taken instead of one of those above it. */
  alternative(days: number, quote: OrderView, item: string, quantity: number, unit: string, insteadOf: number): Promise<OrderView> {
    const wish = { item, quantity: String(quantity), unit, alternative: true, alternativeTo: quote.lines[insteadOf - 1]!.id };
    return this.on(days, (context) => addLine(context, quote.id, wish));
  }

  sendQuote(days: number, quote: OrderView): Promise<OrderView> {
    return this.on(days, async (context) => {
      const now = await readOrder(context.trx, context.now, quote.id);
      return sendQuote(context, quote.id, now.version, seenOf(now));
    });
  }

  /** Opens a quote that was sent to be changed and sent again. */
  revise(days: number, quote: OrderView): Promise<OrderView> {
    return this.on(days, async (context) => {
      const { version } = await readOrder(context.trx, context.now, quote.id);
      return reviseQuote(context, quote.id, version);
    });
  }

  /** Makes a draft of some lines of a quote, counted from 1; the rest stays open. */
  accept(days: number, quote: OrderView, lines: readonly number[], poNumber: string): Promise<OrderView> {
    return this.on(days, async (context) => {
      const { version } = await readOrder(context.trx, context.now, quote.id);
      const taken = lines.map((lineNo) => ({ line: quote.lines[lineNo - 1]!.id }));
      return acceptQuote(context, quote.id, { version, lines: taken, prices: 'quoted', rest: 'open', poNumber });
    });
  }

  lose(days: number, quote: OrderView, reason: LostReason, note: string): Promise<OrderView> {
    return this.on(days, async (context) => {
      const { version } = await readOrder(context.trx, context.now, quote.id);
      return loseQuote(context, quote.id, { version, reason, note });
    });
  }

  /** Mails the newest paper of an order or a quote to whoever it is for, and hands it to the post office. */
  async mail(days: number, { id }: OrderView): Promise<void> {
    const mail = await this.on(days, async (context) => {
      const { papers, customer, kind, number, poNumber, spoken, validUntil } = await readOrder(context.trx, context.now, id);
      const facts = {
        kind: kind === 'quote' ? ('quote' as const) : ('acknowledgement' as const),
        number,
        poNumber,
        contact: customer.contact,
        spoken,
        validUntil,
      };
      const letter = letterFor({ ...facts, by: this.user.name, firm: (await loadFirm(context.trx)).name }, context.now.today);
      await mailPaper(context, id, { paper: papers[0]!.id, recipients: [customer.email], files: [], ...letter });
      return context.trx.selectFrom('mail').select('id').orderBy('id', 'desc').executeTakeFirstOrThrow();
    });
    const clock = () => this.nowOn(days, '10:16');
    await deliverMail({ db: this.db, clock, jobs: this.jobs, publicUrl: '', work: inThisThread }, createTransport(this.db, undefined), mail.id, false);
  }

  prospect(days: number, wish: Omit<Parameters<typeof createCustomer>[1], 'prospect' | 'country'>): Promise<unknown> {
    return this.on(days, (context) => createCustomer(context, { ...wish, country: 'GB', prospect: true }));
  }

  note(days: number, customer: string, text: string): Promise<unknown> {
    return this.on(days, async (context) => {
      const { id } = await context.trx.selectFrom('customer').select('id').where('number', '=', customer).executeTakeFirstOrThrow();
      return addReminder(context, id, text);
    });
  }

  /** Sets the price of a line by hand. */
  setPrice(days: number, order: OrderView, lineNo: number, price: string, reason: string): Promise<OrderView> {
    const pin = { kind: 'manual' as const, price, reason };
    return this.on(days, (context) => setPrice(context, order.id, order.lines[lineNo - 1]!.id, { version: order.version, pin }));
  }

  hold(days: number, order: OrderView, why: string): Promise<OrderView> {
    return this.on(days, (context) => holdOrder(context, order.id, order.version, why));
  }

  route(days: number, order: OrderView, lineNo: number, kind: 'special_order' | 'drop_ship', supplier: string, quantity: number): Promise<OrderView> {
    return this.on(days, (context) => chooseRoute(context, order.id, order.lines[lineNo - 1]!.id, { parts: [{ kind, supplier, quantity: String(quantity) }] }));
  }

  /** A purchase to stock, sent; `due`: days from today. */
  async purchase(
    days: number,
    supplier: string,
    warehouse: string,
    due: number,
    lines: readonly (readonly [item: string, quantity: number])[],
    sent = true,
  ): Promise<number> {
    return this.on(days, async (context) => {
      // As of the day it was made, a day before that day cannot be expected: such a purchase was due later and is overdue now.
      const expectedDay = this.day(due) < context.now.today ? context.now.today : this.day(due);
      const purchase = await createPurchase(context, {
        supplier,
        warehouse,
        lines: lines.map(([item, quantity]) => ({ item, quantity: String(quantity), expectedDay })),
      });
      if (sent) await sendPurchase(context, purchase.id, purchase.version);
      return purchase.id;
    });
  }

  send(days: number, purchase: number): Promise<unknown> {
    return this.on(days, async (context) => sendPurchase(context, purchase, (await readPurchase(context.trx, context.now, purchase)).version));
  }

  /** Receives `share` of every open line of a purchase. */
  receive(days: number, purchase: number, share = 1): Promise<unknown> {
    return this.on(days, async (context) => {
      const view = await readPurchase(context.trx, context.now, purchase);
      const lines = view.lines
        .filter((line) => Number(line.open) > 0)
        .map((line) => ({
          line: line.id,
          quantity: String(Math.max(1, Math.floor(Number(line.open) * share))),
          ...(line.tracksLots ? { lot: `${view.number.slice(1)}-${line.lineNo}`, expires: this.day(300) } : {}),
        }));
      await receive(context, purchase, { version: view.version, lines });
    });
  }

  slip(days: number, purchase: number, due: number, note: string): Promise<unknown> {
    return this.on(days, async (context) => {
      const view = await readPurchase(context.trx, context.now, purchase);
      await reschedule(context, purchase, view.lines[0]!.id, { version: view.version, expectedDay: this.day(due), note });
    });
  }

  closeRest(days: number, purchase: number, reason: string): Promise<unknown> {
    return this.on(days, async (context) => {
      const view = await readPurchase(context.trx, context.now, purchase);
      await closeLine(context, purchase, view.lines[0]!.id, view.version, { why: reason });
    });
  }

  despatch(days: number, purchase: number, tracking: string): Promise<unknown> {
    return this.on(days, async (context) => {
      const view = await readPurchase(context.trx, context.now, purchase);
      await confirmDespatch(context, purchase, { version: view.version, tracking, lines: view.lines.map((line) => ({ line: line.id, quantity: line.open })) });
    });
  }

  async transfer(days: number, from: string, to: string, item: string, quantity: number, leaves: boolean): Promise<void> {
    const made = await this.on(days, (context) => createTransfer(context, { from, to, lines: [{ item, quantity: String(quantity) }] }));
    if (leaves) await this.on(days, (context) => shipTransfer(context, made.id, made.version));
  }

  assemble(days: number, warehouse: string, item: string, quantity: number): Promise<unknown> {
    return this.on(days, (context) => createAssembly(context, { item, warehouse, quantity: String(quantity) }));
  }

  /** Asks the customer by phone whether what waits of a line may be left out. */
  ask(days: number, order: OrderView, lineNo: number, question: string, answerIn: number): Promise<unknown> {
    return this.on(days, async (context) => {
      const line = (await readOrder(context.trx, context.now, order.id)).lines[lineNo - 1]!;
      const parts = [{ kind: 'cut' as const, quantity: line.waiting }];
      await askCustomer(context, order.id, line.id, { parts, recipients: [], question, answerBy: this.day(answerIn), onNo: 'reroute' });
    });
  }

  /** Suppliers take orders by mail from now on, some of them as files; until now they were handed the paper. */
  async tellSuppliers(asFiles: readonly string[]): Promise<void> {
    await this.db
      .updateTable('supplier')
      .set({ email: sql`'orders@' || lower(code) || '.example'` })
      .execute();
    await this.db.updateTable('supplier').set({ exchanges: true }).where('code', 'in', asFiles).execute();
  }

  /** The supplier has fetched an order that was sent as a file, and answers with another day for its first line. */
  async answer(days: number, purchase: number, due: number, note: string): Promise<void> {
    await this.db.updateTable('exchange_message').set({ state: 'written' }).where('state', '=', 'waiting').execute();
    const view = await this.on(days, (context) => readPurchase(context.trx, context.now, purchase));
    const number = `A-${view.number}`;
    const [first] = view.lines;
    const firm = await loadFirm(this.db);
    const content = writeOrderResponse(
      {
        number,
        issueDay: this.today,
        order: view.number,
        note,
        lines: [{ id: String(first!.lineNo), answer: 'changed', quantity: first!.quantity, day: this.day(due), price: first!.cost, note: '', instead: null }],
      },
      view.supplier,
      { name: firm.name, code: firm.code },
      () => first!.unit,
      firm.currency,
    );
    const file = { supplier: view.supplier.code, name: `${number}.xml`, content };
    await this.transaction(days, '11:40', NOBODY, (context) => takeAnswer(context, file));
  }

  /** Picks what is on hand for an order; `leaves`: ships it, too. */
  async pick(days: number, order: OrderView, leaves: boolean, share = 1): Promise<void> {
    const at = '13:20';
    const board = await this.on(
      days,
      async ({ trx, now }) => {
        await refreshBoards(trx, now);
        return readBoard(trx, now, { q: order.number!, most: 2000 });
      },
      at,
    );
    for (const ready of board.ready.filter((row) => row.order === order.id)) {
      const lines = ready.lines.map((line) => ({
        line: line.line,
        quantity: String(Math.max(1, Math.floor(Number(line.quantity) * (ready.shipComplete ? 1 : share)))),
      }));
      const pick = await this.on(days, (context) => startPick(context, { order: order.id, warehouse: ready.warehouse, lines }), at);
      if (!leaves) continue;
      await this.on(days, (context) => ship(context, pick.id, `TRK${800000 + pick.id * 37}`), at);
      // What was mailed of it then has long arrived.
      await this.db
        .updateTable('mail')
        .set(({ ref }) => ({ state: 'sent', sent_at: ref('made_at') }))
        .where('state', '=', 'waiting')
        .where('consignment_id', 'is not', null)
        .execute();
    }
  }

  async putBack(days: number, order: OrderView, reason: string): Promise<void> {
    const board = await this.on(days, ({ trx, now }) => readBoard(trx, now));
    for (const pick of board.picking.filter((row) => row.order === order.id)) await this.on(days, (context) => cancelPick(context, pick.id, reason));
  }

  cancel(
    days: number,
    order: OrderView,
    lineNo: number | null,
    quantity: number | null,
    reason: 'customer_changed_mind' | 'too_late' | 'duplicate',
    purchases: 'cancel' | 'keep' = 'keep',
  ): Promise<unknown> {
    return this.on(days, async (context) => {
      const { version } = await readOrder(context.trx, context.now, order.id);
      const line = lineNo === null ? {} : { line: order.lines[lineNo - 1]!.id };
      await cancelOrder(context, order.id, { version, ...line, ...(quantity === null ? {} : { quantity: String(quantity) }), reason, purchases });
    });
  }

  /** Gives an order another class; whatever that moves is agreed to. */
  putInClass(days: number, order: OrderView, priority: number, reason: string): Promise<unknown> {
    return this.on(days, async (context) => {
      const { version } = await readOrder(context.trx, context.now, order.id);
      const { later, earlier } = await previewTurn(context.trx, context.now, order.id, { priority }, []);
      const seen = [...later, ...earlier].map(({ line, after }) => ({ line, after }));
      await rankOrder(context, order.id, { version, priority, reason, decision: { seen, accept: [] } });
    });
  }

  promiseRest(days: number, order: OrderView, lineNo: number): Promise<unknown> {
    return this.on(days, (context) => promiseRest(context, order.id, order.lines[lineNo - 1]!.id));
  }

  /** The purchase orders made for an order's routes. */
  async purchasesOf(order: OrderView): Promise<number[]> {
    const rows = await this.db
      .selectFrom('purchase_line')
      .innerJoin('order_line', 'order_line.id', 'purchase_line.order_line_id')
      .select('purchase_id')
      .distinct()
      .where('order_id', '=', order.id)
      .orderBy('purchase_id')
      .execute();
    return rows.map((row) => row.purchase_id);
  }

  /** From now on each piece of an item has a serial number; those in stock are entered, bin by bin. */
  async number(days: number, item: string, serialOf: (at: number) => string): Promise<void> {
    await this.on(days, async (context) => {
      await context.trx.updateTable('item').set({ tracks_serials: true }).where('code', '=', item).execute();
      const places = await context.trx.selectFrom('stock_place').selectAll().where('item', '=', item).where('quantity', '>', '0').orderBy('id').execute();
      let at = 0;
      for (const { warehouse, bin, lot, status, quantity } of places) {
        const serials = Array.from({ length: Number(quantity) }, () => serialOf(++at)).join('\n');
        await nameSerials(context, item, { warehouse, bin, lot, status, serials, reason: 'numbers read from the plates' });
      }
    });
  }

  async stockUp(days: number, rows: readonly (readonly [item: string, warehouse: string, quantity: number])[]): Promise<void> {
    await this.on(days, async ({ trx, now }) => {
      const byLot = new Set((await trx.selectFrom('item').select('code').where('tracks_lots', '=', true).execute()).map((row) => row.code));
      for (const [item, warehouse, quantity] of rows) {
        const common = { at: now.instant, item, warehouse, kind: 'opening' as const, reference: 'opening stock' };
        // An older lot that runs out soon, and a newer one.
        const old = byLot.has(item) ? Math.floor(quantity / 4) : 0;
        for (const [part, days] of [
          [old, OLD_LOT_DAYS[warehouse] ?? 45],
          [quantity - old, 380],
        ] as const) {
          if (part === 0) continue;
          const lot = byLot.has(item) ? `${warehouse.slice(0, 1)}${days}` : '';
          if (lot !== '')
            await trx
              .insertInto('item_lot')
              .values({ item, lot, expires: this.day(days) })
              .onConflict((conflict) => conflict.doNothing())
              .execute();
          // A third of what there is plenty of stands in reserve.
          const reserve = part > 60 ? Math.floor(part / 3) : 0;
          await trx
            .insertInto('stock_movement')
            .values([
              { ...common, quantity: String(part - reserve), lot },
              ...(reserve > 0 ? [{ ...common, quantity: String(reserve), lot, bin: reserveOf(item) }] : []),
            ])
            .execute();
        }
      }
    });
  }

  /** What received damaged of a purchase, and stands in quarantine until somebody decides. */
  damaged(days: number, purchase: number, quantity: number): Promise<unknown> {
    return this.on(days, async (context) => {
      const view = await readPurchase(context.trx, context.now, purchase);
      const line = view.lines.find((row) => Number(row.open) > 0)!;
      await receive(context, purchase, {
        version: view.version,
        lines: [{ line: line.id, quantity: '0', damaged: String(quantity), ...(line.tracksLots ? { lot: 'X-1', expires: this.day(200) } : {}) }],
      });
    });
  }
}

/** The bin that holds what of an item does not fit where it lives. */
function reserveOf(item: string): string {
  const sum = [...item].reduce((total, letter) => total + letter.charCodeAt(0), 0);
  return RESERVES[sum % RESERVES.length]!;
}

/** Days until the older lot of what expires runs out: at one warehouse it has. */
const OLD_LOT_DAYS: Readonly<Record<string, number>> = { MAR: 45, QUI: 24, OST: -3 };

/** What a screen that shows an order sends when it is released or sent. */
function seenOf(order: OrderView) {
  return order.lines.map((line) => ({
    line: line.id,
    schedule: line.schedule.filter((entry) => !entry.dropShip).map(({ day, quantity }) => ({ day, quantity })),
    uncovered: line.uncovered,
  }));
}

/** The day itself; where it falls on a weekend the Monday after, or the Friday before where `back`. */
function workingDay(day: number, back = false): string {
  const weekday = isoWeekday(day);
  if (weekday <= 5) return isoDay(day);
  return isoDay(back ? day + 5 - weekday : day + 8 - weekday);
}

export interface OrderWish {
  /** Days from entry to the day asked for. Default 3. */
  readonly inDays?: number;
  readonly requestKind?: 'ship_by' | 'deliver_by';
  readonly poNumber?: string;
  readonly source?: 'phone' | 'mail' | 'counter' | 'portal' | 'file';
  readonly shipComplete?: boolean;
  readonly note?: string;
}

function asLine([item, quantity, unit]: readonly [item: string, quantity: number, unit?: string]) {
  return { item, quantity: String(quantity), ...(unit ? { unit } : {}) };
}
