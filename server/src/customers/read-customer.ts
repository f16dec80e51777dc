import type { Customer } from '@nockwright/contract/customers';
import { sql } from 'kysely';
import type { Db } from '../database';
import { notFound } from '../http/refusal';
import { creditView, readCredit } from './read-credit';
import { loadReminders } from './load-reminders';

const MOST_BOUGHT = 20;

/** A customer with addresses, standing, notes and what they bought last. */
export async function readCustomer(db: Db, id: number, today: string): Promise<Customer> {
  const row = await db.selectFrom('customer').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound(`customer ${id}`);
  const shipTos = await db
    .selectFrom('ship_to')
    .select(['id', 'name', 'street', 'postcode', 'town', 'country'])
    .where('customer_id', '=', id)
    .orderBy('id')
    .execute();
  const bought = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .innerJoin('item', 'item.code', 'order_line.item')
    .select(['order_line.item', 'item.description', 'sales_order.entered', 'order_line.quantity', 'order_line.unit', 'order_line.price'])
    .where('sales_order.customer_id', '=', id)
    .where('sales_order.state', '=', 'released')
    .orderBy('sales_order.entered', 'desc')
    .orderBy('order_line.line_no')
    .limit(MOST_BOUGHT)
    .execute();
  const { open } = await db
    .selectFrom('sales_order')
    .select(({ fn }) => fn.count<number>('sales_order.id').distinct().as('open'))
    .innerJoin('order_line', 'order_line.order_id', 'sales_order.id')
    .where('customer_id', '=', id)
    .where('state', '=', 'released')
    .where(sql<boolean>`shipped + cancelled < stock_quantity`)
    .executeTakeFirstOrThrow();
  return {
    id: row.id,
    number: row.number,
    prospect: row.prospect,
    name: row.name,
    contact: row.contact,
    phone: row.phone,
    email: row.email,
    street: row.street,
    postcode: row.postcode,
    town: row.town,
    deliveryRule: row.delivery_rule,
    warehouse: row.warehouse,
    carrierService: row.carrier_service,
    priceList: row.price_list,
    termsDays: row.terms_days,
    priority: row.priority,
    notes: row.notes,
    reminders: await loadReminders(db, id),
    shipTos,
    openOrders: Number(open),
    credit: creditView(await readCredit(db, id, today)),
    bought: bought.map(({ entered, ...line }) => ({ ...line, day: entered.slice(0, 10) })),
  };
}
