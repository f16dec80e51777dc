import { freeGoods } from '@nockwright/core/book';
import { answered, type Answered, type RoutingFacts } from '@nockwright/core/routing';
import type { Now } from '../clock';
import { anyOf, keepPlans, type Db } from '../database';
import { loadBook, loadOdds, loadWarehouses, slippedDropShipments } from '../promise';
import { loadDrafts, loadOffers, loadRecipes } from '../supply';
import { loadJoined, loadLines, loadSettings, loadSold, loadSubstitutes } from './routing-rows';

/** Lines of a draft or a quote are looked at as if it were released now; those of several orders must be released. */
export function loadRoutingFacts(db: Db, now: Now, lineIds: readonly number[]): Promise<RoutingFacts> {
  return keepPlans(db, () => readFacts(db, now, lineIds));
}

async function readFacts(db: Db, now: Now, lineIds: readonly number[]): Promise<RoutingFacts> {
  const rows = await loadLines(db, lineIds);
  const draft = rows.find((line) => line.state === 'draft' || line.state === 'quoted')?.order_id;
  const own = [...new Set(rows.map((line) => line.item))];
  const none = new Map<string, never>();
  const substitutes = rows.some((line) => line.replaceable) ? await loadSubstitutes(db, own) : none;
  const recipes = rows.some((line) => line.assembly_days !== null) ? await loadRecipes(db, own) : none;
  const others = [
    ...[...substitutes.values()].flatMap((list) => list.map((row) => row.substitute)),
    ...[...recipes].flatMap(([item, recipe]) => [item, ...recipe.components.map((row) => row.item)]),
  ];
  const known = [...new Set([...own, ...others])];
  const warehouses = await loadWarehouses(db);
  const desk = await loadSettings(db);
  const dropped = rows.filter((line) => line.dropped).map((line) => line.id);
  const slipped = dropped.length > 0 ? await slippedDropShipments(db, now.today, { lines: dropped }) : [];
  const late = { lines: slipped.map((row) => row.line), today: now.today };
  const answer = async (confidence: number | null, withSlipped = slipped.length > 0): Promise<Answered> =>
    answered(await loadBook(db, now, { items: known, ...(draft === undefined ? {} : { draft }), confidence, ...(withSlipped ? { slipped: late } : {}) }));
  const book = await answer(null, false);
  const surely = new Map<number | null, Answered>(slipped.length > 0 ? [] : [[null, book]]);
  for (const line of rows) {
    const sure = line.confidence ?? desk.confidence;
    if (!surely.has(sure)) surely.set(sure, await answer(sure));
  }
  const odds = await loadOdds(db);
  const offers = await loadOffers(db, own, odds);
  const suppliers = [...new Set([...offers.values()].flatMap((list) => list.map((row) => row.supplier)))];
  const items = await db.selectFrom('item').select(['code', 'cost', 'weight', 'description', 'successor', 'step']).where(anyOf('code', known)).execute();
  return {
    time: { today: now.today, localTime: now.localTime },
    lines: new Map(rows.map((line) => [line.id, line])),
    book,
    surely,
    warehouses: new Map(warehouses.map((row) => [row.code, row])),
    free: freeGoods(
      book.live,
      known.flatMap((item) => warehouses.map((row) => ({ item, warehouse: row.code }))),
    ),
    offers,
    drafts: await loadDrafts(db, suppliers),
    lanes: await db.selectFrom('transfer_lane').selectAll().orderBy('from_warehouse').execute(),
    recipes,
    substitutes,
    items: new Map(items.map((row) => [row.code, row])),
    sold: await loadSold(
      db,
      rows.filter((line) => substitutes.has(line.item)),
      substitutes,
      now.today,
    ),
    odds,
    slipped,
    joined: await loadJoined(db, [...new Set(rows.filter((line) => line.drops).map((line) => line.order_id))]),
    desk,
  };
}
