import { proposeCartons, weightFault } from '@nockwright/core/packing';
import { compareDecimal, minus, type Quantity } from '@nockwright/core/money';
import { makeSscc, readScan } from '@nockwright/core/scans';
import { decideScan, scanWords } from '@nockwright/core/shipping';
import type { ConsignmentView, ScannedView } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import type { Trx } from '../database';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { packSerial, unpackSerials } from '../serials';
import { goodsOf, kilograms, loadKinds } from './carton-proposal';
import { OWN } from './carton-types';
import { loadScanned } from './load-scanned';
import { lockConsignment, touchConsignment } from './lock-consignment';
import { expectedWeight, loadConsignment, readConsignment, type Consignment } from './read-consignment';
import { voidLabelOf } from './void-label';

/** A quantity piece by piece; what is no whole number goes as one. */
function singly(quantity: number): number[] {
  return Number.isInteger(quantity) ? new Array<number>(quantity).fill(1) : [quantity];
}

function weightOf({ parts }: Consignment, part: number): number {
  return Number(parts.find((row) => row.id === part)!.weight);
}

/** Takes a new carton; its number within the consignment and its SSCC are its own. */
export async function openCarton(context: CommandContext, id: number, type: string): Promise<ConsignmentView> {
  const { trx, now } = context;
  await lockOpen(trx, id);
  await addCarton(trx, id, type);
  // A label is of the cartons as they were.
  await voidLabelOf(context, id);
  await touchConsignment(trx, id);
  return readConsignment(trx, now, id);
}

async function addCarton(trx: Trx, id: number, type: string): Promise<number> {
  const known = await trx.selectFrom('carton_type').select('code').where('code', '=', type).executeTakeFirst();
  if (!known) throw invalid('body.type', `there is no carton ${type}`);
  const { rows } = await sql<{ prefix: string; serial: string; number: number }>`
    select gs1_prefix as prefix, nextval('carton_serial')::text as serial,
      (select coalesce(max(number), 0) + 1 from carton where consignment_id = ${id}) as number from firm`.execute(trx);
  const { prefix, serial, number } = rows[0]!;
  // Without a prefix of their own a firm numbers within itself, as GS1 reserves 0200000 and the like for (from memory).
  const sscc = makeSscc(prefix || '0200000', Number(serial));
  const { id: carton } = await trx.insertInto('carton').values({ consignment_id: id, number, type, sscc }).returning('id').executeTakeFirstOrThrow();
  return carton;
}

/** Locks a consignment that is still in the house; gives it as it is then. */
async function lockOpen(trx: Trx, id: number, version?: number): Promise<Consignment> {
  await lockConsignment(trx, id, version);
  const consignment = await loadConsignment(trx, id);
  if (!consignment.shipments.some((row) => row.state === 'picking')) throw new Refusal('conflict', 'This consignment has left, or was cancelled.');
  return consignment;
}

async function lockCarton(trx: Trx, cartonId: number) {
  const row = await trx.selectFrom('carton').select('consignment_id').where('id', '=', cartonId).executeTakeFirst();
  if (!row) throw notFound(`carton ${cartonId}`);
  const consignment = await lockOpen(trx, row.consignment_id);
  const carton = consignment.cartons.find(({ id }) => id === cartonId);
  if (!carton) throw notFound(`carton ${cartonId}`);
  return { consignment, carton, id: row.consignment_id };
}

/** Scans goods into a carton. What is wrong is refused in words, and nothing is lost: the packer goes on scanning. */
export async function scan(
  context: CommandContext,
  cartonId: number,
  { scan: text, count }: { readonly scan: string; readonly count: Quantity },
): Promise<ScannedView> {
  const { trx, now } = context;
  const { consignment, carton, id } = await lockCarton(trx, cartonId);
  const refused = async (words: string) => ({ ok: false, words, consignment: await readConsignment(trx, now, id) });
  if (carton.weight !== null) return refused(`Carton ${carton.number} is closed. Open it again, or take another.`);
  const read = readScan(text, now.today);
  if (!read.ok) return refused(`This label cannot be read: ${read.fault}.`);
  if (read.scan.sscc) return refused('This is the label of a carton, not of goods.');
  // A piece is in one carton: whoever scans one of the same goods meanwhile waits.
  const pieces = consignment.parts.filter((part) => part.tracks_serials);
  if (pieces.length > 0) await takeLocks(trx, { pools: pieces.map(({ item }) => ({ item, warehouse: consignment.head.warehouse })) });
  const { scan: named, facts } = await loadScanned(trx, now, consignment, read.scan);
  const decision = decideScan(named, count, facts);
  if (!decision.ok) return refused(scanWords(decision.refusal, now.today));
  await putIn(trx, cartonId, decision.parts);
  if (named.serial !== undefined && decision.parts[0])
    await packSerial(context, { item: decision.item, serial: named.serial, carton: cartonId, part: decision.parts[0].part.id });
  await touchConsignment(trx, id);
  return {
    ok: true,
    words: `${decision.quantity} ${decision.item}${named.serial === undefined ? '' : `, serial number ${named.serial},`} in carton ${carton.number}.`,
    consignment: await readConsignment(trx, now, id),
  };
}

async function putIn(trx: Trx, carton: number, parts: readonly { readonly part: { readonly id: number }; readonly quantity: Quantity }[]): Promise<void> {
  await sql`insert into carton_content (carton_id, part_id, quantity)
    select ${carton}, k.* from unnest(${parts.map((row) => row.part.id)}::int[], ${parts.map((row) => row.quantity)}::numeric[]) as k(part, quantity)
    on conflict (carton_id, part_id) do update set quantity = carton_content.quantity + excluded.quantity`.execute(trx);
  // What is in a carton was picked, whether or not that was said.
  await sql`update pick_part p set picked = greatest(p.picked, (select sum(quantity) from carton_content where part_id = p.id))
    where p.id = any(${parts.map((row) => row.part.id)}::int[])`.execute(trx);
}

