import { consignmentRoutes, pickRoutes } from '@nockwright/contract/shipping';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { Later, mountCommand, mountQuery } from '../http/mount';
import { invalid } from '../http/refusal';
import { chooseSource, readSources } from './choose-source';
import { joinConsignments, splitShipment } from './join-split';
import { askOffers, loadOffersAsked, requestLabel, setService, voidLabel } from './labels';
import { readProposal } from './carton-proposal';
import { readCartonTypes, setCartonType } from './carton-types';
import { closeCarton, openCarton, packProposed, removeCarton, reopenCarton, scan, takeOut } from './pack';
import { carrierLabelReply, cartonLabelsReply, packingListReply, pickListReply } from './papers';
import { pick, readWalk, setTote } from './pick';
import { readConsignment } from './read-consignment';
import { reportShort } from './report-short';
import { shipConsignment } from './ship';
import { undoShipment } from './undo-shipment';

export function mountPicks(app: Hono, services: Services): void {
  mountQuery(app, services, pickRoutes.readWalk, ({ db }, { query }) => readWalk(db, query.warehouse, readIds(query.shipments)));
  mountCommand(app, services, pickRoutes.setTote, (context, { params, body }) => setTote(context, params.shipment, body.tote));
  mountCommand(app, services, pickRoutes.pick, (context, { params, body }) => pick(context, params.part, body));
  mountCommand(app, services, pickRoutes.reportShort, (context, { params, body }) => reportShort(context, params.part, body));
  mountQuery(app, services, pickRoutes.readSources, async ({ db }, { params }) =>
    (await readSources(db, params.part)).map(({ expires, ...row }) => ({ ...row, ...(expires === undefined ? {} : { expires }) })),
  );
  mountCommand(app, services, pickRoutes.chooseSource, (context, { params, body }) => chooseSource(context, params.part, body.place));
}

export function mountConsignments(app: Hono, services: Services): void {
  mountQuery(app, services, consignmentRoutes.readConsignment, ({ db, now }, { params }) => readConsignment(db, now, params.consignment));
  mountQuery(app, services, consignmentRoutes.cartonTypes, ({ db }) => readCartonTypes(db));
  mountCommand(app, services, consignmentRoutes.setCartonType, (context, { body }) => setCartonType(context, body));
  mountQuery(app, services, consignmentRoutes.readProposal, ({ db }, { params }) => readProposal(db, params.consignment));
  mountCommand(app, services, consignmentRoutes.join, (context, { params, body }) => joinConsignments(context, params.consignment, body.version, body.with));
  mountCommand(app, services, consignmentRoutes.split, (context, { params, body }) => splitShipment(context, params.consignment, body.version, body.shipment));
  mountCartons(app, services);
  mountQuery(app, services, consignmentRoutes.readOffers, async ({ db, now }, { params }) => {
    const asked = await loadOffersAsked(db, now, params.consignment);
    return new Later(() => askOffers(asked, now));
  });
  mountCommand(app, services, consignmentRoutes.setService, (context, { params, body }) => setService(context, params.consignment, body.version, body.service));
  mountCommand(app, services, consignmentRoutes.requestLabel, (context, { params }) => requestLabel(context, params.consignment));
  mountCommand(app, services, consignmentRoutes.voidLabel, (context, { params }) => voidLabel(context, params.consignment));
  mountCommand(app, services, consignmentRoutes.shipConsignment, (context, { params, body }) =>
    shipConsignment(context, params.consignment, body.tracking, body.version),
  );
  mountCommand(app, services, consignmentRoutes.undoShipment, (context, { params, body }) => undoShipment(context, params.consignment, body.reason));
  mountPapers(app, services);
}

function mountCartons(app: Hono, services: Services): void {
  mountCommand(app, services, consignmentRoutes.openCarton, (context, { params, body }) => openCarton(context, params.consignment, body.type));
  mountCommand(app, services, consignmentRoutes.packProposed, (context, { params, body }) => packProposed(context, params.consignment, body.version));
  mountCommand(app, services, consignmentRoutes.scan, (context, { params, body }) => scan(context, params.carton, body));
  mountCommand(app, services, consignmentRoutes.takeOut, (context, { params, body }) => takeOut(context, params.carton, body));
  mountCommand(app, services, consignmentRoutes.closeCarton, (context, { params, body }) => closeCarton(context, params.carton, body));
  mountCommand(app, services, consignmentRoutes.reopenCarton, (context, { params }) => reopenCarton(context, params.carton));
  mountCommand(app, services, consignmentRoutes.removeCarton, (context, { params }) => removeCarton(context, params.carton));
}

function mountPapers(app: Hono, services: Services): void {
  mountQuery(app, services, consignmentRoutes.readPickList, (context, { params }) => pickListReply(services, context, params.consignment));
  mountQuery(app, services, consignmentRoutes.readPackingList, (context, { params }) => packingListReply(services, context, params.consignment));
  mountQuery(app, services, consignmentRoutes.readCartonLabels, (context, { params, query }) =>
    cartonLabelsReply(services, context, params.consignment, query.carton),
  );
  mountQuery(app, services, consignmentRoutes.readLabel, (context, { params }) => carrierLabelReply(context, params.consignment));
}

/** Ids as a query carries them: `12,15`; null: none were named. */
function readIds(text: string | undefined): number[] | null {
  if (!text) return null;
  const ids = text.split(',').map(Number);
  if (ids.some((id) => !Number.isInteger(id) || id < 1 || id > 2_147_483_647))
    throw invalid('query.shipments', `expected ids with commas between, got ${text.slice(0, 80)}`);
  return ids;
}
