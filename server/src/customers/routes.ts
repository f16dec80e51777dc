import { customerRoutes, type Customer, type CustomerFound } from '@nockwright/contract/customers';
import type { Hono } from 'hono';
import { sql } from 'kysely';
import { correctSearch, escapeLike, searchWords, type Db } from '../database';
import type { Services } from '../http/context';
import { mountQuery } from '../http/mount';
import { notFound } from '../http/refusal';
import { creditView, readCredit } from './read-credit';

const MOST_FOUND = 12;
const MOST_BOUGHT = 20;

export function mountCustomers(app: Hono, services: Services): void {
  mountQuery(app, services, customerRoutes.findCustomers, ({ db }, { query }) => findCustomers(db, query.search));
  mountQuery(app, services, customerRoutes.readCustomer, ({ db, now }, { params }) => readCustomer(db, params.customer, now.today));
}

/**
 * Customers that have every word of the search somewhere in number, name, contact, phone, town or postcode. Where nobody
 * has them all, misspelt words are taken for what was perhaps meant.
 */
export async function findCustomers(db: Db, search?: string): Promise<CustomerFound[]> {
  const words = searchWords(search);
  const found = await matching(
    db,
    words.map((word) => [word]),
  );
  if (found.length > 0 || words.length === 0) return found;
  const meant = await correctSearch(db, 'customer', words);
  return meant ? matching(db, meant) : [];
}

/** Each word, or one of those it may stand for, must be there; whose number or name begins with what was typed stands first. */
async function matching(db: Db, wanted: readonly (readonly string[])[]): Promise<CustomerFound[]> {
  let query = db.selectFrom('customer').select(['id', 'number', 'name', 'contact', 'phone', 'town', 'postcode']);
  for (const words of wanted) query = query.where(({ or, eb }) => or(words.map((word) => eb('search', 'like', `%${escapeLike(word)}%`))));
  const start = `${escapeLike(wanted.map((words) => words[0]!).join(' '))}%`;
  return query
    .orderBy(sql`case when lower(number) like ${start} then 0 when lower(name) like ${start} then 1 else 2 end`)
    .orderBy('name')
    .limit(MOST_FOUND)
    .execute();
}

async function readCustomer(db: Db, id: number, today: string): Promise<Customer> {
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
    shipTos,
    openOrders: Number(open),
    credit: creditView(await readCredit(db, id, today)),
    bought: bought.map(({ entered, ...line }) => ({ ...line, day: entered.slice(0, 10) })),
  };
}
