import type { ItemCode } from '@nockwright/core/ids';
import { shortDay } from '@nockwright/core/calendar';
import { compareDecimal, minus, sum } from '@nockwright/core/money';
import { promiseBook } from '@nockwright/core/promise';
import { anyOf } from '../../database';
import type { CommandContext } from '../../http/context';
import { decimal, loadBook, slippedDropShipments, toldParts } from '../../promise';

const MOST_NAMED = 5;

interface Standing {
  readonly items: readonly string[];
  /** Promises whose goods come too late or not at all, by what names each. */
  readonly atRisk: ReadonlyMap<string, { readonly line: number; readonly says: string }>;
  /** What each released line of the items was told it gets, in all. */
  readonly told: ReadonlyMap<number, { readonly quantity: string; readonly name: string }>;
}

/** How the promises on these items stand. */
export async function standingOfPromises(context: CommandContext, items: readonly string[]): Promise<Standing> {
  const codes = [...new Set(items)];
  return { items: codes, atRisk: await atRiskOf(context, codes), told: await toldOf(context, codes) };
}

/** Whose promises are at risk or gone now and were not before: whom it hurts in words, and their order lines. */
export async function newlyHurt(context: CommandContext, before: Standing): Promise<{ readonly says: string[]; readonly lines: number[] }> {
  const after = await standingOfPromises(context, before.items);
  const lost = [...before.told].flatMap(([line, { quantity, name }]) => {
    const missing = minus(quantity, after.told.get(line)?.quantity ?? '0');
    return compareDecimal(missing, '0') > 0 ? [{ line, says: `${missing} ${name} have lost their supply and wait again` }] : [];
  });
  const atRisk = [...after.atRisk].filter(([key]) => !before.atRisk.has(key)).map(([, row]) => row);
  const hurt = [...lost, ...atRisk];
  const says = hurt.slice(0, MOST_NAMED).map((row) => row.says);
  return {
    says: hurt.length > MOST_NAMED ? [...says, `and ${hurt.length - MOST_NAMED} more promises`] : says,
    lines: [...new Set(hurt.map((row) => row.line))],
  };
}

async function atRiskOf({ trx, now }: CommandContext, items: readonly string[]): Promise<Standing['atRisk']> {
  if (items.length === 0) return new Map();
  const says = (quantity: string, item: ItemCode, order: string, day: string) =>
    `${quantity} ${item} promised to order ${order} for ${shortDay(day, now.today)} are at risk`;
  const live = await loadBook(trx, now, { items });
  const late = promiseBook(live.book).atRisk.map(({ id, date, quantity }) => {
    const { lineId, item, orderNumber } = live.demands.get(id)!;
    return [`${id}/${date}`, { line: lineId, says: says(decimal(quantity), item, orderNumber, date) }] as const;
  });
  const slipped = (await slippedDropShipments(trx, now.today, { items })).map(
    ({ id, line, quantity, item, orderNumber, told }) => [`drop/${id}`, { line, says: says(quantity, item, orderNumber, told) }] as const,
  );
  return new Map([...late, ...slipped]);
}

async function toldOf({ trx }: CommandContext, items: readonly string[]): Promise<Standing['told']> {
  const lines = await trx
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .select(['order_line.id', 'order_line.item', 'sales_order.number'])
    .where(anyOf('order_line.item', items))
    .where('sales_order.state', '=', 'released')
    .where((eb) => eb(eb('shipped', '+', eb.ref('cancelled')), '<', eb.ref('stock_quantity')))
    .execute();
  const told = await toldParts(
    trx,
    lines.map((line) => line.id),
  );
  return new Map(
    lines.map(({ id, item, number }) => [
      id,
      { quantity: sum((told.get(id) ?? []).map((part) => part.quantity)), name: `${item} promised to order ${number ?? ''}` },
    ]),
  );
}
