import { CARRIER_WEEK, deliveryDay } from '@nockwright/core/calendar';
import { chooseService } from '@nockwright/core/carriers';
import type { ConsignmentView, OfferView } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import { CarrierClient, CarrierFault, type Rate } from '../carriers';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { lockWhole, touchConsignment } from './lock-consignment';
import { destinationOf, parcelsOf } from './parcels';
import { isLabelled, loadConsignment, readConsignment, type Consignment } from './read-consignment';
import { leaving } from './ship';
import { voidLabelOf } from './void-label';

/** Has the carrier make the label of a consignment. One that failed is asked for again, under its old key: no parcel ever gets two. */
export async function requestLabel(context: CommandContext, id: number): Promise<ConsignmentView> {
  const { trx, now, jobs } = context;
  leaving(await lockWhole(trx, [id]));
  const consignment = await loadConsignment(trx, id);
  checkLabelled(consignment);
  const { label, head } = consignment;
  if (label?.state === 'made') throw new Refusal('conflict', `The label ${label.tracking} is made already. Void it before you make another.`);
  const label_id = label
    ? (
        await trx
          .updateTable('consignment_label')
          .set({ state: 'waiting', attempts: 0, fault: '', try_at: sql`now()` })
          .where('id', '=', label.id)
          .returning('id')
          .executeTakeFirstOrThrow()
      ).id
    : (
        await trx
          .insertInto('consignment_label')
          .values({ consignment_id: id, service: head.service, state: 'waiting', try_at: sql`now()` })
          .returning('id')
          .executeTakeFirstOrThrow()
      ).id;
  await jobs.send(trx, 'carrier', { label: label_id });
  await touchConsignment(trx, id);
  return readConsignment(trx, now, id);
}

/** A label is made for cartons as they are: all packed and closed. */
function checkLabelled({ head, cartons, parts }: Consignment): void {
  if (!isLabelled(head)) throw new Refusal('conflict', `${head.service_name} needs no label of a carrier.`);
  if (cartons.length === 0) throw new Refusal('conflict', 'Nothing is packed yet. Pack the goods, or take the proposed cartons.');
  const open = cartons.find((carton) => carton.weight === null);
  if (open) throw new Refusal('conflict', `Carton ${open.number} is still open. Weigh and close it.`);
  const unpacked = parts.find((part) => part.packed !== part.quantity);
  if (unpacked) throw new Refusal('conflict', `Line ${unpacked.line_no}, ${unpacked.item} is not packed yet.`);
}

export async function voidLabel(context: CommandContext, id: number): Promise<ConsignmentView> {
  const { trx, now } = context;
  leaving(await lockWhole(trx, [id]));
  await voidLabelOf(context, id);
  await touchConsignment(trx, id);
  return readConsignment(trx, now, id);
}

/** Sends a consignment by another service; the label of the old one is voided. */
export async function setService(context: CommandContext, id: number, version: number, service: string): Promise<ConsignmentView> {
  const { trx, now } = context;
  const shipments = leaving(await lockWhole(trx, [id], version));
  const known = await trx.selectFrom('carrier_service').select(['code', 'name']).where('code', '=', service).executeTakeFirst();
  if (!known) throw invalid('body.service', `there is no carrier service ${service}`);
  const before = await loadConsignment(trx, id);
  if (before.head.service === service) return readConsignment(trx, now, id);
  await voidLabelOf(context, id);
  await trx.updateTable('consignment').set({ carrier_service: service, tracking: '' }).where('id', '=', id).execute();
  await trx.updateTable('shipment').set({ carrier_service: service }).where('consignment_id', '=', id).where('state', '=', 'picking').execute();
  await touchConsignment(trx, id);
  for (const row of shipments)
    await recordEvent(context, {
      kind: 'shipment.service',
      facts: { number: row.number, service: known.name, was: before.head.service_name },
      subjects: [
        { kind: 'order', key: row.order_id },
        { kind: 'shipment', key: row.id },
      ],
    });
  return readConsignment(trx, now, id);
}

/** What carriers are asked before a service is chosen. */
export interface OffersAsked {
  readonly consignment: Consignment;
  /** The day it is promised to arrive. */
  readonly by: string;
  readonly services: readonly { readonly code: string; readonly name: string; readonly transit_days: number; readonly url: string | null }[];
}

export async function loadOffersAsked(db: Db, now: Now, id: number): Promise<OffersAsked> {
  const consignment = await loadConsignment(db, id);
  const { rows } = await sql<OffersAsked['services'][number]>`
    select f.code, f.name, f.transit_days, nullif(k.url, '') as url from carrier_service f left join carrier k on k.code = f.carrier order by f.code`.execute(
    db,
  );
  const days = consignment.shipments.flatMap((row) => row.deliver_by ?? []);
  const transit = rows.find((row) => row.code === consignment.head.service)?.transit_days ?? 0;
  const by = days.length > 0 ? days.reduce((a, b) => (a < b ? a : b)) : deliveryDay(now.today, transit, CARRIER_WEEK);
  return { consignment, by, services: rows };
}

/** What each service asks, and when it arrives. Carriers are asked outside of any transaction; one that does not answer has a fault instead of a rate. */
export async function askOffers({ consignment, by, services }: OffersAsked, now: Now): Promise<OfferView[]> {
  const urls = [...new Set(services.flatMap(({ url }) => url ?? []))];
  const asked = new Map(await Promise.all(urls.map(async (url) => [url, await ratesOf(url, consignment, services, now)] as const)));
  const found = services.map(({ code, name, transit_days, url }) => {
    if (url === null) return { service: code, name, rate: '0', arrives: deliveryDay(now.today, transit_days, CARRIER_WEEK), fault: '' };
    const answer = asked.get(url)!;
    const rate = answer.rates.find((row) => row.service === code);
    return {
      service: code,
      name,
      rate: rate?.cost ?? null,
      arrives: rate?.arrives ?? null,
      fault: rate ? '' : answer.fault || 'The carrier does not take it there.',
    };
  });
  const choice = chooseService(
    found
      .filter((row) => row.rate !== null && services.find(({ code }) => code === row.service)!.url !== null)
      .map((row) => ({ service: row.service, cost: row.rate!, arrives: row.arrives! })),
    by,
  );
  const offers = found.map((row) => ({ ...row, inTime: row.arrives !== null && row.arrives <= by, best: choice?.offer.service === row.service }));
  // The best first, then what arrives in time, the cheaper before the dearer; what nobody offers comes last.
  return offers.sort((a, b) => rankOf(a) - rankOf(b) || Number(a.rate ?? 0) - Number(b.rate ?? 0));
}

function rankOf({ best, inTime, rate }: OfferView): number {
  if (best) return 0;
  return rate === null ? 3 : inTime ? 1 : 2;
}

async function ratesOf(
  url: string,
  consignment: Consignment,
  services: OffersAsked['services'],
  now: Now,
): Promise<{ readonly rates: readonly Rate[]; readonly fault: string }> {
  try {
    const own = services.filter((row) => row.url === url).map((row) => row.code);
    return {
      rates: await new CarrierClient(url).rates({ services: own, day: now.today, to: destinationOf(consignment), parcels: parcelsOf(consignment) }),
      fault: '',
    };
  } catch (error) {
    if (error instanceof CarrierFault) return { rates: [], fault: error.message };
    throw error;
  }
}
