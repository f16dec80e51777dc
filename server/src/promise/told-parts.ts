import type { PromisePart } from '@nockwright/contract/promise';
import { sql } from 'kysely';
import type { Db } from '../database';

/** What customers were told of lines, by day: what leaves a warehouse, and what suppliers ship to them. */
export async function toldParts(db: Db, lineIds: readonly number[]): Promise<ReadonlyMap<number, PromisePart[]>> {
  const told = new Map<number, PromisePart[]>();
  if (lineIds.length === 0) return told;
  const { rows } = await sql<{ line: number; day: string; quantity: string }>`
    select line, day::text, trim_scale(sum(quantity))::text as quantity
    from (
      select line_id as line, day, quantity from line_promise where line_id = any(${lineIds}::int[])
      union all
      select order_line_id, told_day, quantity - received - closed from purchase_line
      where warehouse is null and received + closed < quantity and order_line_id = any(${lineIds}::int[])) parts
    group by line, parts.day
    order by line, parts.day`.execute(db);
  for (const { line, day, quantity } of rows) {
    const list = told.get(line) ?? [];
    list.push({ day, quantity });
    told.set(line, list);
  }
  return told;
}
