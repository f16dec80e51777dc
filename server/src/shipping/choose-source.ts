import { lastsUntil } from '@nockwright/core/book';
import { compareDecimal, least, minus } from '@nockwright/core/money';
import { shortDay } from '@nockwright/core/calendar';
import type { ConsignmentView } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import type { Db } from '../database';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { storeParts } from './load-places';
import { touchConsignment } from './lock-consignment';
import { consignmentOfPart, lockPart, unpicked } from './pick';
import { loadConsignment, readConsignment } from './read-consignment';
import type { PartRow } from './load-consignment';

interface Source {
  readonly place: number;
  readonly bin: string;
  readonly lot: string;
  readonly expires: string | undefined;
  readonly free: string;
}

/** Other bins and lots that a part could be picked from, what expires first first. */
export async function readSources(db: Db, partId: number): Promise<Source[]> {
  const { parts } = await loadConsignment(db, await consignmentOfPart(db, partId));
  const part = parts.find((row) => row.id === partId);
  return part ? loadSources(db, part.place) : [];
}

/** Places with free goods of the same item at the same warehouse as a place. */
async function loadSources(db: Db, place: number): Promise<Source[]> {
  const { rows } = await sql<Omit<Source, 'expires'> & { expires: string | null }>`
    select p.id as place, p.bin, p.lot, t.expires::text as expires, trim_scale(p.quantity - p.allocated)::text as free
    from stock_place own join stock_place p on p.item = own.item and p.warehouse = own.warehouse and p.status = 'available' and p.id <> own.id
      left join item_lot t on t.item = p.item and t.lot = p.lot
    where own.id = ${place} and p.quantity > p.allocated order by t.expires nulls last, p.bin, p.lot`.execute(db);
  return rows.map(({ expires, ...row }) => ({ ...row, expires: expires ?? undefined }));
}

/** What of a part is not picked yet is picked from another bin or lot, as far as that has it. */
export async function chooseSource(context: CommandContext, partId: number, place: number): Promise<ConsignmentView> {
  const { trx, now } = context;
  const { consignment, part } = await lockPart(trx, partId);
  await takeLocks(trx, { pools: [{ item: part.item, warehouse: consignment.head.warehouse }] });
  const source = (await loadSources(trx, part.place)).find((row) => row.place === place);
  if (!source) throw new Refusal('conflict', `Nothing of ${part.item} is free in this bin any more. Choose another.`);
  checkLasts(part, source, now.today);
  const moved = least(unpicked(part), source.free);
  if (compareDecimal(moved, '0') <= 0) throw invalid('body.place', `all ${part.quantity} are picked already`);
  const rest = minus(part.quantity, moved);
  if (compareDecimal(rest, '0') > 0) await trx.updateTable('pick_part').set({ quantity: rest }).where('id', '=', partId).execute();
  else await trx.deleteFrom('pick_part').where('id', '=', partId).execute();
  await storeParts(trx, part.shipment, [{ key: part.line, place, quantity: moved }]);
  await touchConsignment(trx, consignment.head.id);
  return readConsignment(trx, now, consignment.head.id);
}

/** Refuses a lot that does not last as long as it must where it goes. */
function checkLasts(part: PartRow, source: Source, today: string): void {
  const until = lastsUntil(part, today);
  if (source.expires === undefined || source.expires >= until) return;
  throw new Refusal('conflict', `Lot ${source.lot} of ${part.item} expires ${shortDay(source.expires, today)}. It must last until ${shortDay(until, today)}.`);
}
