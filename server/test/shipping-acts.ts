import { counterRoutes } from '@nockwright/contract/counter';
import { orderRoutes } from '@nockwright/contract/orders';
import { consignmentRoutes, pickRoutes, shippingRoutes, type ConsignmentView } from '@nockwright/contract/shipping';
import type { Dice } from '../../demo/dice';
import type { DeskClient } from './desk-client';
import type { Attempt } from './routing-acts';

const ITEMS = ['JAR', 'LID', 'BOX', 'TUB'] as const;

/** What happens between bin, bench, door and counter, drawn by the dice. */
export function shippingActs(desk: DeskClient, attempt: Attempt) {
  async function anyConsignment(dice: Dice): Promise<ConsignmentView | null> {
    const { picking } = await desk.call('mona', shippingRoutes.readBoard);
    const chosen = picking.filter((pick) => pick.consignment !== null);
    if (chosen.length === 0) return null;
    const { status, reply } = await desk.send('mona', consignmentRoutes.readConsignment, { params: { consignment: dice.pick(chosen).consignment! } });
    return status === 200 ? reply : null;
  }

  return {
    /** Less is in the bin than is to be picked, or another bin is chosen. */
    short: async (dice: Dice) => {
      const view = await anyConsignment(dice);
      if (!view || view.parts.length === 0) return null;
      const part = dice.pick(view.parts);
      if (dice.chance(40)) return attempt(pickRoutes.pick, { params: { part: part.id }, body: { quantity: part.quantity } });
      if (dice.chance(30)) {
        const sources = await desk.send('mona', pickRoutes.readSources, { params: { part: part.id } });
        const [source] = sources.status === 200 ? sources.reply : [];
        return source ? attempt(pickRoutes.chooseSource, { params: { part: part.id }, body: { place: source.place } }) : null;
      }
      const found = String(dice.whole(0, Math.max(0, Math.floor(Number(part.quantity)) - 1)));
      return attempt(pickRoutes.reportShort, { params: { part: part.id }, body: { found, why: dice.pick(['missing', 'damaged', 'wrong_bin'] as const) } });
    },
    pack: async (dice: Dice) => {
      const view = await anyConsignment(dice);
      if (!view) return null;
      const params = { consignment: view.id };
      const [other] = view.beside;
      if (other && dice.chance(30)) return attempt(consignmentRoutes.join, { params, body: { version: view.version, with: other.consignment } });
      if (view.shipments.length > 1 && dice.chance(30))
        return attempt(consignmentRoutes.split, { params, body: { version: view.version, shipment: dice.pick(view.shipments).id } });
      const carton = view.cartons.length > 0 ? dice.pick(view.cartons) : null;
      if (!carton || dice.chance(20)) return attempt(consignmentRoutes.openCarton, { params, body: { type: 'OWN' } });
      const [content] = carton.contents;
      if (content && dice.chance(30))
        return attempt(consignmentRoutes.takeOut, { params: { carton: carton.id }, body: { part: content.part, quantity: content.quantity } });
      if (dice.chance(50) && view.parts.length > 0)
        return attempt(consignmentRoutes.scan, { params: { carton: carton.id }, body: { scan: dice.pick(view.parts).item, count: String(dice.whole(1, 4)) } });
      return attempt(consignmentRoutes.packProposed, { params, body: { version: view.version } });
    },
    /** Something that has left is taken back. */
    unship: async (dice: Dice) => {
      const { rows } = await desk.call('mona', orderRoutes.listOrders, { query: {} });
      const shipped = rows.filter((row) => row.kind === 'order');
      if (shipped.length === 0) return null;
      const { status, reply } = await desk.send('mona', orderRoutes.readOrder, { params: { order: dice.pick(shipped).id } });
      const left = status === 200 ? reply.shipments.filter((row) => row.state === 'shipped' && row.consignment !== null) : [];
      if (left.length === 0) return null;
      return attempt(consignmentRoutes.undoShipment, { params: { consignment: dice.pick(left).consignment! }, body: { reason: 'test' } });
    },
    counter: async (dice: Dice) => {
      const open = await desk.call('wil', counterRoutes.listBaskets, { query: { warehouse: 'MAR' } });
      if (open.length === 0 || dice.chance(25)) return attempt(counterRoutes.startBasket, { body: { warehouse: 'MAR', customer: 1 } });
      const params = { order: dice.pick(open).order };
      if (dice.chance(60))
        return attempt(counterRoutes.scanBasket, { params, body: { scan: dice.pick(ITEMS), count: String(dice.whole(1, 3)), back: dice.chance(25) } });
      if (dice.chance(25)) return attempt(counterRoutes.dropBasket, { params, body: {} });
      const { status, reply } = await desk.send('wil', counterRoutes.readBasket, { params });
      return status === 200
        ? attempt(counterRoutes.payBasket, { params, body: { version: reply.version, method: dice.pick(['cash', 'card', 'account'] as const) } })
        : null;
    },
  };
}
