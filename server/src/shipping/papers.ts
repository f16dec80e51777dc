import { drawCartonLabelsTask, drawPaperTask, drawPickListTask, packingListName, type ToldCarton, type ToldPickList } from '../documents';
import { loadFirm } from '../firm';
import type { QueryContext, Services } from '../http/context';
import { notFound } from '../http/refusal';
import { loadDespatch } from './load-despatch';
import { packingListOf } from './packing-list';
import { expectedWeight, loadConsignment } from './read-consignment';

type Asks = Pick<QueryContext, 'db' | 'now' | 'user'>;

/** What a hand takes along: parts in the sequence of the walk, with bar codes. */
export async function pickListReply({ work }: Services, { db, now, user }: Asks, id: number): Promise<Response> {
  const consignment = await loadConsignment(db, id);
  const told: ToldPickList = {
    firm: await loadFirm(db),
    day: now.today,
    warehouse: consignment.head.warehouse,
    shipments: consignment.shipments
      .filter((row) => row.state === 'picking')
      .map((row) => ({ number: row.number, customer: consignment.head.customer, tote: row.tote, service: consignment.head.service_name })),
    parts: consignment.parts.map((part) => ({
      item: part.item,
      theirs: '',
      description: part.description,
      quantity: part.quantity,
      unit: part.unit,
      bin: part.bin,
      lot: part.lot,
      expires: part.expires,
      shipment: consignment.shipments.find((row) => row.id === part.shipment)!.number,
    })),
  };
  return pdf(await work.run(drawPickListTask, told, user.id), `pick-list-${told.shipments.map((row) => row.number).join('-')}`);
}

/** The packing list: as it was told where the consignment has left, as it would be now where it has not. */
export async function packingListReply({ work }: Services, { db, now, user }: Asks, id: number): Promise<Response> {
  const consignment = await loadConsignment(db, id);
  const orders = consignment.shipments.map((row) => row.order);
  const told = { firm: await loadFirm(db), ...packingListOf(consignment, await loadDespatch(db, id, orders), now.today, consignment.head.tracking) };
  return pdf(
    await work.run(drawPaperTask, { kind: 'packing_list', name: packingListName(told), told }, user.id),
    `packing-list-${told.shipments.map((row) => row.number).join('-')}`,
  );
}

/** Labels of all cartons, or of one, with their SSCC. */
export async function cartonLabelsReply({ work }: Services, { db, user }: Asks, id: number, carton: number | undefined): Promise<Response> {
  const consignment = await loadConsignment(db, id);
  const { cartons, head, parts, shipments } = consignment;
  const chosen = cartons.filter((row) => carton === undefined || row.id === carton);
  if (chosen.length === 0) throw notFound(`carton of consignment ${id}`);
  const told = chosen.map((row): ToldCarton => ({
    number: row.number,
    of: cartons.length,
    sscc: row.sscc,
    weight: row.weight ?? expectedWeight(row, parts),
    customer: head.customer,
    address: head.address,
    service: head.service_name,
    shipments: shipments.filter(({ state }) => state !== 'cancelled').map(({ number }) => number),
    poNumbers: [...new Set(shipments.map((shipment) => shipment.po_number).filter(Boolean))],
  }));
  return pdf(await work.run(drawCartonLabelsTask, { firm: await loadFirm(db), cartons: told }, user.id), 'carton-labels');
}

/** The label that the carrier has made. */
export async function carrierLabelReply({ db }: Asks, id: number): Promise<Response> {
  const row = await db
    .selectFrom('consignment_label')
    .select(['pdf', 'tracking'])
    .where('consignment_id', '=', id)
    .where('state', '=', 'made')
    .executeTakeFirst();
  if (!row?.pdf) throw notFound(`label of consignment ${id} yet`);
  return pdf(row.pdf, `label-${row.tracking}`);
}

function pdf(content: Uint8Array, name: string): Response {
  return new Response(new Uint8Array(content), { headers: { 'Content-Type': 'application/pdf', 'Content-Disposition': `inline; filename="${name}.pdf"` } });
}
