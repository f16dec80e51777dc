import { CarrierClient, CarrierFault, type MadeLabel } from '../carriers';
import { sql, type Updateable } from 'kysely';
import type { Database, Db, Trx } from '../database';
import type { Services } from '../http/context';
import { touchConsignment } from './lock-consignment';
import { destinationOf, parcelsOf } from './parcels';
import { loadConsignment } from './read-consignment';

/**
 * Does with the carrier what a label waits for: has it made, or voided. The carrier is asked outside of any transaction. Where it does not
 * answer the job is tried again, under the same key; what it refuses stays refused, for a person to see.
 */
export async function settleLabel({ db, clock }: Pick<Services, 'db' | 'clock'>, labelId: number, last: boolean): Promise<void> {
  const label = await loadLabel(db, labelId);
  if (!label || label.url === null || (label.state !== 'waiting' && label.state !== 'voiding')) return;
  const client = new CarrierClient(label.url);
  try {
    if (label.state === 'voiding') {
      await client.void(label.request_key);
      await change(db, labelId, 'voiding', { state: 'void', fault: '' });
      return;
    }
    const consignment = await loadConsignment(db, label.consignment_id);
    const made = await client.label({
      key: label.request_key,
      service: label.service,
      day: clock().today,
      reference: consignment.shipments.map((row) => row.number).join(', '),
      account: consignment.head.rule === 'own_account' ? consignment.head.account : '',
      to: destinationOf(consignment),
      parcels: parcelsOf(consignment),
    });
    await change(db, labelId, 'waiting', madeOf(made, clock().instant));
  } catch (error) {
    if (!(error instanceof CarrierFault)) throw error;
    const ends = error.final || last;
    // What cannot be voided is with the carrier: the label stands.
    const state = !ends ? label.state : label.state === 'waiting' ? 'failed' : label.their_id === '' ? 'void' : 'made';
    await change(db, labelId, label.state, { state, fault: error.message, attempts: label.attempts + 1 });
    if (!ends) throw error;
  }
}

/** Labels that wait and that no job has in hand, such as those of an order that was cancelled: they are seen to now and then. */
export async function sweepLabels(services: Pick<Services, 'db' | 'clock'>): Promise<void> {
  const { rows } = await sql<{ id: number }>`
    update consignment_label set try_at = now() where id in (
      select id from consignment_label where state in ('waiting', 'voiding') and try_at < now() - interval '15 seconds' order by try_at limit ${MOST} for update skip locked)
    returning id`.execute(services.db);
  for (const { id } of rows)
    await settleLabel(services, id, false).catch((error: unknown) => {
      if (!(error instanceof CarrierFault)) throw error;
    });
}

const MOST = 20;

function madeOf({ id, tracking, cost, pdf }: MadeLabel, at: Date) {
  return { state: 'made' as const, their_id: id, tracking, cost, pdf: Buffer.from(pdf, 'base64'), made_at: at, fault: '' };
}

function loadLabel(db: Db, id: number) {
  return db
    .selectFrom('consignment_label')
    .innerJoin('carrier_service', 'carrier_service.code', 'consignment_label.service')
    .leftJoin('carrier', 'carrier.code', 'carrier_service.carrier')
    .select(['consignment_id', 'request_key', 'service', 'state', 'attempts', 'their_id', 'carrier.url'])
    .where('consignment_label.id', '=', id)
    .executeTakeFirst();
}

/** Writes what became of a label, unless somebody has wanted something else of it meanwhile. */
async function change(db: Db, id: number, from: 'waiting' | 'voiding', values: Updateable<Database['consignment_label']>): Promise<void> {
  await db.transaction().execute(async (trx: Trx) => {
    const row = await trx
      .updateTable('consignment_label')
      .set(values)
      .where('id', '=', id)
      .where('state', '=', from)
      .returning('consignment_id')
      .executeTakeFirst();
    if (row) await touchConsignment(trx, row.consignment_id);
  });
}
