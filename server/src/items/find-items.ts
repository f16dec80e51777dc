import type { ItemFound, ItemRow } from '@nockwright/contract/items';
import { unitName } from '@nockwright/core/units';
import { sql } from 'kysely';
import { anyOf, escapeLike, searchWords, type Db } from '../database';

const MOST_FOUND = 12;

/** Items that have every word of the search somewhere in code, description or group; those the customer buys first. */
export async function findItems(db: Db, search?: string, customer?: number, warehouse?: string): Promise<ItemFound[]> {
  const words = searchWords(search);
  const start = `${escapeLike(words.join(' '))}%`;
  const matches = words.map((word) => sql`and i.search like ${`%${escapeLike(word)}%`}`);
  const { rows } = await sql<{ code: string; description: string; group: string; unit: string; available: string; discontinued: boolean }>`
    select i.code, i.description, i.item_group as "group", i.unit, i.discontinued,
      coalesce((select sum(on_hand + inbound - committed) from stock where item = i.code ${warehouse === undefined ? sql`` : sql`and warehouse = ${warehouse}`}), 0) as available
    from item i
    where true ${sql.join(matches, sql` `)}
    order by i.discontinued, case when lower(i.code) like ${start} then 0 else 1 end,
      (select count(*) from order_line l join sales_order o on o.id = l.order_id where l.item = i.code and o.customer_id = ${customer ?? 0} and o.state = 'released') desc, i.code
    limit ${MOST_FOUND}`.execute(db);
  const units = await db
    .selectFrom('item_unit')
    .selectAll()
    .where(
      anyOf(
        'item',
        rows.map((row) => row.code),
      ),
    )
    .orderBy('numerator')
    .execute();
  return rows.map((row) => ({
    ...row,
    units: [
      { code: row.unit, name: unitName(row.unit), numerator: '1', denominator: '1' },
      ...units
        .filter((unit) => unit.item === row.code)
        .map((unit) => ({ code: unit.unit, name: unitName(unit.unit), numerator: String(unit.numerator), denominator: String(unit.denominator) })),
    ],
  }));
}

/** Every item with its stock over all warehouses, and what waits for it. */
export async function listStock(db: Db, search?: string): Promise<ItemRow[]> {
  const matches = searchWords(search).map((word) => sql`and i.search like ${`%${escapeLike(word)}%`}`);
  const { rows } = await sql<ItemRow>`
    select i.code, i.description, i.item_group as "group", i.unit, i.discontinued,
      coalesce(s.on_hand, 0) as "onHand", coalesce(s.committed, 0) as committed, coalesce(s.inbound, 0) as inbound,
      coalesce(s.on_hand + s.inbound - s.committed, 0) as available, coalesce(w.waiting, 0) as waiting
    from item i
    left join (select item, sum(on_hand) as on_hand, sum(committed) as committed, sum(inbound) as inbound from stock group by item) s on s.item = i.code
    left join (
      select l.item, sum(l.stock_quantity - l.shipped - l.cancelled
        - coalesce((select sum(quantity) from line_promise where line_id = l.id), 0)
        - coalesce((select sum(quantity - received - closed) from purchase_line where order_line_id = l.id and warehouse is null), 0)) as waiting
      from order_line l join sales_order o on o.id = l.order_id
      where o.state = 'released' and l.shipped + l.cancelled < l.stock_quantity
      group by l.item
    ) w on w.item = i.code
    where true ${sql.join(matches, sql` `)}
    order by i.code
    limit 1000`.execute(db);
  return rows;
}
