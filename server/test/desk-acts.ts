import { stockRoutes } from '@nockwright/contract/items';
import { mailRoutes } from '@nockwright/contract/mail';
import { orderRoutes } from '@nockwright/contract/orders';
import { promiseRoutes } from '@nockwright/contract/promise';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { supplyRoutes } from '@nockwright/contract/supply';
import type { Dice } from '../../demo/dice';
import { buyingActs } from './buying-acts';
import { decided } from './decided';
import { seenOf, type DeskClient } from './desk-client';
import { moneyActs } from './money-acts';
import { shippingActs } from './shipping-acts';
import { routingActs, type Attempt } from './routing-acts';

const ITEMS = ['JAR', 'LID', 'BOX'] as const;
/** What is ordered besides: put together here, or only from the shelf. */
const OTHERS = ['KIT', 'CRATE', 'TUB'] as const;

/** How often each is done, of all that are done. */
const OFTEN = {
  order: 3,
  cancel: 1,
  reroute: 1,
  promise: 1,
  buy: 1,
  supply: 3,
  ship: 2,
  rank: 2,
  raise: 1,
  offers: 1,
  count: 1,
  places: 2,
  slip: 1,
  anew: 1,
  ways: 3,
  undo: 2,
  many: 1,
  inside: 3,
  consent: 1,
  restock: 1,
  draft: 1,
  answer: 2,
  decide: 1,
  text: 1,
  mail: 2,
  price: 1,
  short: 2,
  pack: 3,
  unship: 1,
  counter: 3,
  bill: 2,
  credit: 1,
  pay: 2,
  unpay: 1,
  bank: 2,
  refund: 1,
  supplierInvoice: 2,
} as const;
const DRAWN = Object.entries(OFTEN).flatMap(([name, times]) => Array.from({ length: times }, () => name as keyof typeof OFTEN));

/** Goods and bins that a day at the desk begins with. */
export async function stockDesk(desk: DeskClient): Promise<void> {
  for (const bin of ['A-01', 'A-02']) await desk.call('wil', stockRoutes.addBin, { params: { warehouse: 'MAR' }, body: { bin } });
  for (const item of ITEMS) await desk.stockUp(item, '60');
  for (const item of [...ITEMS, 'TUB']) await desk.stockUp(item, '40', 'QUI');
  await desk.stockUp('TUB', '40');
}

