import type { Db } from '../database';

/** The least margin, in percent, that a price set by hand may leave without an approval; null: any. */
export async function floorMargin(db: Db): Promise<string | null> {
  const row = await db.selectFrom('desk_setting').select('value').where('name', '=', 'floor_margin').executeTakeFirst();
  return row ? String(row.value) : null;
}
