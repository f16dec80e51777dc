import type { Finding } from '@nockwright/contract/history';
import type { ItemCode } from '@nockwright/core/ids';
import { compareDecimal, minus, sum } from '@nockwright/core/money';
import { promiseBook } from '@nockwright/core/promise';
import { anyOf } from '../../database';
import type { CommandContext } from '../../http/context';
import { decimal, loadBook, slippedDropShipments, toldParts } from '../../promise';

const MOST_NAMED = 5;

interface Standing {
  readonly items: readonly string[];
  /** Promises whose goods come too late or not at all, by what names each. */
  readonly atRisk: ReadonlyMap<string, { readonly line: number; readonly finding: Finding }>;
  /** What each released line of the items was told it gets, in all. */
  readonly told: ReadonlyMap<number, { readonly quantity: string; readonly item: string; readonly order: string }>;
}

/** How the promises on these items stand. */
export async function standingOfPromises(context: CommandContext, items: readonly string[]): Promise<Standing> {
  const codes = [...new Set(items)];
  return { items: codes, atRisk: await atRiskOf(context, codes), told: await toldOf(context, codes) };
}

/** Whose promises are at risk or gone now and were not before: whom it hurts, and their order lines. */
export async function newlyHurt(context: CommandContext, before: Standing): Promise<{ readonly findings: Finding[]; readonly lines: number[] }> {
  const after = await standingOfPromises(context, before.items);
  const lost = [...before.told].flatMap(([line, { quantity, item, order }]): { line: number; finding: Finding }[] => {
    const missing = minus(quantity, after.told.get(line)?.quantity ?? '0');
    return compareDecimal(missing, '0') > 0 ? [{ line, finding: { about: 'lost', quantity: missing, item, order } }] : [];
  });
  const atRisk = [...after.atRisk].filter(([key]) => !before.atRisk.has(key)).map(([, row]) => row);
  const hurt = [...lost, ...atRisk];
  const named = hurt.slice(0, MOST_NAMED).map((row) => row.finding);
  return {
    findings: hurt.length > MOST_NAMED ? [...named, { about: 'more', count: hurt.length - MOST_NAMED }] : named,
    lines: [...new Set(hurt.map((row) => row.line))],
  };
}

async function atRiskOf({ trx, now }: CommandContext, items: readonly string[]): Promise<Standing['atRisk']> {
  if (items.length === 0) return new Map();
  const risk = (quantity: string, item: ItemCode, order: string, day: string): Finding => ({ about: 'at_risk', quantity, item, order, day });
  const live = await loadBook(trx, now, { items });
  const late = promiseBook(live.book).atRisk.map(({ id, date, quantity }) => {
    const { lineId, item, orderNumber } = live.demands.get(id)!;
    return [`${id}/${date}`, { line: lineId, finding: risk(decimal(quantity), item, orderNumber, date) }] as const;
  });
  const slipped = (await slippedDropShipments(trx, now.today, { items })).map(
    ({ id, line, quantity, item, orderNumber, told }) => [`drop/${id}`, { line, finding: risk(quantity, item, orderNumber, told) }] as const,
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
  return new Map(lines.map(({ id, item, number }) => [id, { quantity: sum((told.get(id) ?? []).map((part) => part.quantity)), item, order: number ?? '' }]));
}
