import type { DropShipment } from '@nockwright/core/routing';
import { sql } from 'kysely';
import type { Db } from '../database';

/** Drop shipments that leave later than was told: of these lines or items, or all. */
export async function slippedDropShipments(
  db: Db,
  today: string,
  { lines, items }: { readonly lines?: readonly number[]; readonly items?: readonly string[] } = {},
): Promise<DropShipment[]> {
  const { rows } = await sql<DropShipment>`
    select p.id, p.purchase_id as purchase, o.number, o.supplier, u.name as "supplierName", p.item, l.id as line, l.line_no as "lineNo", s.id as "order", s.number as "orderNumber",
      trim_scale(p.quantity - p.received - p.closed)::text as quantity, p.told_day::text as told,
      trim_scale(coalesce((select max(unit_cost) from line_route where purchase_line_id = p.id), p.cost))::text as "unitCost", greatest(p.expected_day, ${today}::date)::text as leaves
    from purchase_line p
    join purchase_order o on o.id = p.purchase_id
    join supplier u on u.code = o.supplier
    join order_line l on l.id = p.order_line_id
    join sales_order s on s.id = l.order_id
    where p.warehouse is null and p.received + p.closed < p.quantity and s.state = 'released' and p.told_day < greatest(p.expected_day, ${today}::date)
      ${lines ? sql`and p.order_line_id = any(${lines}::int[])` : sql``}
      ${items ? sql`and p.item = any(${items}::text[])` : sql``}
    order by p.id`.execute(db);
  return rows;
}
