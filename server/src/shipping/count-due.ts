import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';

/** How many orders are promised for today or earlier and have not left. */
export async function countDue(db: Db, { today }: Now): Promise<{ readonly orders: number }> {
  const { rows } = await sql<{ orders: number }>`
    select count(distinct l.order_id)::int as orders
    from line_promise p join order_line l on l.id = p.line_id join sales_order o on o.id = l.order_id and o.state = 'released'
    where p.day <= ${today}::date`.execute(db);
  return rows[0]!;
}
