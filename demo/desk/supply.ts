import { writeOrderResponse } from '@nockwright/core/exchange';
import { sql } from 'kysely';
import { loadFirm } from '../../server/src/firm';
import { RESERVES } from '../standing/items';
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
} from '../../server/src/supply/commands';
import { nameSerials } from '../../server/src/serials/commands';
import { OrderDesk } from './orders';

/** What purchasing and the dock do. */
export class SupplyDesk extends OrderDesk {
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