/** Takes goods out of a carton; a closed one is open again. */
export async function takeOut(
  context: CommandContext,
  cartonId: number,
  { part, quantity, serial }: { readonly part: number; readonly quantity: Quantity; readonly serial?: string },
): Promise<ConsignmentView> {
  const { trx, now } = context;
  const { carton, id } = await lockCarton(trx, cartonId);
  const held = carton.contents.find((row) => row.part === part)?.quantity ?? '0';
  if (compareDecimal(quantity, held) > 0) throw invalid('body.quantity', `carton ${carton.number} holds ${held} of them`);
  if (serial !== undefined && compareDecimal(quantity, '1') !== 0) throw invalid('body.quantity', `one serial number is one piece, got ${quantity}`);
  await unpackSerials(trx, { carton: cartonId, part, quantity, serial });
  const rest = minus(held, quantity);
  if (compareDecimal(rest, '0') > 0)
    await trx.updateTable('carton_content').set({ quantity: rest }).where('carton_id', '=', cartonId).where('part_id', '=', part).execute();
  else await trx.deleteFrom('carton_content').where('carton_id', '=', cartonId).where('part_id', '=', part).execute();
  await trx.updateTable('carton').set({ weight_kg: null, closed_at: null, closed_by: null }).where('id', '=', cartonId).execute();
  await voidLabelOf(context, id);
  await touchConsignment(trx, id);
  return readConsignment(trx, now, id);
}

/** Closes a carton at the weight that the scale shows. */
export async function closeCarton(
  context: CommandContext,
  cartonId: number,
  { weight, confirm }: { readonly weight: string; readonly confirm: 'yes' | 'no' },
): Promise<ConsignmentView> {
  const { trx, now, user } = context;
  const { consignment, carton, id } = await lockCarton(trx, cartonId);
  if (carton.contents.length === 0) throw new Refusal('conflict', `Carton ${carton.number} is empty. Pack it, or remove it.`);
  if (compareDecimal(weight, '0') <= 0) throw invalid('body.weight', `expected a weight in kilograms above 0, got ${weight}`);
  const expected = expectedWeight(carton, consignment.parts);
  const fault = weightFault(Number(weight), Number(expected));
  if (fault && confirm === 'no')
    throw new Refusal(
      'conflict',
      `Carton ${carton.number} weighs ${weight} kg, ${fault} than the ${expected} kg it should. Check what is in it, or confirm the weight.`,
      [{ field: 'body.weight', message: `${fault} than the ${expected} kg it should be` }],
    );
  await trx.updateTable('carton').set({ weight_kg: weight, closed_at: now.instant, closed_by: user.id }).where('id', '=', cartonId).execute();
  await touchConsignment(trx, id);
  return readConsignment(trx, now, id);
}

export async function reopenCarton(context: CommandContext, cartonId: number): Promise<ConsignmentView> {
  const { trx, now } = context;
  const { id } = await lockCarton(trx, cartonId);
  await trx.updateTable('carton').set({ weight_kg: null, closed_at: null, closed_by: null }).where('id', '=', cartonId).execute();
  await voidLabelOf(context, id);
  await touchConsignment(trx, id);
  return readConsignment(trx, now, id);
}

export async function removeCarton(context: CommandContext, cartonId: number): Promise<ConsignmentView> {
  const { trx, now } = context;
  const { carton, id } = await lockCarton(trx, cartonId);
  if (carton.contents.length > 0) throw new Refusal('conflict', `Carton ${carton.number} is not empty. Take out what is in it first.`);
  await trx.deleteFrom('carton').where('id', '=', cartonId).execute();
  await touchConsignment(trx, id);
  return readConsignment(trx, now, id);
}

/** Packs all that is not packed yet into cartons as proposed, without scanning, and closes them at the weight they should have. */
export async function packProposed(context: CommandContext, id: number, version: number): Promise<ConsignmentView> {
  const { trx, now, user } = context;
  const consignment = await lockOpen(trx, id, version);
  // Which piece is in which carton only a scan says.
  const scanned = consignment.parts.filter((part) => part.tracks_serials && compareDecimal(part.packed, part.quantity) < 0);
  const plan = proposeCartons(goodsOf({ ...consignment, parts: consignment.parts.filter((part) => !part.tracks_serials) }), await loadKinds(trx));
  const alone = plan.alone.flatMap(({ key, quantity }) =>
    singly(quantity).map((piece) => ({ kind: OWN, contents: [{ key, quantity: piece }], weight: weightOf(consignment, key) * piece })),
  );
  const cartons = [...plan.cartons, ...alone];
  if (cartons.length === 0)
    throw new Refusal(
      'conflict',
      scanned.length > 0
        ? `${[...new Set(scanned.map((part) => part.item))].join(', ')}: pack them by scanning their serial numbers.`
        : 'All is packed already.',
    );
  for (const { kind, contents, weight } of cartons) {
    const carton = await addCarton(trx, id, kind);
    await putIn(
      trx,
      carton,
      contents.map(({ key, quantity }) => ({ part: { id: key }, quantity: String(quantity) })),
    );
    await trx
      .updateTable('carton')
      .set({ weight_kg: kilograms(weight), closed_at: now.instant, closed_by: user.id })
      .where('id', '=', carton)
      .execute();
  }
  await touchConsignment(trx, id);
  return readConsignment(trx, now, id);
}
