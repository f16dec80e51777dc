import { lastsUntil } from '@nockwright/core/book';
import { freightWords } from '@nockwright/core/freight';
import { plus, sum, times } from '@nockwright/core/money';
import { decideLeave, leaveWords, type PickPart } from '@nockwright/core/shipping';
import { fromStockingUnits } from '@nockwright/core/units';
import type { CartonView, ConsignmentView, PartView } from '@nockwright/contract/shipping';
import type { Now } from '../clock';
import { together, type Db } from '../database';
import { notFound } from '../http/refusal';
import {
  loadBeside,
  loadCartons,
  loadHeads,
  loadLabels,
  loadParts,
  loadShipmentsOf,
  type CartonRow,
  type HeadRow,
  type LabelRow,
  type PartRow,
  type ShipmentRow,
} from './load-consignment';

/** What is known of a consignment. */
export interface Consignment {
  readonly head: HeadRow;
  readonly shipments: readonly ShipmentRow[];
  readonly parts: readonly PartRow[];
  readonly cartons: readonly CartonRow[];
  readonly label: LabelRow | null;
}

/** Consignments with all that is in them, in the sequence of their ids; those that do not exist are left out. */
export async function loadConsignments(db: Db, ids: readonly number[]): Promise<readonly Consignment[]> {
  const load = (from: Db) =>
    Promise.all([loadHeads(from, ids), loadShipmentsOf(from, ids), loadParts(from, ids), loadCartons(from, ids), loadLabels(from, ids)]);
  const [heads, shipments, parts, cartons, labels] = await together(db, load);
  const own = <T extends { readonly consignment: number }>(rows: readonly T[], id: number) => rows.filter((row) => row.consignment === id);
  return heads.map((head) => ({
    head,
    shipments: own(shipments, head.id),
    parts: own(parts, head.id),
    cartons: own(cartons, head.id),
    label: labels.find((row) => row.consignment === head.id) ?? null,
  }));
}

export async function loadConsignment(db: Db, id: number): Promise<Consignment> {
  const [found] = await loadConsignments(db, [id]);
  if (!found) throw notFound(`consignment ${id}`);
  return found;
}

/** A consignment as screens show it. */
export async function readConsignment(db: Db, now: Now, id: number): Promise<ConsignmentView> {
  const [found, beside] = await Promise.all([loadConsignment(db, id), loadBeside(db, [id])]);
  return { ...viewConsignment(found, now), beside: beside.get(id) ?? [] };
}

/** Parts as core decides on them; `done` is what is picked or packed. */
export function partsOf({ parts }: Pick<Consignment, 'parts'>, done: 'picked' | 'packed', now: Now): PickPart[] {
  return parts.map((row) => ({
    id: row.id,
    line: row.line,
    lineNo: row.line_no,
    item: row.item,
    bin: row.bin,
    lot: row.lot,
    expires: row.expires,
    until: lastsUntil(row, now.today),
    quantity: row.quantity,
    done: row[done],
    numbered: row.tracks_serials ? row.numbered : null,
  }));
}

/** What keeps a consignment from leaving. `tracking`: the number that is entered as it leaves. */
export function leaveFaults(consignment: Consignment, now: Now, tracking: string) {
  const { cartons, label, head } = consignment;
  return decideLeave({
    parts: partsOf(consignment, 'packed', now),
    cartons: cartons.map((row) => ({ number: row.number, closed: row.weight !== null })),
    labelled: isLabelled(head),
    labels: label ? [{ state: label.state as 'waiting' | 'made' | 'failed', fault: label.fault }] : [],
    tracking,
    today: now.today,
  });
}

/** Whether the service has labels of its own that are made here. */
export function isLabelled({ carrier_url: url }: HeadRow): boolean {
  return url !== null && url !== '';
}

function viewConsignment(found: Consignment, now: Now): Omit<ConsignmentView, 'beside'> {
  const { head, shipments, label } = found;
  const state = stateOf(shipments);
  const events = label?.events ?? [];
  return {
    id: head.id,
    version: head.version,
    warehouse: head.warehouse,
    state,
    customer: head.customer,
    customerId: head.customer_id,
    address: head.address,
    service: head.service,
    serviceName: head.service_name,
    labelled: isLabelled(head),
    tracking: head.tracking || (label?.tracking ?? ''),
    freight: head.cost ?? label?.cost ?? null,
    currency: head.currency,
    freightTerms: freightWords({ rule: head.rule, flat: head.flat, freeFrom: head.free_from }, head.account, head.currency),
    charged: head.charged,
    shipments: shipments.map(({ order_number: orderNumber, po_number: poNumber, deliver_by: deliverBy, consignment: _, ...row }) => ({
      ...row,
      orderNumber,
      poNumber,
      deliverBy,
    })),
    parts: found.parts.map(viewPart),
    cartons: found.cartons.map((row) => viewCarton(row, found.parts)),
    label: label && {
      id: label.id,
      service: label.service,
      state: label.state,
      attempts: label.attempts,
      fault: label.fault,
      tracking: label.tracking,
      freight: label.cost,
    },
    missing: state === 'picking' ? leaveFaults(found, now, head.tracking).map((fault) => leaveWords(fault, now.today)) : [],
    undo: state === 'shipped' && !head.billed && !events.some((event) => event.kind === 'picked_up'),
    events: [...events],
  };
}

function stateOf(shipments: readonly ShipmentRow[]): ConsignmentView['state'] {
  if (shipments.some((row) => row.state === 'picking')) return 'picking';
  return shipments.some((row) => row.state === 'shipped') ? 'shipped' : 'cancelled';
}

export function viewPart(row: PartRow): PartView {
  const whole = row.order_unit === row.unit ? null : fromStockingUnits(row.quantity, row);
  return {
    id: row.id,
    shipment: row.shipment,
    line: row.line,
    lineNo: row.line_no,
    item: row.item,
    description: row.description,
    unit: row.unit,
    theirItem: row.their_item,
    bin: row.bin,
    walk: row.walk,
    lot: row.lot,
    expires: row.expires,
    tracksLots: row.tracks_lots,
    tracksSerials: row.tracks_serials,
    gtins: row.gtins,
    quantity: row.quantity,
    picked: row.picked,
    packed: row.packed,
    numbered: row.numbered,
    ordered: whole === null ? '' : `${whole} ${row.order_unit}`,
  };
}

/** What a carton should weigh: its contents and itself, in kilograms. */
export function expectedWeight(carton: Pick<CartonRow, 'tare' | 'contents'>, parts: readonly Pick<PartRow, 'id' | 'weight'>[]): string {
  const weightOf = new Map(parts.map((row) => [row.id, row.weight]));
  return plus(carton.tare, sum(carton.contents.map(({ part, quantity }) => times(quantity, weightOf.get(part) ?? '0'))));
}

function viewCarton(row: CartonRow, parts: readonly PartRow[]): CartonView {
  const partOf = new Map(parts.map((part) => [part.id, part]));
  return {
    id: row.id,
    number: row.number,
    type: row.type,
    typeName: row.type_name,
    sscc: row.sscc,
    weight: row.weight,
    expected: expectedWeight(row, parts),
    contents: row.contents.flatMap(({ part, quantity, serials }) => {
      const known = partOf.get(part);
      return known ? [{ part, item: known.item, lot: known.lot, quantity, unit: known.unit, serials: [...serials] }] : [];
    }),
  };
}
