import { dayNumber, isoDay } from '@nockwright/core/calendar';
import type { Db } from '../../server/src/database';
import { CREDIT_LIMITS, UNPAID, USUAL_LIMIT } from '../scenario/contracts';
import { CONTACTS, CUSTOMERS, ITEM_NUMBERS, WAREHOUSES } from '../scenario/partners';

const FIRST_INVOICE = 9001;

/** Whoever pays at the counter and has no account. */
export async function loadCashCustomer(db: Db) {
  const { name, address } = WAREHOUSES[0]!;
  const where = { street: address, postcode: '', town: name, country: 'GB' };
  const { id } = await db
    .insertInto('customer')
    .values({
      ...where,
      number: 'CASH',
      name: 'Cash sale',
      contact: '',
      phone: '',
      email: '',
      delivery_rule: 'parts',
      warehouse: 'MAR',
      carrier_service: 'COLLECT',
      price_list: null,
      terms_days: 0,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await db
    .insertInto('ship_to')
    .values({ ...where, customer_id: id, name: 'Counter' })
    .execute();
}

export async function loadCustomers(db: Db) {
  for (const [number, name, contact, phone, street, postcode, town, rule, warehouse, carrier, list, priority, notes = ''] of CUSTOMERS) {
    const { id } = await db
      .insertInto('customer')
      .values({
        number,
        name,
        contact,
        phone,
        email: `orders@${number.toLowerCase()}.example`,
        street,
        postcode,
        town,
        country: 'GB',
        delivery_rule: rule,
        warehouse,
        carrier_service: carrier,
        price_list: list,
        terms_days: 30,
        priority,
        notes,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await db.insertInto('ship_to').values({ customer_id: id, name, street, postcode, town, country: 'GB' }).execute();
    if (rule === 'complete' || priority <= 3)
      await db
        .insertInto('ship_to')
        .values({ customer_id: id, name: `${name}, second site`, street: '2 Long Barrow Road', postcode, town: `${town} North`, country: 'GB' })
        .execute();
    const contacts = CONTACTS.filter(([of]) => of === number).map(([, contactName, role, line, email]) => ({
      customer_id: id,
      name: contactName,
      role,
      phone: line,
      email,
    }));
    if (contacts.length > 0) await db.insertInto('customer_contact').values(contacts).execute();
    const numbers = ITEM_NUMBERS.filter(([of]) => of === number).map(([, item, code]) => ({ customer_id: id, item, code }));
    if (numbers.length > 0) await db.insertInto('customer_item').values(numbers).execute();
  }
}

/** Limits, and invoices of before: most are paid, some are not, some are overdue. */
export async function loadCredit(db: Db, today: string) {
  await db
    .updateTable('customer')
    .set({ credit_limit: String(USUAL_LIMIT) })
    .execute();
  for (const { customer, limit } of CREDIT_LIMITS)
    await db
      .updateTable('customer')
      .set({ credit_limit: String(limit) })
      .where('number', '=', customer)
      .execute();
  for (const [at, { customer, amount, paid, days }] of UNPAID.entries()) {
    const { id, terms_days } = await db.selectFrom('customer').select(['id', 'terms_days']).where('number', '=', customer).executeTakeFirstOrThrow();
    const day = dayNumber(today) - days;
    await db
      .insertInto('invoice')
      .values({ number: `F${FIRST_INVOICE + at}`, customer_id: id, day: isoDay(day), due_day: isoDay(day + terms_days), amount, paid })
      .execute();
  }
}
