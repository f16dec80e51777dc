import { shortDay } from '@nockwright/core/calendar';
import { promiseBook } from '@nockwright/core/promise';
import type { CommandContext } from '../../http/context';
import { decimal, loadBook } from '../../promise';

const MOST_NAMED = 5;

interface AtRisk {
  readonly items: readonly string[];
  readonly known: ReadonlySet<string>;
}

/** Promises on these items whose goods come too late or not at all, as things stand. */
export async function promisesAtRisk(context: CommandContext, items: readonly string[]): Promise<AtRisk> {
  const { rows } = await read(context, items);
  return { items, known: new Set(rows.map((row) => row.key)) };
}

/** Those that are at risk now and were not before: whom it hurts in words, and their order lines. */
export async function newlyAtRisk(
  context: CommandContext,
  { items, known }: AtRisk,
  today: string,
): Promise<{ readonly says: string[]; readonly lines: number[] }> {
  const { rows } = await read(context, items);
  const hurt = rows.filter((row) => !known.has(row.key));
  const named = hurt
    .slice(0, MOST_NAMED)
    .map((row) => `${row.quantity} ${row.item} promised to order ${row.order} for ${shortDay(row.day, today)} are at risk`);
  return {
    says: hurt.length > MOST_NAMED ? [...named, `and ${hurt.length - MOST_NAMED} more promises`] : named,
    lines: [...new Set(hurt.map((row) => row.line))],
  };
}

async function read(context: CommandContext, items: readonly string[]) {
  if (items.length === 0) return { rows: [] };
  const live = await loadBook(context.trx, context.now, { items: [...new Set(items)] });
  const rows = promiseBook(live.book).atRisk.map(({ id, date, quantity }) => {
    const info = live.demands.get(id)!;
    return { key: `${id}/${date}`, line: info.lineId, item: info.item, order: info.orderNumber, day: date, quantity: decimal(quantity) };
  });
  return { rows };
}
