import { minus } from '@nockwright/core/money';
import { whyNotGoing, type DueOrder } from '@nockwright/core/shipping';
import type { NotGoingRow } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';

interface Row extends DueOrder {
  readonly number: string;
  readonly customer: string;
  readonly customerId: number;
  readonly warehouse: string;
}

/** Orders that should have left by today and do not, each with why and what mends it, those that wait longest first. */
export async function readNotGoing(db: Db, now: Now, warehouse: string | undefined): Promise<NotGoingRow[]> {
  const { rows } = await sql<Row>`
    with told as materialized (select line_id, min(day) as day, sum(quantity) as due from line_promise where day <= ${now.today} group by line_id)
    select * from (
      select o.id as "order", coalesce(o.number, 'draft ' || o.id) as number, c.name as customer, c.id as "customerId", o.ship_complete as "shipComplete", o.requested_day::text as day,
        o.warehouse, (select json_agg(distinct h.kind) from order_hold h where h.order_id = o.id and h.cleared_at is null) as holds, '[]'::json as lines
      from sales_order o join customer c on c.id = o.customer_id
      where o.state = 'draft' and o.kind = 'order' and o.requested_day <= ${now.today} and exists (select from order_hold h where h.order_id = o.id and h.cleared_at is null)
      union all
      select o.id, o.number, c.name, c.id, o.ship_complete, min(k.day)::text, min(k.warehouse), '[]'::json,
        json_agg(json_build_object('line', k.line, 'lineNo', k.line_no, 'item', k.item, 'due', trim_scale(k.due)::text, 'covered', trim_scale(k.covered)::text, 'draft', k.draft) order by k.line_no)
      from (
        select l.id as line, l.order_id, l.line_no, l.item, l.warehouse, t.day, t.due, coalesce(r.quantity, 0) + coalesce(x.quantity, 0) as covered, u.draft
        from told t
        join order_line l on l.id = t.line_id
        left join (select line_id, sum(quantity) as quantity from board_ready where line_id in (select line_id from told) group by line_id) r on r.line_id = l.id
        left join (select x.order_line_id, sum(x.quantity) as quantity from shipment s join shipment_line x on x.shipment_id = s.id where s.state = 'picking' group by 1) x
          on x.order_line_id = l.id
        left join (select distinct on (u.order_line_id) u.order_line_id, json_build_object('id', b.id, 'number', b.number) as draft
          from purchase_order b join purchase_line u on u.purchase_id = b.id where b.state = 'draft' and u.order_line_id is not null order by 1, b.id) u
          on u.order_line_id = l.id) k
      join sales_order o on o.id = k.order_id join customer c on c.id = o.customer_id
      where o.state = 'released' group by o.id, c.id having bool_or(k.due > k.covered)) due
    where ${warehouse ?? null}::text is null or warehouse = ${warehouse ?? null}
    order by day, "order" limit ${MOST}`.execute(db);
  return rows.flatMap((row) => {
    const why = whyNotGoing({ ...row, holds: row.holds ?? [] });
    if (!why) return [];
    const { order, number, customer, customerId, day } = row;
    return [
      {
        order,
        number,
        customer,
        customerId,
        warehouse: row.warehouse,
        day,
        why: why.why,
        holds: why.why === 'held' ? why.holds : [],
        purchase: why.why === 'draft_purchase' ? { id: why.purchase, number: why.number } : null,
        lines:
          why.why === 'held'
            ? []
            : why.lines.map((line) => ({ line: line.line, lineNo: line.lineNo, item: line.item, missing: minus(line.due, line.covered) })),
      },
    ];
  });
}

const MOST = 200;