/** One thing a desk does, drawn by the dice, on whatever there is by now. `file`: hands a supplier's file to the desk. */
export function deskActs(desk: DeskClient, attempt: Attempt, file: (supplier: string, content: string) => Promise<unknown>): (dice: Dice) => Promise<unknown> {
  async function anyOrder(dice: Dice) {
    const { rows } = await desk.call('mona', orderRoutes.listOrders, { query: { state: 'open' } });
    const released = rows.filter((row) => row.state === 'released');
    return released.length > 0 ? desk.read(dice.pick(released)) : null;
  }

  async function anyPurchase(dice: Dice) {
    const rows = await desk.call('mona', supplyRoutes.listPurchases, { query: { state: 'open' } });
    return rows.length > 0 ? desk.readPurchase(dice.pick(rows).id) : null;
  }

  const acts: Readonly<Record<keyof typeof OFTEN, (dice: Dice) => Promise<unknown>>> = {
    ...routingActs(desk, attempt, anyOrder),
    ...shippingActs(desk, attempt),
    ...moneyActs(desk, attempt),
    ...buyingActs(desk, attempt, anyPurchase, ITEMS, file),
    order: async (dice) => {
      const draft = await desk.draft([
        [dice.pick(ITEMS), String(dice.whole(1, 25))],
        [dice.chance(25) ? dice.pick(OTHERS) : dice.pick(ITEMS), String(dice.whole(1, 25))],
      ]);
      let order = draft;
      for (const line of draft.lines) {
        const kind = dice.pick(['special_order', 'drop_ship', 'backorder'] as const);
        if (Number(line.uncovered) > 0)
          order =
            (await attempt(orderRoutes.chooseRoute, {
              params: { order: draft.id, line: line.id },
              body: { parts: [{ kind, quantity: line.uncovered, ...(kind === 'backorder' ? {} : { supplier: 'SUP' }) }] },
            })) ?? order;
      }
      return attempt(orderRoutes.releaseOrder, { params: { order: draft.id }, body: seenOf(order) });
    },
    cancel: async (dice) => {
      const order = await anyOrder(dice);
      const line = order && dice.pick(order.lines);
      return (
        order &&
        attempt(orderRoutes.cancelOrder, {
          params: { order: order.id },
          body: {
            version: order.version,
            reason: 'other',
            purchases: dice.pick(['keep', 'cancel'] as const),
            ...(dice.chance(60) ? { line: line!.id, quantity: String(dice.whole(1, 8)) } : {}),
          },
        })
      );
    },
    reroute: async (dice) => {
      const order = await anyOrder(dice);
      const line = order && dice.pick(order.lines);
      return (
        order &&
        attempt(orderRoutes.chooseRoute, {
          params: { order: order.id, line: line!.id },
          body: { parts: [{ kind: dice.pick(['special_order', 'drop_ship'] as const), supplier: 'SUP', quantity: String(dice.whole(1, 6)) }] },
        })
      );
    },
    promise: async (dice) => {
      const order = await anyOrder(dice);
      return order && attempt(orderRoutes.promiseRest, { params: { order: order.id, line: dice.pick(order.lines).id } });
    },
    rank: async (dice) => {
      const [order, other] = [await anyOrder(dice), await anyOrder(dice)];
      if (!order || !other) return null;
      const wish = dice.chance(50) ? { priority: dice.whole(1, 9) } : { ahead: other.id };
      const { status, reply } = await desk.send('mona', orderRoutes.previewTurn, { params: { order: order.id }, query: wish });
      if (status !== 200) return null;
      const { version } = await desk.read(order);
      return attempt(orderRoutes.rankOrder, { params: { order: order.id }, body: { version, ...wish, reason: 'test', decision: decided(reply) } });
    },
    raise: async (dice) => {
      const order = await anyOrder(dice);
      if (!order) return null;
      const line = dice.pick(order.lines);
      const wish = { quantity: String(Number(line.quantity) + dice.whole(1, 5)), claim: dice.chance(50) };
      const at = { params: { order: order.id, line: line.id } };
      const { status, reply } = await desk.send('mona', orderRoutes.previewRaise, { ...at, query: wish });
      return status === 200 ? attempt(orderRoutes.raiseLine, { ...at, body: { version: order.version, ...wish, decision: decided(reply.ripple) } }) : null;
    },
    offers: async (dice) => {
      const { offers } = await desk.call('mona', promiseRoutes.listOffers);
      if (offers.length === 0) return null;
      const accept = offers.filter(() => dice.chance(50)).map((row) => row.line);
      const view = await desk.call('mona', promiseRoutes.listOffers, { query: { accept: accept.join(',') } });
      return attempt(promiseRoutes.acceptOffers, { body: { decision: decided(view, accept) } });
    },
    count: async (dice) => {
      const item = dice.pick(ITEMS);
      const { on_hand } = await desk.stock(item);
      const wish = { warehouse: 'MAR', counted: String(Math.max(0, Number(on_hand) + dice.whole(-6, 6))) };
      const { status, reply } = await desk.send('mona', stockRoutes.previewCount, { params: { item }, query: wish });
      return status === 200 ? attempt(stockRoutes.countStock, { params: { item }, body: { ...wish, reason: 'test', decision: decided(reply) } }) : null;
    },
    slip: async (dice) => {
      const purchase = await anyPurchase(dice);
      const line = purchase?.lines.find((row) => row.open !== '0');
      if (!purchase || !line || purchase.state === 'draft') return null;
      const at = { params: { purchase: purchase.id, line: line.id } };
      const wish = { open: String(Math.max(0, Number(line.open) + dice.whole(-5, 5))) };
      const day = dice.pick(['2027-03-12', '2027-03-25', '2027-04-02']);
      const { status, reply } = await desk.send('mona', supplyRoutes.previewReschedule, { ...at, query: { ...wish, day } });
      if (status !== 200) return null;
      return attempt(supplyRoutes.reschedule, { ...at, body: { version: purchase.version, ...wish, expectedDay: day, decision: decided(reply.ripple) } });
    },
    anew: async (dice) => {
      await attempt(promiseRoutes.startResequence, { body: {} });
      const run = await desk.call('mona', promiseRoutes.readResequence);
      if (run?.state !== 'done') return null;
      if (dice.chance(60)) return attempt(promiseRoutes.acceptResequence, { params: { run: run.id }, body: { all: true, lines: [] } });
      const lines = run.ripple.earlier.filter(() => dice.chance(50)).map((row) => row.line);
      const choice = await desk.call('mona', promiseRoutes.previewChoice, { params: { run: run.id }, query: { lines: lines.join(',') } });
      return attempt(promiseRoutes.acceptResequence, { params: { run: run.id }, body: { all: false, lines, decision: decided(choice) } });
    },
    buy: async (dice) => {
      const lines = [{ item: dice.pick(ITEMS), quantity: String(dice.whole(5, 40)), expectedDay: '2027-03-19' }];
      const made = await attempt(supplyRoutes.createPurchase, { body: { supplier: 'SUP', warehouse: 'MAR', lines } });
      return made && attempt(supplyRoutes.sendPurchase, { params: { purchase: made.id }, body: { version: made.version } });
    },
    supply: async (dice) => {
      const purchase = await anyPurchase(dice);
      if (!purchase) return null;
      const [line] = purchase.lines;
      // A draft that was struck empty since it was listed has none.
      if (!line) return null;
      const at = { params: { purchase: purchase.id, line: line.id } };
      const body = { version: purchase.version, lines: [{ line: line.id, quantity: String(Math.max(1, Math.ceil(Number(line.open) / dice.whole(1, 3)))) }] };
      if (purchase.state === 'draft') return attempt(supplyRoutes.sendPurchase, { params: { purchase: purchase.id }, body: { version: purchase.version } });
      if (dice.chance(20)) return attempt(supplyRoutes.closeLine, { ...at, body: { version: purchase.version, reason: 'short' } });
      if (dice.chance(20))
        return attempt(supplyRoutes.reschedule, { ...at, body: { version: purchase.version, expectedDay: dice.pick(['2027-03-12', '2027-04-02']) } });
      if (purchase.kind === 'drop_ship') return attempt(supplyRoutes.confirmDespatch, { params: { purchase: purchase.id }, body: { ...body, tracking: '' } });
      // Of several lots, and not all of it sound.
      const lots = body.lines.flatMap((row) => [
        { ...row, lot: dice.pick(['L1', 'L2']), ...(dice.chance(30) ? { damaged: String(dice.whole(1, 4)) } : {}) },
        ...(dice.chance(20) ? [{ ...row, quantity: '0', damaged: '1' }] : []),
      ]);
      return attempt(supplyRoutes.receive, { params: { purchase: purchase.id }, body: { ...body, lines: dice.chance(50) ? lots : body.lines } });
    },
    /** A text as a customer sends it: read, and what was read put into a draft. */
    text: async (dice) => {
      const draft = await attempt(orderRoutes.createOrder, { body: { customer: dice.whole(1, 2) } });
      const wishes = Array.from({ length: dice.whole(1, 12) }, () => `${dice.whole(1, 9)} x ${dice.pick(ITEMS)}`);
      return draft && attempt(orderRoutes.readText, { params: { order: draft.id }, body: { text: `Good morning,\n${wishes.join('\n')}\nThanks` } });
    },
    mail: async (dice) => {
      const order = await anyOrder(dice);
      const paper = order?.papers[0];
      if (!order || !paper) return null;
      const recipients = dice.chance(80) ? ['nora@hill.example'] : ['nora@hill.example', 'refused@hill.example'];
      return attempt(mailRoutes.mailPaper, {
        params: { order: order.id },
        body: { paper: paper.id, recipients, subject: `Your order ${order.number}`, text: 'Attached.', files: [] },
      });
    },
    price: async (dice) => {
      const draft = await desk.draft([[dice.pick(ITEMS), String(dice.whole(1, 9))]]);
      const pin = { kind: 'manual', price: `0.${dice.whole(30, 90)}`, reason: 'test' } as const;
      return attempt(orderRoutes.setPrice, { params: { order: draft.id, line: draft.lines[0]!.id }, body: { version: draft.version, pin } });
    },
    places: async (dice) => {
      const places = await desk.call('mona', stockRoutes.listPlaces, { query: { only: dice.pick(['all', 'quarantine'] as const) } });
      if (places.length === 0) return null;
      const place = dice.pick(places);
      const quantity = String(dice.whole(1, Math.max(1, Math.floor(Number(place.quantity)))));
      if (dice.chance(30)) return attempt(stockRoutes.moveGoods, { params: { place: place.id }, body: { quantity, bin: dice.pick(['', 'A-01', 'A-02']) } });
      if (dice.chance(40)) {
        const wish = { warehouse: place.warehouse, counted: String(Math.max(0, Number(place.quantity) + dice.whole(-4, 2))), place: place.id };
        const at = { params: { item: place.item } };
        const { status, reply } = await desk.send('mona', stockRoutes.previewCount, { ...at, query: wish });
        return status === 200 ? attempt(stockRoutes.countStock, { ...at, body: { ...wish, reason: 'test', decision: decided(reply) } }) : null;
      }
      const wish = { quantity, status: place.status === 'available' ? ('quarantine' as const) : ('available' as const) };
      const { status, reply } = await desk.send('mona', stockRoutes.previewMove, { params: { place: place.id }, query: wish });
      return status === 200
        ? attempt(stockRoutes.moveGoods, { params: { place: place.id }, body: { ...wish, cause: 'damaged', decision: decided(reply) } })
        : null;
    },
    ship: async (dice) => {
      const board = await desk.call('mona', shippingRoutes.readBoard);
      if (board.picking.length > 0 && dice.chance(60)) {
        const pick = dice.pick(board.picking);
        return dice.chance(80)
          ? attempt(shippingRoutes.ship, { params: { shipment: pick.id }, body: { tracking: 'T' } })
          : attempt(shippingRoutes.cancelPick, { params: { shipment: pick.id }, body: { reason: 'test' } });
      }
      if (board.ready.length === 0) return null;
      const ready = dice.pick(board.ready);
      return attempt(shippingRoutes.startPick, {
        body: {
          order: ready.order,
          warehouse: ready.warehouse,
          lines: ready.lines.map((line) => ({ line: line.line, quantity: String(Math.max(1, Math.ceil(Number(line.quantity) / dice.whole(1, 2)))) })),
        },
      });
    },
  };
  return (dice) => acts[dice.pick(DRAWN)](dice);
}
