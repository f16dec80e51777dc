import { hash } from '@node-rs/argon2';
import { dayNumber, isoDay } from '@nockwright/core/calendar';
import type { Db } from '../server/src/database';
import { CARRIERS, CARTONS, DEMO_PASSWORD, FIRM, PRICE_LISTS, SERVICES, USERS, WAREHOUSES } from './scenario/partners';

import { loadContracts } from './standing/contracts';
import { loadCashCustomer, loadCredit, loadCustomers } from './standing/customers';
import { loadItems } from './standing/items';
import { loadSuppliers } from './standing/suppliers';

const FIRST_NEW_INVOICE = 10001;
/** Invented: a country's rates would stand here. */
const TAXES = [
  ['standard', '20'],
  ['reduced', '5'],
] as const;
/** Orders from the portal and from files have series of their own. */
const SERIES = [
  { name: 'order', next: 20301 },
  { name: 'order/portal', next: 3001, prefix: 'W' },
  { name: 'order/file', next: 801, prefix: 'F' },
  { name: 'purchase', next: 7601, prefix: 'P' },
];

/** What stands before anything is sold: users, warehouses, items, prices, suppliers, customers. */
export async function loadStanding(db: Db, today: string): Promise<void> {
  const password_hash = await hash(DEMO_PASSWORD);
  await db
    .insertInto('app_user')
    .values(USERS.map((user) => ({ ...user, password_hash })))
    .execute();
  await db.updateTable('firm').set(FIRM).execute();
  for (const [code, percent] of TAXES) await db.updateTable('tax_class').set({ percent }).where('code', '=', code).execute();
  await db.updateTable('number_series').set({ next: FIRST_NEW_INVOICE }).where('name', '=', 'invoice').execute();
  await db.insertInto('number_series').values(SERIES).execute();
  await db
    .insertInto('warehouse')
    .values(
      WAREHOUSES.map(({ code, name, workdays, cutoff, receivingDays, address }) => ({
        code,
        name,
        workdays: [...workdays],
        cutoff,
        receiving_days: receivingDays,
        address,
      })),
    )
    .execute();
  const closed = WAREHOUSES.flatMap(({ code, closedAfter }) => closedAfter.map((days) => ({ warehouse: code, day: isoDay(dayNumber(today) + days) })));
  await db.insertInto('closed_day').values(closed).execute();
  await db
    .insertInto('carrier')
    .values([...CARRIERS])
    .execute();
  await db
    .insertInto('carrier_service')
    .values(SERVICES.map(({ transitDays, ...service }) => ({ ...service, transit_days: transitDays })))
    .execute();
  await db
    .insertInto('carton_type')
    .values([...CARTONS])
    .execute();
  await db
    .insertInto('price_list')
    .values([...PRICE_LISTS])
    .execute();
  await loadItems(db);
  await loadSuppliers(db, today);
  await loadCustomers(db);
  await loadCashCustomer(db);
  await loadContracts(db, today);
  await loadCredit(db, today);
}
