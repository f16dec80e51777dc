import type { Customer } from '@nockwright/contract/customers';
import { sql } from 'kysely';
import { together, type Db } from '../database';
import { notFound } from '../http/refusal';
import { loadReminders } from './load-reminders';
import { creditView, readCredit } from './read-credit';

const MOST_BOUGHT = 20;

/** A customer with addresses, contacts, their item numbers, standing, notes and what they bought last. */
export async function readCustomer(db: Db, id: number, today: string): Promise<Customer> {
  return together(db, async (all) => {
    const [row, shipTos, contacts, itemNumbers, bought, open, reminders, credit] = await Promise.all([
      readRecord(all, id),
      all.selectFrom('ship_to').select(['id', 'name', 'street', 'postcode', 'town', 'country']).where('customer_id', '=', id).orderBy('id').execute(),
      all.selectFrom('customer_contact').select(['id', 'name', 'role', 'phone', 'email']).where('customer_id', '=', id).orderBy('name').execute(),
      readItemNumbers(all, id),
      readLastBought(all, id),
      countOpen(all, id),
      loadReminders(all, id),
      readCredit(all, id, today),
    ]);
    if (!row) throw notFound(`customer ${id}`);
    return {
      id: row.id,
      version: row.version,
      number: row.number,
      prospect: row.prospect,
      name: row.name,
      contact: row.contact,
      phone: row.phone,
      email: row.email,
      street: row.street,
      postcode: row.postcode,
      town: row.town,
      country: row.country,
      deliveryRule: row.delivery_rule,
      mostShipments: row.most_shipments,
      freightRule: row.freight_rule,
      freightFlat: row.freight_flat,
      freightFreeFrom: row.freight_free_from,
      freightAccount: row.freight_account,
      takesAdvices: row.takes_advices,
      warehouse: row.warehouse,
      warehouseName: row.warehouse_name,
      carrierService: row.carrier_service,
      carrierName: row.carrier_name,
      priceList: row.price_list,
      mustNameContract: row.must_name_contract,
      termsDays: row.terms_days,
      termsKind: row.terms_kind,
      discountPercent: String(Number(row.discount_percent)),
      discountDays: row.discount_days,
      priority: row.priority,
      notes: row.notes,
      reminders,
      contacts,
      itemNumbers,
      shipTos,
      openOrders: open,
      credit: creditView(credit),
      bought: bought.map(({ entered, ...line }) => ({ ...line, day: entered.slice(0, 10) })),
    };
  });
}

function readRecord(db: Db, id: number) {
  return db
    .selectFrom('customer')
    .innerJoin('warehouse', 'warehouse.code', 'customer.warehouse')
    .innerJoin('carrier_service', 'carrier_service.code', 'customer.carrier_service')
    .selectAll('customer')
    .select(['warehouse.name as warehouse_name', 'carrier_service.name as carrier_name'])
    .where('customer.id', '=', id)
    .executeTakeFirst();
}

function readItemNumbers(db: Db, id: number) {
  return db
    .selectFrom('customer_item')
    .innerJoin('item', 'item.code', 'customer_item.item')
    .select(['customer_item.item', 'item.description', 'customer_item.code'])
    .where('customer_id', '=', id)
    .orderBy('customer_item.item')
    .execute();
}

function readLastBought(db: Db, id: number) {
  return db
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
}

async function countOpen(db: Db, id: number): Promise<number> {
  const { open } = await db
    .selectFrom('sales_order')
    .select(({ fn }) => fn.count<number>('sales_order.id').distinct().as('open'))
    .innerJoin('order_line', 'order_line.order_id', 'sales_order.id')
    .where('customer_id', '=', id)
    .where('state', '=', 'released')
    .where(sql<boolean>`shipped + cancelled < stock_quantity`)
    .executeTakeFirstOrThrow();
  return Number(open);
}
