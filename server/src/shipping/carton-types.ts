import type { CartonTypeView, consignmentRoutes } from '@nockwright/contract/shipping';
import type { BodyOf } from '@nockwright/contract/shape';
import { sql } from 'kysely';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';

/** Goods that go as they are, with a label of their own. */
export const OWN = 'OWN';

/** Kinds of cartons, the smallest first. */
export async function readCartonTypes(db: Db): Promise<CartonTypeView[]> {
  const { rows } = await sql<CartonTypeView>`
    select code, name, trim_scale(length_cm)::text as length, trim_scale(width_cm)::text as width, trim_scale(height_cm)::text as height,
      trim_scale(tare_kg)::text as tare, trim_scale(most_kg)::text as most
    from carton_type order by length_cm * width_cm * height_cm, code`.execute(db);
  return rows;
}

/** A new kind of carton, or another size of one there is: what is packed already stays as it is. */
export async function setCartonType(context: CommandContext, body: BodyOf<typeof consignmentRoutes.setCartonType>): Promise<CartonTypeView[]> {
  const { trx } = context;
  const type = body.code.toUpperCase();
  if (type === OWN) throw new Refusal('conflict', `${OWN} stands for goods that go as they are: it has no size.`);
  for (const side of ['length', 'width', 'height', 'most'] as const) if (Number(body[side]) === 0) throw invalid(`body.${side}`, 'expected more than 0, got 0');
  if (Number(body.tare) >= Number(body.most)) throw invalid('body.most', `expected more than the ${body.tare} kg it weighs empty, got ${body.most}`);
  const sizes = { name: body.name, length_cm: body.length, width_cm: body.width, height_cm: body.height, tare_kg: body.tare, most_kg: body.most };
  await trx
    .insertInto('carton_type')
    .values({ code: type, ...sizes })
    .onConflict((conflict) => conflict.column('code').doUpdateSet(sizes))
    .execute();
  await recordEvent(context, { kind: 'carton_type.set', facts: { type }, after: sizes, subjects: [] });
  return readCartonTypes(trx);
}
