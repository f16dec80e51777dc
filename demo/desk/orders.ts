import { dayNumber } from '@nockwright/core/calendar';
import type { OrderView } from '@nockwright/contract/orders';
import { letterFor, type LostReason } from '@nockwright/core/orders';
import { addReminder, createCustomer } from '../../server/src/customers/commands';
import { inThisThread } from '../../server/src/work';
import { createTransport, deliverMail, mailPaper } from '../../server/src/mail/commands';
import { acceptQuote, loseQuote, reviseQuote, sendQuote } from '../../server/src/quotes/commands';
import { loadFirm } from '../../server/src/firm';
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
} from '../../server/src/orders/commands';
import { askCustomer, chooseRoute } from '../../server/src/shortages/commands';
import { DeskDays, workingDay } from './days';

/** What a coordinator does with customers, quotes and orders. */
export class OrderDesk extends DeskDays {
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

  /** Asks the customer by phone whether what waits of a line may be left out. */
  ask(days: number, order: OrderView, lineNo: number, question: string, answerIn: number): Promise<unknown> {
    return this.on(days, async (context) => {
      const line = (await readOrder(context.trx, context.now, order.id)).lines[lineNo - 1]!;
      const parts = [{ kind: 'cut' as const, quantity: line.waiting }];
      await askCustomer(context, order.id, line.id, { parts, recipients: [], question, answerBy: this.day(answerIn), onNo: 'reroute' });
    });
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
}

/** What a screen that shows an order sends when it is released or sent. */
function seenOf(order: OrderView) {
  return order.lines.map((line) => ({
    line: line.id,
    schedule: line.schedule.filter((entry) => !entry.dropShip).map(({ day, quantity }) => ({ day, quantity })),
    uncovered: line.uncovered,
  }));
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
