import { compareDecimal, type Quantity } from '@nockwright/core/money';
import { readSerials } from '@nockwright/core/serials';
import { anyOf, type Trx } from '../database';
import { invalid } from '../http/refusal';

interface Taken {
  readonly place: number;
  readonly quantity: Quantity;
  /** All of the place moves: so do its numbers. */
  readonly whole: boolean;
  readonly serials: string | undefined;
  readonly today: string;
}

/**
 * Takes the numbers of pieces that are moved out of their place, to be put where they go: those that are named, or all of them where everything moves.
 * Where only some move and none is named, it is not known which: they are missing then. The pool must be locked.
 */
export async function takeSerials(trx: Trx, { place, quantity, whole, serials: text = '', today }: Taken): Promise<readonly string[]> {
  const there = await trx
    .selectFrom('item_serial')
    .select(['id', 'serial'])
    .where('place_id', '=', place)
    .where('carton_id', 'is', null)
    .where('hold_id', 'is', null)
    .execute();
  const read = readSerials(text, today);
  if (!read.ok) throw invalid('body.serials', read.faults.map((fault) => fault.message).join('; '));
  const strange = read.serials.find((serial) => !there.some((row) => row.serial === serial));
  if (strange !== undefined) throw invalid('body.serials', `serial number ${strange} is not in this bin`);
  if (read.serials.length > 0 && compareDecimal(String(read.serials.length), quantity) !== 0)
    throw invalid('body.serials', `expected ${quantity} serial numbers, got ${read.serials.length}`);
  const moved = read.serials.length > 0 ? there.filter((row) => read.serials.includes(row.serial)) : whole ? there : [];
  if (moved.length === 0) return [];
  const ids = moved.map((row) => row.id);
  await trx.updateTable('item_serial').set({ place_id: null }).where(anyOf('id', ids)).execute();
  return moved.map((row) => row.serial);
}
