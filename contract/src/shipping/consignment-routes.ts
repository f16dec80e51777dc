import type { ShipmentId, WarehouseCode } from '@nockwright/core/ids';
import { awaited, code, decimal, get, id, integer, list, note, object, oneOf, optional, post, put, quantity, ROLES, text } from '../shape';
import { cartonType, consignment, offer, proposal, scanned, walk } from './consignment-views';

const movers = ['coordinator', 'warehouse', 'manager'] as const;
const one = object({ consignment: id() });
const part = object({ part: id() });
const carton = object({ carton: id() });
/** What a change was decided on. */
const version = integer(1);

/** Picking: from the bin into the tote. */
export const pickRoutes = {
  readWalk: get('/picks', {
    summary: 'What is to be picked at a warehouse, of some shipments or all, in the sequence of the bins',
    roles: ROLES,
    query: object({ warehouse: code<WarehouseCode>(), shipments: optional(note(2000)) }),
    reply: walk,
  }),
  setTote: post('/shipments/{shipment}/tote', {
    summary: 'Into which tote a shipment is picked',
    roles: movers,
    params: object({ shipment: id<ShipmentId>() }),
    body: object({ tote: note(20) }),
    reply: consignment,
  }),
  pick: post('/picks/{part}/picked', {
    summary: 'So much of a part is in the tote; where a label was scanned, it is checked',
    roles: movers,
    params: part,
    body: object({ quantity: quantity(), scan: optional(note(200)) }),
    reply: consignment,
  }),
  reportShort: post('/picks/{part}/short', {
    summary: 'Less is in the bin than is to be picked: the books are corrected, other goods allocated where there are some, and who is hurt is named',
    roles: movers,
    params: part,
    body: object({ found: awaited(), why: oneOf('missing', 'damaged', 'wrong_bin', 'no_lot') }),
    reply: object({ words: text(1000), consignment }),
  }),
  chooseSource: post('/picks/{part}/source', {
    summary: 'Pick from another bin or lot',
    roles: movers,
    params: part,
    body: object({ place: id() }),
    reply: consignment,
  }),
  readSources: get('/picks/{part}/sources', {
    summary: 'Other bins and lots that a part could be picked from',
    roles: ROLES,
    params: part,
    reply: list(object({ place: id(), bin: note(), lot: note(), expires: optional(text()), free: decimal() })),
  }),
};

/** Packing: from the tote into cartons, with a label, out of the door. */
export const consignmentRoutes = {
  readConsignment: get('/consignments/{consignment}', {
    summary: 'What leaves at once, with its cartons and label',
    roles: ROLES,
    params: one,
    reply: consignment,
  }),
  cartonTypes: get('/carton-types', { summary: 'Kinds of cartons, with what fits inside', roles: ROLES, reply: list(cartonType) }),
  setCartonType: put('/carton-types', {
    summary: 'A kind of carton: what fits inside, what it weighs empty, what it may weigh packed; a new one, or another size of one there is',
    roles: ['coordinator', 'manager'],
    body: object({
      code: code(),
      name: text(60),
      length: awaited(),
      width: awaited(),
      height: awaited(),
      tare: awaited(),
      most: awaited(),
    }),
    reply: list(cartonType),
  }),
  readProposal: get('/consignments/{consignment}/proposal', {
    summary: 'Cartons that what is not packed yet would go into',
    roles: ROLES,
    params: one,
    reply: proposal,
  }),
  join: post('/consignments/{consignment}/join', {
    summary: 'Send another consignment for the same address with this one',
    roles: movers,
    params: one,
    body: object({ version, with: id() }),
    reply: consignment,
  }),
  split: post('/consignments/{consignment}/split', {
    summary: 'Send a shipment by itself',
    roles: movers,
    params: one,
    body: object({ version, shipment: id<ShipmentId>() }),
    reply: consignment,
  }),
  openCarton: post('/consignments/{consignment}/cartons', {
    summary: 'Take a new carton',
    roles: movers,
    params: one,
    body: object({ type: text(20) }),
    reply: consignment,
  }),
  packProposed: post('/consignments/{consignment}/pack-proposed', {
    summary: 'Pack what was picked as proposed, without scanning',
    roles: movers,
    params: one,
    body: object({ version }),
    reply: consignment,
  }),
  scan: post('/cartons/{carton}/scan', {
    summary: 'Scan goods into a carton; wrong goods are refused by what is wrong',
    roles: movers,
    params: carton,
    body: object({ scan: text(200), count: quantity() }),
    reply: scanned,
  }),
  takeOut: post('/cartons/{carton}/take-out', {
    summary: 'Take goods out of a carton',
    roles: movers,
    params: carton,
    body: object({ part: id(), quantity: quantity(), serial: optional(text(20)) }),
    reply: consignment,
  }),
  closeCarton: post('/cartons/{carton}/close', {
    summary: 'Close a carton at its weight; one that weighs otherwise than it should is closed only when that is confirmed',
    roles: movers,
    params: carton,
    body: object({ weight: decimal(), confirm: oneOf('no', 'yes') }),
    reply: consignment,
  }),
  reopenCarton: post('/cartons/{carton}/reopen', { summary: 'Open a carton again', roles: movers, params: carton, body: object({}), reply: consignment }),
  removeCarton: post('/cartons/{carton}/remove', { summary: 'Remove an empty carton', roles: movers, params: carton, body: object({}), reply: consignment }),
  readOffers: get('/consignments/{consignment}/offers', {
    summary: 'What carriers ask for it, and when it would arrive',
    roles: ROLES,
    params: one,
    reply: list(offer),
  }),
  setService: post('/consignments/{consignment}/service', {
    summary: 'Send it by another service; a label that was made is voided',
    roles: movers,
    params: one,
    body: object({ version, service: text(40) }),
    reply: consignment,
  }),
  requestLabel: post('/consignments/{consignment}/label', {
    summary: 'Have the carrier make the label; one that failed is tried again',
    roles: movers,
    params: one,
    body: object({}),
    reply: consignment,
  }),
  voidLabel: post('/consignments/{consignment}/void-label', {
    summary: 'Void the label with the carrier',
    roles: movers,
    params: one,
    body: object({}),
    reply: consignment,
  }),
  shipConsignment: post('/consignments/{consignment}/ship', {
    summary: 'The goods have left: stock falls, promises are met, the customer is told',
    roles: movers,
    params: one,
    body: object({ version, tracking: note(80) }),
    reply: consignment,
  }),
  readPickList: get('/consignments/{consignment}/pick-list', {
    summary: 'The pick list, in the sequence of the bins',
    roles: ROLES,
    params: one,
    media: 'application/pdf',
  }),
  readPackingList: get('/consignments/{consignment}/packing-list', {
    summary: 'The packing list: what is in it, in which carton, and what is still to come',
    roles: ROLES,
    params: one,
    media: 'application/pdf',
  }),
  readCartonLabels: get('/consignments/{consignment}/carton-labels', {
    summary: 'Labels of its cartons with their SSCC, 4 by 6 inches',
    roles: ROLES,
    params: one,
    query: object({ carton: optional(id()) }),
    media: 'application/pdf',
  }),
  readLabel: get('/consignments/{consignment}/label', { summary: 'The label that the carrier has made', roles: ROLES, params: one, media: 'application/pdf' }),
  undoShipment: post('/consignments/{consignment}/undo', {
    summary: 'Take back that it has left, while the carrier does not have it: all that was done is undone',
    roles: movers,
    params: one,
    body: object({ reason: text(300) }),
    reply: consignment,
  }),
};
