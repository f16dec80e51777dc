import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { shortageRoutes, type RouteChoice, type RouteWish } from '@nockwright/contract/shortages';
import type { Route } from '@nockwright/contract/shape';
import { supplyRoutes, type SupplyRipple } from '@nockwright/contract/supply';
import type { Dice } from '../../demo/dice';
import { decided } from './decided';
import type { DeskClient } from './desk-client';

/** Sends a command; that it was refused is an answer. */
export type Attempt = <P, Q, B, R>(route: Route<P, Q, B, R>, input: { params?: P; body?: B }) => Promise<R | null>;

/** What a coordinator and the warehouse do about shortages, at random, on whatever there is by now. */
export function routingActs(desk: DeskClient, attempt: Attempt, anyOrder: (dice: Dice) => Promise<OrderView | null>) {
  const someLine = async (dice: Dice) => {
    const order = await anyOrder(dice);
    const lines = order?.lines.filter((line) => line.state !== 'done') ?? [];
    return order && lines.length > 0 ? { order, line: dice.pick(lines) } : null;
  };
  return {
    /** Any way there is for a line, alone or shared out. */
    ways: async (dice: Dice) => {
      const found = await someLine(dice);
      if (!found) return null;
      const at = { order: found.order.id, line: found.line.id };
      const { status, reply } = await desk.send('mona', orderRoutes.readRoutes, {
        params: at,
        query: dice.chance(30) ? { quantity: String(dice.whole(1, 9)) } : {},
      });
      const possible = status === 200 ? reply.routes.filter((route) => route.possible) : [];
      return possible.length > 0 ? attempt(orderRoutes.chooseRoute, { params: at, body: { parts: wishesOf(dice.pick(possible)) } }) : null;
    },
    undo: async (dice: Dice) => {
      const found = await someLine(dice);
      const routes = found?.line.routes ?? [];
      if (!found || routes.length === 0) return null;
      const params = { order: found.order.id, line: found.line.id, route: dice.pick(routes).id };
      return attempt(orderRoutes.undoRoute, { params, body: { supplier: dice.pick(['cancel', 'keep'] as const) } });
    },
    many: async (dice: Dice) => {
      const short = await desk.shortages('mona');
      const lines = [...new Set(short.map((row) => row.line))].filter(() => dice.chance(50)).slice(0, 12);
      if (lines.length === 0) return null;
      const { status, reply } = await desk.send('mona', shortageRoutes.planRoutes, { query: { lines: lines.join(',') } });
      const choices = status === 200 ? reply.rows.flatMap(({ line, version, route }) => (route ? [{ line, version, parts: wishesOf(route) }] : [])) : [];
      if (choices.length === 0) return null;
      const accept = reply.ripple.offers.filter(() => dice.chance(50)).map((row) => row.line);
      return attempt(shortageRoutes.routeMany, { body: { run: crypto.randomUUID(), choices, accept } });
    },
    /** Transfers and assemblies go on, or are given up. */
    inside: async (dice: Dice) => {
      if (dice.chance(15))
        return attempt(supplyRoutes.createTransfer, {
          body: { from: 'QUI', to: 'MAR', lines: [{ item: dice.pick(['JAR', 'LID', 'TUB']), quantity: String(dice.whole(1, 9)) }] },
        });
      if (dice.chance(10))
        return attempt(supplyRoutes.createAssembly, { body: { item: dice.pick(['KIT', 'CRATE']), warehouse: 'MAR', quantity: String(dice.whole(1, 3)) } });
      const rows = await desk.call('mona', supplyRoutes.listInside);
      if (rows.length === 0) return null;
      const { kind, id } = dice.pick(rows);
      if (kind === 'assembly') {
        const params = { assembly: id };
        const { version, open } = await desk.call('mona', supplyRoutes.readAssembly, { params });
        const how = dice.whole(1, 10);
        if (how <= 2) return attempt(supplyRoutes.cancelAssembly, { params, body: { version, reason: 'test' } });
        if (how <= 4) {
          const day = dice.pick(DAYS);
          const fewer = dice.chance(50) ? { open: String(dice.whole(0, Number(open))) } : {};
          const seen = await desk.send('mona', supplyRoutes.previewAssemblyChange, { params, query: { day, ...fewer } });
          return attempt(supplyRoutes.changeAssembly, { params, body: { version, expectedDay: day, ...fewer, ...decidedOn(dice, seen) } });
        }
        return attempt(supplyRoutes.buildAssembly, { params: { assembly: id }, body: { version, quantity: String(dice.whole(1, Number(open))) } });
      }
      const params = { transfer: id };
      const transfer = await desk.call('mona', supplyRoutes.readTransfer, { params });
      const { version } = transfer;
      const line = transfer.lines.find((row) => row.open !== '0');
      if (!line) return null;
      const some = Math.max(1, Math.floor(Number(line.open)));
      if (dice.chance(20)) {
        const day = dice.pick(DAYS);
        const open = String(transfer.state === 'open' ? dice.whole(0, some) : line.open);
        const seen = await desk.send('mona', supplyRoutes.previewTransferChange, { params, query: { day, lines: `${line.id}:${open}` } });
        const body = { version, expectedDay: day, lines: [{ line: line.id, open }], ...decidedOn(dice, seen) };
        return attempt(supplyRoutes.changeTransfer, { params, body });
      }
      if (transfer.state === 'open' && dice.chance(25)) {
        const seen = await desk.send('mona', supplyRoutes.previewTransferChange, { params, query: { lines: `${line.id}:0` } });
        // One line was looked at: of a transfer of several more may move, and the decision is refused.
        return attempt(supplyRoutes.cancelTransfer, { params, body: { version, reason: 'test', ...decidedOn(dice, seen) } });
      }
      if (transfer.state === 'open') return attempt(supplyRoutes.shipTransfer, { params, body: { version } });
      const [quantity, closeRest] = [String(dice.whole(0, some)), dice.chance(20)];
      const unfit = dice.chance(25) && some > Number(quantity) ? '1' : '0';
      const seen = await desk.send('mona', supplyRoutes.previewTransferReceipt, { params, query: { lines: `${line.id}:${quantity}:${unfit}`, closeRest } });
      const lines = [{ line: line.id, quantity, ...(unfit === '0' ? {} : { damaged: unfit }), ...(dice.chance(20) ? { bin: 'A-01' } : {}) }];
      const body = { version, lines, closeRest, ...decidedOn(dice, seen) };
      return attempt(supplyRoutes.receiveTransfer, { params, body });
    },
    /** The customer is asked, and answers this or that. */
    consent: async (dice: Dice) => {
      const found = await someLine(dice);
      if (!found || found.line.waiting === '0') return null;
      const parts: RouteWish[] = [
        dice.pick([{ kind: 'special_order', supplier: 'SUP', quantity: found.line.waiting } as const, { kind: 'cut', quantity: found.line.waiting } as const]),
      ];
      const asked = await attempt(shortageRoutes.askCustomer, {
        params: { order: found.order.id, line: found.line.id },
        body: { parts, recipients: [], question: 'May we?', answerBy: '2027-03-12', onNo: dice.pick(['cancel', 'reroute'] as const) },
      });
      if (!asked) return null;
      const answer = dice.pick(['accept', 'refuse', 'part'] as const);
      const taken = answer === 'part' ? { taken: String(Math.max(1, Math.floor(Number(found.line.waiting) / 2))) } : {};
      return attempt(shortageRoutes.answerConsent, { params: { consent: asked.id }, body: { answer, ...taken } });
    },
  };
}

const DAYS = ['2027-03-10', '2027-03-12', '2027-03-19', '2027-04-02', '2027-02-01'] as const;

/** Somebody who saw the ripple does it as seen; or does not look. */
function decidedOn(dice: Dice, { status, reply }: { readonly status: number; readonly reply: SupplyRipple }) {
  return status === 200 && dice.chance(60) ? { decision: decided(reply.ripple) } : {};
}

function wishesOf({ parts }: RouteChoice): RouteWish[] {
  return parts.map(({ kind, quantity, supplier, warehouse, item }) => ({
    kind,
    quantity,
    ...(supplier ? { supplier } : {}),
    ...(warehouse ? { warehouse } : {}),
    ...(item ? { item } : {}),
  }));
}
