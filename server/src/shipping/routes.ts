import { carrierRoutes, pickRuleRoutes, shippingRoutes } from '@nockwright/contract/shipping';
import type { Hono } from 'hono';
import { freshenBoards } from '../boards';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { notFound } from '../http/refusal';
import { readRules, setRules, tryOnPast } from './pick-rules';
import { readBoard } from './read-board';
import { readShipments } from './read-shipment';
import { cancelPick } from './cancel-pick';
import { listCarriers, moveParcels, setCarrier } from './carriers';
import { mountConsignments, mountPicks } from './consignment-routes';
import { countDue } from './count-due';
import { ship } from './ship';
import { startPick } from './start-pick';
import { promiseMissed } from './promise-missed';
import { startPicks } from './start-picks';

export function mountShipping(app: Hono, services: Services): void {
  mountQuery(app, services, shippingRoutes.readBoard, ({ db, now }, { query }) => readBoard(db, now, query), freshenBoards);
  mountQuery(app, services, shippingRoutes.countDue, ({ db, now }) => countDue(db, now));
  mountCommand(app, services, shippingRoutes.promiseMissed, (context, { body }) => promiseMissed(context, body.orders));
  mountCommand(app, services, shippingRoutes.startPicks, (context, { body }) => startPicks(context, body.picks));
  mountCommand(app, services, shippingRoutes.startPick, (context, { body }) => startPick(context, body));
  mountQuery(app, services, shippingRoutes.readShipment, async ({ db }, { params }) => {
    const [shipment] = await readShipments(db, [params.shipment]);
    if (!shipment) throw notFound(`shipment ${params.shipment}`);
    return shipment;
  });
  mountCommand(app, services, shippingRoutes.ship, (context, { params, body }) => ship(context, params.shipment, body.tracking));
  mountCommand(app, services, shippingRoutes.cancelPick, (context, { params, body }) => cancelPick(context, params.shipment, body.reason));
  mountQuery(app, services, pickRuleRoutes.readPickRules, ({ db }) => readRules(db));
  mountCommand(app, services, pickRuleRoutes.tryPickRules, ({ trx, now }, { body }) => tryOnPast(trx, now, body));
  mountCommand(app, services, pickRuleRoutes.setPickRules, (context, { body }) => setRules(context, body));
  mountQuery(app, services, carrierRoutes.readCarriers, ({ db }) => listCarriers(db));
  mountCommand(app, services, carrierRoutes.setCarrier, (context, { params, body }) => setCarrier(context, params.carrier, body));
  mountCommand(app, services, carrierRoutes.moveParcels, (context, { params }) => moveParcels(context, params.carrier));
  mountPicks(app, services);
  mountConsignments(app, services);
}
