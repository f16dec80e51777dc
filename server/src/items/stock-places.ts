import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import type { StockPlace } from '@nockwright/contract/items';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { escapeLike, searchWords, type Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';

const MOST = 1000;
/** What expires within so many days is told of. */
const SOON_DAYS = 60;

export interface PlaceFilter {
  readonly search?: string;
  readonly warehouse?: WarehouseCode;
  readonly item?: ItemCode;
  readonly only?: 'all' | 'quarantine' | 'expiring' | 'nowhere';
  readonly ids?: readonly number[];
}

/** What stands where, what expires first first. */
export async function listPlaces(db: Db, now: Now, { search, warehouse, item, only = 'all', ids }: PlaceFilter): Promise<StockPlace[]> {
  const matches = searchWords(search).map((word) => {
    const like = `%${escapeLike(word)}%`;
    return sql`and (i.search like ${like} or lower(s.bin) like ${like} or lower(s.lot) like ${like} or lower(s.warehouse) like ${like})`;
  });
  const kept = {
    all: sql`true`,
    quarantine: sql`s.status = 'quarantine'`,
    expiring: sql`l.expires <= ${now.today}::date + ${SOON_DAYS}::integer and s.status = 'available'`,
    nowhere: sql`s.bin = '' and s.status = 'available'`,
  };
  const { rows } = await sql<StockPlace>`
    select s.id, s.item, i.description, i.unit, s.warehouse, s.bin, s.lot, l.expires::text as expires, s.status, trim_scale(s.quantity)::text as quantity,
      coalesce(l.expires < ${now.today}::date, false) as expired, i.tracks_serials as "tracksSerials"
    from stock_place s join item i on i.code = s.item left join item_lot l on l.item = s.item and l.lot = s.lot
    where s.quantity > 0 and ${kept[only]} and ${warehouse ? sql`s.warehouse = ${warehouse}` : sql`true`} and ${item ? sql`s.item = ${item}` : sql`true`}
      and ${ids ? sql`s.id = any(${ids})` : sql`true`} ${sql.join(matches, sql` `)}
    order by l.expires nulls last, s.item, s.warehouse, s.bin, s.lot, s.id
    limit ${MOST}`.execute(db);
  return rows;
}

/** The bins of a warehouse. */
export async function listBins(db: Db, warehouse: WarehouseCode): Promise<string[]> {
  await checkWarehouse(db, warehouse);
  const rows = await db.selectFrom('bin').select('code').where('warehouse', '=', warehouse).orderBy('walk').orderBy('code').execute();
  return rows.map((row) => row.code);
}

/** Says in which sequence the bins of a warehouse are walked. */
export async function setWalk(context: CommandContext, warehouse: WarehouseCode, wished: readonly string[]): Promise<string[]> {
  const { trx } = context;
  await checkWarehouse(trx, warehouse);
  await sql`select from warehouse where code = ${warehouse} for no key update`.execute(trx);
  const known = new Set(await listBins(trx, warehouse));
  const bins = wished.map((bin) => bin.toUpperCase());
  const strange = bins.find((bin) => !known.has(bin));
  if (strange !== undefined) throw invalid('body.bins', `there is no bin ${strange} at ${warehouse}`);
  const twice = bins.find((bin, at) => bins.indexOf(bin) !== at);
  if (twice !== undefined) throw invalid('body.bins', `bin ${twice} stands twice`);
  const left = [...known].filter((bin) => !bins.includes(bin));
  if (left.length > 0)
    throw invalid('body.bins', `expected every bin of ${warehouse}: ${left.slice(0, 5).join(', ')} ${left.length === 1 ? 'is' : 'are'} missing`);
  await sql`update bin b set walk = k.walk from unnest(${bins}::text[]) with ordinality as k(code, walk)
    where b.warehouse = ${warehouse} and b.code = k.code and b.walk <> k.walk`.execute(trx);
  await recordEvent(context, { kind: 'bins.walked', facts: { warehouse, first: bins[0]!, last: bins.at(-1)! }, subjects: [] });
  return listBins(trx, warehouse);
}

/** Adds a bin to a warehouse. */
export async function addBin(context: CommandContext, warehouse: WarehouseCode, bin: string): Promise<string[]> {
  const { trx } = context;
  await checkWarehouse(trx, warehouse);
  const { numInsertedOrUpdatedRows } = await trx
    .insertInto('bin')
    .values({ warehouse, code: bin.toUpperCase() })
    .onConflict((conflict) => conflict.doNothing())
    .executeTakeFirstOrThrow();
  if (numInsertedOrUpdatedRows === 0n) throw invalid('body.bin', `${warehouse} has a bin ${bin.toUpperCase()} already`);
  return listBins(trx, warehouse);
}

/** Says in which bin an item lives at a warehouse. */
export async function setHome(context: CommandContext, item: ItemCode, warehouse: WarehouseCode, bin: string | null): Promise<{ bin: string | null }> {
  const { trx } = context;
  const known = await trx.selectFrom('item').select('code').where('code', '=', item).executeTakeFirst();
  if (!known) throw notFound(`item ${item}`);
  await checkWarehouse(trx, warehouse);
  const home = await trx.selectFrom('item_home').select('bin').where('item', '=', item).where('warehouse', '=', warehouse).executeTakeFirst();
  if (bin === null) await trx.deleteFrom('item_home').where('item', '=', item).where('warehouse', '=', warehouse).execute();
  else {
    await checkBin(trx, warehouse, bin, 'body.bin');
    await trx
      .insertInto('item_home')
      .values({ item, warehouse, bin })
      .onConflict((conflict) => conflict.columns(['item', 'warehouse']).doUpdateSet({ bin }))
      .execute();
  }
  await recordEvent(context, {
    kind: 'item.bin_set',
    facts: { item, warehouse, bin },
    before: { bin: home?.bin ?? null },
    after: { bin },
    subjects: [{ kind: 'item', key: item }],
  });
  return { bin };
}

/** Refused where the warehouse has no such bin. */
export async function checkBin(db: Db, warehouse: WarehouseCode, bin: string, field: string): Promise<void> {
  if (!(await hasBin(db, warehouse, bin))) throw invalid(field, `there is no bin ${bin} at ${warehouse}`);
}

export async function hasBin(db: Db, warehouse: WarehouseCode, bin: string): Promise<boolean> {
  return (await db.selectFrom('bin').select('code').where('warehouse', '=', warehouse).where('code', '=', bin).executeTakeFirst()) !== undefined;
}

async function checkWarehouse(db: Db, warehouse: WarehouseCode): Promise<void> {
  const known = await db.selectFrom('warehouse').select('code').where('code', '=', warehouse).executeTakeFirst();
  if (!known) throw notFound(`warehouse ${warehouse}`);
}
