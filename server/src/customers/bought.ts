import type { CustomerId } from '@nockwright/core/ids';
import type { BoughtItem, PastOrder } from '@nockwright/contract/customers';
import { sql } from 'kysely';
import type { Db } from '../database';
import { notFound } from '../http/refusal';

const MOST_ITEMS = 60;
const MOST_ORDERS = 20;

/** What a customer buys, most often first, as much as they took last; with `order` what was on that order, line by line. */
export async function readBought(db: Db, customerId: CustomerId, order?: number): Promise<BoughtItem[]> {
  await checkKnown(db, customerId);
  const { rows } = await sql<Omit<BoughtItem, 'times'> & { times: string }>`
    with line as (
      select l.item, l.unit, l.quantity, l.price, l.line_no, o.entered, o.id as order_id,
        count(*) over (partition by l.item) as times,
        row_number() over (partition by l.item order by o.entered desc, o.id desc, l.line_no) as latest
      from order_line l join sales_order o on o.id = l.order_id
      where o.customer_id = ${customerId} and ${order === undefined ? sql`o.kind = 'order' and o.state = 'released'` : sql`o.id = ${order} and not l.alternative`}
    )
    select line.item, i.description, line.unit, line.quantity, line.times, line.entered::date::text as day, line.price, i.discontinued,
      array(select unit from item_unit where item = line.item) || i.unit as units
    from line join item i on i.code = line.item
    where ${order === undefined ? sql`line.latest = 1` : sql`true`}
    order by ${order === undefined ? sql`line.times desc, line.entered desc, line.item` : sql`line.line_no`}
    limit ${MOST_ITEMS}`.execute(db);
  return rows.map((row) => ({ ...row, times: Number(row.times) }));
}

/** The last orders of a customer, to copy from. */
export async function listPastOrders(db: Db, customerId: CustomerId): Promise<PastOrder[]> {
  await checkKnown(db, customerId);
  const rows = await db
    .selectFrom('sales_order')
    .select(['id', 'number', 'po_number', 'entered'])
    .select((eb) =>
      eb
        .selectFrom('order_line')
        .select(({ fn }) => fn.countAll<string>().as('lines'))
        .whereRef('order_line.order_id', '=', 'sales_order.id')
        .as('lines'),
    )
    .where('customer_id', '=', customerId)
    .where('kind', '=', 'order')
    .where('state', '=', 'released')
    .orderBy('id', 'desc')
    .limit(MOST_ORDERS)
    .execute();
  return rows.map((row) => ({ id: row.id, number: row.number!, poNumber: row.po_number, day: row.entered.slice(0, 10), lines: Number(row.lines ?? 0) }));
}

async function checkKnown(db: Db, customerId: CustomerId): Promise<void> {
  if (!(await db.selectFrom('customer').select('id').where('id', '=', customerId).executeTakeFirst())) throw notFound(`customer ${customerId}`);
}
