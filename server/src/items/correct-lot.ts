import type { ItemCode } from '@nockwright/core/ids';
import { type LiveBook } from '@nockwright/core/book';
import type { StockPlace, stockRoutes } from '@nockwright/contract/items';
import type { RippleView } from '@nockwright/contract/promise';
import type { BodyOf } from '@nockwright/contract/shape';
import { compareDecimal, least, minus, plus } from '@nockwright/core/money';
import type { BookSupply } from '@nockwright/core/promise';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { decimal, loadBook, loadLocked, lockMoving, settleRipple, viewRipple, type RipplePlan } from '../promise';
import { listPlaces } from './stock-places';

type Correction = BodyOf<typeof stockRoutes.correctLot>;

/** Whose promises would move if a lot had another last day. */
export async function previewLot(db: Db, now: Now, item: ItemCode, lot: string, expires: string | null, accept: readonly number[]): Promise<RippleView> {
  const known = await findLot(db, item, lot);
  const live = await loadBook(db, now, { items: [item], moving: true });
  return viewRipple(db, planOf(live, item, known.expires, expires, await quantities(db, item, lot)), accept, now.today);
}

/** Corrects what was read off a label wrongly: the last day of a lot, or its name, with a reason. Promises move as was seen. */
export async function correctLot(
  context: CommandContext,
  item: ItemCode,
  lot: string,
  { expires, rename, reason, decision }: Correction,
): Promise<StockPlace[]> {
  const { trx, now } = context;
  await lockMoving(trx, decision);
  const live = await loadLocked(context, [item]);
  const known = await findLot(trx, item, lot);
  const name = rename ?? lot;
  if (name === lot && expires === known.expires) throw invalid('body', 'expected another day or another name');
  if (name !== lot && (await trx.selectFrom('item_lot').select('lot').where('item', '=', item).where('lot', '=', name).executeTakeFirst()))
    throw invalid('body.rename', `there is a lot ${name} of ${item} already: move the goods into it by count`);
  const correct = async () => {
    await trx.updateTable('item_lot').set({ lot: name, expires }).where('item', '=', item).where('lot', '=', lot).execute();
    if (name !== lot) await trx.updateTable('stock_place').set({ lot: name }).where('item', '=', item).where('lot', '=', lot).execute();
  };
  const plan = planOf(live, item, known.expires, expires, await quantities(trx, item, lot));
  const facts = { item, lot, name, expires, was: known.expires };
  await settleRipple(context, plan, decision, { kind: 'lot.corrected', facts, note: reason }, correct);
  await recordEvent(context, {
    kind: 'lot.corrected',
    facts,
    why: reason,
    before: { lot, expires: known.expires },
    after: { lot: name, expires },
    subjects: [{ kind: 'item', key: item }],
  });
  return listPlaces(trx, now, { item });
}

async function findLot(db: Db, item: ItemCode, lot: string) {
  const known = await db.selectFrom('item_lot').select(['lot', 'expires']).where('item', '=', item).where('lot', '=', lot).executeTakeFirst();
  if (!known) throw notFound(`lot ${lot} of ${item}`);
  return known;
}

/** How much of a lot may be sold at each warehouse. */
async function quantities(db: Db, item: ItemCode, lot: string): Promise<ReadonlyMap<string, string>> {
  const rows = await db
    .selectFrom('stock_place')
    .select(({ fn }) => ['warehouse', fn.sum<string>('quantity').as('quantity')])
    .where('item', '=', item)
    .where('lot', '=', lot)
    .where('status', '=', 'available')
    .groupBy('warehouse')
    .execute();
  return new Map(rows.map((row) => [row.warehouse, row.quantity]));
}

/** The book with so much of the goods of one last day among those of another: free ones first, then what is set aside for lines. */
function planOf(live: LiveBook, item: ItemCode, from: string | null, to: string | null, of: ReadonlyMap<string, string>): RipplePlan {
  const left = new Map(of);
  const supply = new Map<string, BookSupply>();
  const put = (row: BookSupply, quantity: string) => {
    if (compareDecimal(quantity, '0') <= 0) return;
    const there = supply.get(row.id);
    supply.set(row.id, { ...row, quantity: Number(there ? plus(decimal(there.quantity), quantity) : quantity) });
  };
  const free = (row: BookSupply) => Number(row.for !== undefined);
  for (const row of [...live.book.supply].sort((a, b) => free(a) - free(b))) {
    const ofLot = row.item === item && row.date === undefined && (row.expires ?? null) === from;
    const moved = ofLot ? least(decimal(row.quantity), left.get(row.warehouse) ?? '0') : '0';
    if (ofLot) left.set(row.warehouse, minus(left.get(row.warehouse) ?? '0', moved));
    put(row, minus(decimal(row.quantity), moved));
    const { expires: _, ...keeps } = row;
    const id = `${from === null ? row.id : row.id.slice(0, -from.length - 1)}${to === null ? '' : `/${to}`}`;
    put({ ...keeps, id, ...(to === null ? {} : { expires: to }) }, moved);
  }
  return { live, after: { ...live.book, supply: [...supply.values()] } };
}
