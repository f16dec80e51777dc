import type { ItemPage, itemRoutes } from '@nockwright/contract/items';
import type { ItemCode } from '@nockwright/core/ids';
import type { BodyOf } from '@nockwright/contract/shape';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { readItem } from './read-item';

/** Says how an item is handled: cartons are proposed, and weighed, by it. */
export async function setHandling(context: CommandContext, code: ItemCode, body: BodyOf<typeof itemRoutes.setHandling>): Promise<ItemPage> {
  const { trx, now } = context;
  const sides = ['length', 'width', 'height'] as const;
  const known = sides.filter((side) => body[side] !== null);
  if (known.length > 0 && known.length < sides.length) {
    const missing = sides.find((side) => body[side] === null)!;
    throw invalid(`body.${missing}`, 'expected length, width and height, or none of them');
  }
  for (const side of known) if (Number(body[side]) === 0) throw invalid(`body.${side}`, 'expected centimetres above 0, got 0');
  const item = await trx
    .selectFrom('item')
    .select(['weight', 'length_cm', 'width_cm', 'height_cm', 'apart', 'tracks_serials'])
    .where('code', '=', code)
    .forNoKeyUpdate()
    .executeTakeFirst();
  if (!item) throw notFound(`item ${code}`);
  const after = {
    weight: body.weight,
    length_cm: body.length,
    width_cm: body.width,
    height_cm: body.height,
    apart: body.apart,
    tracks_serials: body.tracksSerials,
  };
  await trx.updateTable('item').set(after).where('code', '=', code).execute();
  await recordEvent(context, { kind: 'item.handling', facts: { item: code }, before: item, after, subjects: [{ kind: 'item', key: code }] });
  return readItem(trx, now, code);
}
