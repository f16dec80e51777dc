import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import { type RawBuilder, sql } from 'kysely';
import type { Now } from '../../clock';
import { type Db, searchWords, escapeLike } from '../../database';

export interface Pool {
  readonly item: ItemCode;
  readonly description: string;
  readonly unit: string;
  readonly warehouse: WarehouseCode;
  readonly on_hand: string;
  readonly due: string;
  readonly owed: string;
  /** Of that, what waits for a purchase: chosen so, and nothing is bought for it yet. */
  readonly waiting: string;
  /** What was ordered on each day that anything was. */
  readonly days: readonly { readonly day: string; readonly quantity: string }[];
}

export async function loadPools(db: Db, now: Now, from: string, search: string | undefined, warehouse: WarehouseCode | undefined): Promise<readonly Pool[]> {
  const matches = searchWords(search).map((word) => {
    const like = `%${escapeLike(word)}%`;
    return sql`and (i.search like ${like} or exists (select from supplier_item x join supplier s on s.code = x.supplier where x.item = i.code and lower(s.name) like ${like}))`;
  });
  // Each sum is made once for all items, not once for each: a desk has thousands of them.
  const { rows } = await sql<Pool>`
    with ${supplyAndDemand(from)}
    , need as (
      select * from line union all select * from taken
    ), owed as (
      select item, warehouse, sum(owed) as quantity from need group by 1, 2
    ), waiting as (${WAITING}
    ), asked as (
      select item, warehouse, json_agg(json_build_object('day', day, 'quantity', quantity::text)) as days
      from (
        select item, warehouse, day::text, sum(asked) as quantity
        from need where day >= ${from}::date and day < ${now.today}::date
        group by 1, 2, 3
      ) d
      group by 1, 2
    )
    select i.code as item, i.description, i.unit, w.code as warehouse, trim_scale(coalesce(s.on_hand, 0))::text as on_hand,
      trim_scale(coalesce(due.quantity, 0))::text as due, trim_scale(coalesce(owed.quantity, 0))::text as owed,
      trim_scale(coalesce(waiting.quantity, 0))::text as waiting, coalesce(asked.days, '[]') as days
    from (select item, warehouse from asked union select item, warehouse from waiting) pool
    join item i on i.code = pool.item
    join warehouse w on w.code = pool.warehouse
    left join asked on asked.item = i.code and asked.warehouse = w.code
    left join waiting on waiting.item = i.code and waiting.warehouse = w.code
    left join stock s on s.item = i.code and s.warehouse = w.code
    left join due on due.item = i.code and due.warehouse = w.code
    left join owed on owed.item = i.code and owed.warehouse = w.code
    where not i.discontinued and exists (select from supplier_item x where x.item = i.code)
      and ${warehouse ? sql`w.code = ${warehouse}` : sql`true`} ${sql.join(matches, sql` `)}`.execute(db);
  return rows;
}

/** What comes in, what orders are served by it, and what orders and assemblies asked for from a day on. */
function supplyAndDemand(from: string): RawBuilder<unknown> {
  return sql`due as (
      select l.item, l.warehouse, sum(l.quantity - l.received - l.closed) as quantity
      from purchase_line l join purchase_order p on p.id = l.purchase_id
      where l.warehouse is not null and p.state <> 'cancelled' and l.received + l.closed < l.quantity
      group by 1, 2
    ), bound as (
      select order_line_id, sum(quantity - closed) as bought, coalesce(sum(quantity - received - closed) filter (where warehouse is null), 0) as dropping
      from purchase_line where order_line_id is not null
      group by 1
    ), taken as (
      select c.component as item, a.warehouse, a.created_day as day, c.per_unit * (a.quantity - a.cancelled) as asked,
        c.per_unit * (a.quantity - a.built - a.cancelled) as owed
      from assembly_order a join assembly_component c on c.assembly_id = a.id
      where a.state = 'open' or a.created_day >= ${from}::date
    ), line as (
      select l.item, l.warehouse, o.entered::date as day, greatest(0, l.stock_quantity - l.cancelled - coalesce(b.bought, 0)) as asked,
        greatest(0, l.stock_quantity - l.shipped - l.cancelled - coalesce(b.dropping, 0)) as owed
      from order_line l join sales_order o on o.id = l.order_id left join bound b on b.order_line_id = l.id
      where o.kind = 'order' and o.state = 'released' and (l.shipped + l.cancelled < l.stock_quantity or o.entered >= ${from}::date)
    )`;
}

/** What waits for a purchase by item and warehouse: backorders without supply of their own or a promise. */
const WAITING = sql`
      select l.item, l.warehouse, sum(least(r.quantity, l.stock_quantity - l.shipped - l.cancelled - coalesce(b.dropping, 0) - coalesce(p.promised, 0))) as quantity
      from (select line_id, sum(quantity) as quantity from line_route where kind = 'backorder' group by 1) r
      join order_line l on l.id = r.line_id
      join sales_order o on o.id = l.order_id and o.kind = 'order' and o.state = 'released'
      left join bound b on b.order_line_id = l.id
      left join (select line_id, sum(quantity) as promised from line_promise group by 1) p on p.line_id = l.id
      where l.stock_quantity - l.shipped - l.cancelled - coalesce(b.dropping, 0) - coalesce(p.promised, 0) > 0
      group by 1, 2`;
