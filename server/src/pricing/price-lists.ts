import type { PriceListRow, PriceListView, pricingRoutes } from '@nockwright/contract/pricing';
import type { BodyOf } from '@nockwright/contract/shape';
import { divide, marginPercent, times } from '@nockwright/core/money';
import { cheaperInList, priceChanges, type PriceOf } from '@nockwright/core/pricing';
import { unitName } from '@nockwright/core/units';
import { sql } from 'kysely';
import { anyOf, type Db, type Trx } from '../database';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';

type Wish = BodyOf<typeof pricingRoutes.storePrices>;

export async function listPriceLists(db: Db): Promise<PriceListRow[]> {
  const { rows } = await sql<PriceListRow>`
    select code, name, (select count(*)::int from price_break where price_list = code) as prices,
      (select count(*)::int from customer where price_list = code) as customers
    from price_list order by code`.execute(db);
  return rows;
}

/** Refuses a list that there is none of. */
export async function checkPriceList(db: Db, code: string): Promise<void> {
  if (!(await db.selectFrom('price_list').select('code').where('code', '=', code).executeTakeFirst())) throw notFound(`price list ${code}`);
}

export async function readPriceList(db: Db, code: string): Promise<PriceListView> {
  const list = await db.selectFrom('price_list').selectAll().where('code', '=', code).executeTakeFirst();
  if (!list) throw notFound(`price list ${code}`);
  const rows = await db
    .selectFrom('price_break')
    .innerJoin('item', 'item.code', 'price_break.item')
    .leftJoin('item_unit', (join) => join.onRef('item_unit.item', '=', 'price_break.item').onRef('item_unit.unit', '=', 'price_break.unit'))
    .select(['price_break.item', 'item.description', 'price_break.unit', 'from_quantity', 'price', 'list_price', 'cost', 'numerator', 'denominator'])
    .where('price_list', '=', code)
    .orderBy('price_break.item')
    .orderBy('price_break.unit')
    .orderBy('from_quantity')
    .execute();
  const listed = rows.map((row) => ({
    unit: row.unit,
    from: row.from_quantity,
    price: row.price,
    ratio: { numerator: row.numerator ?? 1, denominator: row.denominator ?? 1 },
  }));
  const ofItem = new Map<string, typeof listed>();
  rows.forEach((row, at) => ofItem.set(row.item, [...(ofItem.get(row.item) ?? []), listed[at]!]));
  return {
    ...list,
    prices: rows.map((row, at) => {
      const lower = cheaperInList(listed[at]!, ofItem.get(row.item)!);
      const per = (value: string) => divide(times(value, row.numerator ?? 1), row.denominator ?? 1, 4);
      return {
        item: row.item,
        description: row.description,
        unit: row.unit,
        from: row.from_quantity,
        price: row.price,
        listPrice: per(row.list_price),
        marginPercent: marginPercent(row.price, per(row.cost)),
        lower: lower && { unit: lower.unit, from: lower.from, price: lower.price },
      };
    }),
  };
}

/** Writes prices of a list, all or none; `all`: prices that are not named go. */
export async function storePrices(context: CommandContext, code: string, wish: Wish): Promise<PriceListView> {
  const { trx } = context;
  const list = await trx.selectFrom('price_list').select(['name', 'version']).where('code', '=', code).forNoKeyUpdate().executeTakeFirst();
  if (!list) throw notFound(`price list ${code}`);
  if (list.version !== wish.version)
    throw await changedSince(trx, { kind: 'price_list', key: code, label: `Price list ${list.name}`, given: wish.version, current: list.version });
  const before = await pricesOf(trx, code);
  await checkPrices(trx, wish.prices);
  if (wish.all) await trx.deleteFrom('price_break').where('price_list', '=', code).execute();
  const rows = wish.prices.map(({ item, unit, from, price }) => ({ price_list: code, item, unit, from_quantity: from, price }));
  for (let at = 0; at < rows.length; at += 1000)
    await trx
      .insertInto('price_break')
      .values(rows.slice(at, at + 1000))
      .onConflict((conflict) => conflict.columns(['price_list', 'item', 'unit', 'from_quantity']).doUpdateSet({ price: sql`excluded.price` }))
      .execute();
  await trx
    .updateTable('price_list')
    .set({ version: list.version + 1 })
    .where('code', '=', code)
    .execute();
  const changes = priceChanges(before, await pricesOf(trx, code));
  await recordEvent(context, {
    kind: 'prices.changed',
    facts: { list: list.name, changes },
    before: changes.flatMap((change) => change.before ?? []),
    after: changes.flatMap((change) => change.after ?? []),
    subjects: [{ kind: 'price_list', key: code }],
  });
  return readPriceList(trx, code);
}

function pricesOf(trx: Trx, code: string): Promise<PriceOf[]> {
  return trx
    .selectFrom('price_break')
    .select(['item', 'unit', 'from_quantity as from', 'price'])
    .where('price_list', '=', code)
    .orderBy('item')
    .orderBy('unit')
    .orderBy('from_quantity')
    .execute();
}

async function checkPrices(trx: Trx, prices: Wish['prices']) {
  const codes = [...new Set(prices.map((row) => row.item))];
  const items = new Map((await trx.selectFrom('item').select(['code', 'unit']).where(anyOf('code', codes)).execute()).map((row) => [row.code, row.unit]));
  const units = new Set(
    (await trx.selectFrom('item_unit').select(['item', 'unit']).where(anyOf('item', codes)).execute()).map((row) => `${row.item} ${row.unit}`),
  );
  const seen = new Map<string, number>();
  const errors: { field: string; message: string }[] = [];
  prices.forEach(({ item, unit, from }, at) => {
    const fault = (field: string, message: string) => errors.push({ field: `body.prices[${at}].${field}`, message });
    if (!items.has(item)) fault('item', `there is no item ${item}`);
    else if (items.get(item) !== unit && !units.has(`${item} ${unit}`)) fault('unit', `${item} is not sold by ${unitName(unit)}`);
    const key = `${item} ${unit} ${Number(from)}`;
    if (seen.has(key)) fault('from', `stands in line ${seen.get(key)! + 1} of these already`);
    else seen.set(key, at);
  });
  if (errors.length > 0)
    throw new Refusal(
      'invalid',
      errors
        .slice(0, 20)
        .map((error) => `${error.field}: ${error.message}`)
        .join('; '),
      errors,
    );
}
