import type { serialRoutes } from '@nockwright/contract/items';
import type { BodyOf } from '@nockwright/contract/shape';
import type { ItemCode } from '@nockwright/core/ids';
import { compareDecimal } from '@nockwright/core/money';
import { readSerials, whereWords } from '@nockwright/core/serials';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { loadWheres } from './load-serials';
import { placeSerials } from './place-serials';
import { listSerials } from './read-serials';

/** Says which pieces are in a bin. What is in a carton, in a basket or with a customer cannot be there as well. */
export async function nameSerials(context: CommandContext, item: ItemCode, body: BodyOf<typeof serialRoutes.placeSerials>) {
  const { trx, now } = context;
  const { warehouse, bin, lot = '', status = 'available', reason = '' } = body;
  const known = await trx.selectFrom('item').select('tracks_serials').where('code', '=', item).executeTakeFirst();
  if (!known) throw notFound(`item ${item}`);
  if (!known.tracks_serials) throw new Refusal('conflict', `${item} has no serial numbers. Say so at the item first.`);
  const read = readSerials(body.serials, now.today);
  if (!read.ok) throw invalid('body.serials', read.faults.map((fault) => fault.message).join('; '));
  if (read.serials.length === 0) throw invalid('body.serials', 'expected at least one serial number');
  await takeLocks(trx, { pools: [{ item, warehouse }] });
  const place = await trx
    .selectFrom('stock_place')
    .select('quantity')
    .where('item', '=', item)
    .where('warehouse', '=', warehouse)
    .where('status', '=', status)
    .where('lot', '=', lot)
    .where('bin', '=', bin)
    .executeTakeFirst();
  const held = place?.quantity ?? '0';
  if (compareDecimal(String(read.serials.length), held) > 0)
    throw invalid(
      'body.serials',
      `${bin === '' ? warehouse : bin} holds ${held} of ${item}${lot === '' ? '' : ` of lot ${lot}`}: got ${read.serials.length} serial numbers`,
    );
  const taken = [...((await loadWheres(trx, [item], read.serials)).get(item) ?? [])].filter(([, where]) => where.kind !== 'place' && where.kind !== 'unseen');
  if (taken.length > 0) throw invalid('body.serials', taken.map(([serial, where]) => `serial number ${serial} of ${item} is ${whereWords(where)}`).join('; '));
  await placeSerials(context, [{ item, warehouse, status, lot, bin, serials: read.serials, reference: reason }], 'placed');
  await recordEvent(context, {
    kind: 'serials.placed',
    facts: { item, count: read.serials.length, warehouse, bin },
    why: reason,
    subjects: [{ kind: 'item', key: item }],
  });
  return listSerials(trx, item);
}
