import { hash } from '@node-rs/argon2';
import { dayNumber, isoDay } from '@nockwright/core/calendar';
import { divide, times } from '@nockwright/core/money';
import { checkDigit } from '@nockwright/core/scans';
import type { Db } from '../server/src/database';
import type { Dice } from './dice';
import { CONTRACT_RULES, CONTRACTS, CREDIT_LIMITS, FLOOR_MARGIN, UNPAID, USUAL_LIMIT } from './scenario/contracts';
import { ALSO_CALLED, BROOD_BOX, ITEMS, RECIPES, SUBSTITUTES } from './scenario/items';
import {
  CARRIERS,
  CARTONS,
  CONTACTS,
  CUSTOMERS,
  DEMO_PASSWORD,
  FIRM,
  ITEM_NUMBERS,
  LANES,
  PRICE_LISTS,
  SERVICES,
  SUPPLIERS,
  TERMS,
  USERS,
  WAREHOUSES,
} from './scenario/partners';
import { RECORDS } from './scenario/receipts';
import { apartOf, sizeOf } from './scenario/sizes';

const FIRST_CONTRACT = 1001;
const FIRST_INVOICE = 9001;
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

/** Kept apart by lot, and they expire. */
const BY_LOT = /^(FEE|TRT)-/;

function binOf(at: number): string {
  return `${'ABCDEF'[Math.floor(at / 14)]}-${String(Math.floor((at % 14) / 2) + 1).padStart(2, '0')}`;
}

/** Numbers for use within a company only. Source: GS1 General Specifications, prefixes 200 to 299 (from memory). */
function gtinOf(at: number): string | null {
  if (at < 0) return null;
  const digits = `0200${String(417_000 + at).padStart(9, '0')}`;
  return `${digits}${checkDigit(digits)}`;
}

/** A unit of an item has the item's number with an indicator of its own. Source: GS1 General Specifications, GTIN-14 (from memory). */
function unitGtinOf(at: number, indicator: number): string | null {
  const each = gtinOf(at);
  if (each === null) return null;
  const digits = `${indicator}${each.slice(1, 13)}`;
  return `${digits}${checkDigit(digits)}`;
}

/** Bins behind the others, one for every six items. */
export const RESERVES = Array.from({ length: 12 }, (_, at) => `R-${String(at + 1).padStart(2, '0')}`);

async function loadItems(db: Db) {
  // A bin for every two items, by aisle and place; each item lives in the bin of the same name at every warehouse.
  // Behind them lie reserve bins, for what does not fit.
  const bins = [...new Set(ITEMS.map((_, at) => binOf(at))), ...RESERVES];
  await db
    .insertInto('bin')
    .values(WAREHOUSES.flatMap(({ code: warehouse }) => [...bins, 'DOCK', 'QUARANTINE'].map((code, at) => ({ warehouse, code, walk: at + 1 }))))
    .execute();
  for (const { code, description, group, unit, weight, list, cost, units, successor } of [...ITEMS, BROOD_BOX].sort(
    (a, b) => Number(a.successor !== undefined) - Number(b.successor !== undefined),
  )) {
    await db
      .insertInto('item')
      .values({
        code,
        description,
        item_group: group,
        unit,
        weight,
        list_price: list,
        cost,
        discontinued: successor !== undefined,
        successor: successor ?? null,
        also: ALSO_CALLED[code] ?? '',
        gtin: gtinOf(ITEMS.findIndex((item) => item.code === code)),
        tracks_lots: BY_LOT.test(code),
        tracks_expiry: BY_LOT.test(code),
        ...sizeOf(code),
        apart: apartOf(code),
      })
      .execute();
    if (units.length > 0)
      await db
        .insertInto('item_unit')
        .values(
          units.map(([other, numerator, denominator], at) => ({
            item: code,
            unit: other,
            numerator,
            denominator,
            gtin: unitGtinOf(
              ITEMS.findIndex((item) => item.code === code),
              at + 1,
            ),
          })),
        )
        .execute();
  }
  await db
    .insertInto('item_home')
    .values(WAREHOUSES.flatMap(({ code: warehouse }) => ITEMS.map((item, at) => ({ item: item.code, warehouse, bin: binOf(at) }))))
    .execute();
  for (const { item, days, components } of RECIPES) {
    await db.updateTable('item').set({ assembly_days: days }).where('code', '=', item).execute();
    await db
      .insertInto('item_component')
      .values(components.map(([component, quantity]) => ({ item, component, quantity })))
      .execute();
  }
  await db
    .insertInto('item_substitute')
    .values(SUBSTITUTES.map(([item, substitute, ratio]) => ({ item, substitute, ratio })))
    .execute();
  // Quantity breaks: the larger unit is cheaper than so many single ones; the two customer lists lie below the list.
  const breaks = ITEMS.flatMap(({ code, list, unit, units }) => {
    const price = (share: string, each = 1) => divide(times(times(list, each), share), 1, 4);
    const larger = units.flatMap(([other, each]) => [
      { price_list: 'LIST', item: code, unit: other, from_quantity: '1', price: price('0.95', each) },
      { price_list: 'LIST', item: code, unit: other, from_quantity: '20', price: price('0.92', each) },
      { price_list: 'COOP', item: code, unit: other, from_quantity: '1', price: price('0.89', each) },
      { price_list: 'SHOP', item: code, unit: other, from_quantity: '1', price: price('0.91', each) },
    ]);
    return [
      ...larger,
      { price_list: 'COOP', item: code, unit, from_quantity: '1', price: price('0.94') },
      { price_list: 'SHOP', item: code, unit, from_quantity: '6', price: price('0.96') },
    ];
  });
  for (let at = 0; at < breaks.length; at += 200)
    await db
      .insertInto('price_break')
      .values(breaks.slice(at, at + 200))
      .execute();
}

async function loadSuppliers(db: Db, today: string) {
  for (const { code, name, leadDays, dropShips, fee, sells, share, minimum, multiple } of SUPPLIERS) {
    const terms = TERMS[code] ?? {};
    await db
      .insertInto('supplier')
      .values({
        code,
        name,
        email: '',
        lead_days: leadDays,
        drop_ships: dropShips,
        drop_ship_fee: fee,
        order_days: [...(terms.orderDays ?? [1, 2, 3, 4, 5])],
        cutoff: terms.cutoff ?? null,
        transit_days: terms.transitDays ?? 0,
        minimum_value: terms.minimumValue ?? '0',
        freight: terms.freight ?? '0',
        freight_free_from: terms.freeFrom ?? null,
      })
      .execute();
    for (const days of terms.closedAfter ?? [])
      await db
        .insertInto('supplier_closed_day')
        .values({ supplier: code, day: isoDay(dayNumber(today) + days) })
        .execute();
    const items = ITEMS.filter((item) => !item.successor && sells.some((prefix) => item.code.startsWith(prefix)));
    const rows = items.map((item, at) => ({
      supplier: code,
      item: item.code,
      their_code: `${code.slice(0, 2)}${1000 + at * 7}`,
      cost: divide(times(item.cost, share), 1, 4),
      lead_days: null,
      // A supplier's minimum is for small goods: nobody has to buy a hundred wax blocks.
      minimum: Number(item.cost) > 5 ? '1' : minimum,
      multiple: Number(item.cost) > 5 ? '1' : multiple,
      returnable: !(terms.keeps ?? []).some((prefix) => item.code.startsWith(prefix)),
    }));
    await db.insertInto('supplier_item').values(rows).execute();
    const breaks = rows.flatMap(({ item, cost }) =>
      (terms.breaks ?? []).map(([from, part]) => ({ supplier: code, item, from_quantity: from, cost: divide(times(cost, part), 1, 4) })),
    );
    if (breaks.length > 0) await db.insertInto('supplier_item_break').values(breaks).execute();
  }
  await db
    .insertInto('transfer_lane')
    .values(LANES.map(([from, to, days, cost]) => ({ from_warehouse: from, to_warehouse: to, transit_days: days, cost_per_kg: cost })))
    .execute();
}

/** Whoever pays at the counter and has no account. */
async function loadCashCustomer(db: Db) {
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

async function loadCustomers(db: Db) {
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
async function loadCredit(db: Db, today: string) {
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

/** Contracts as the manager made them, before anything was sold under them. */
async function loadContracts(db: Db, today: string) {
  await db
    .insertInto('desk_setting')
    .values({ name: 'floor_margin', value: String(FLOOR_MARGIN) })
    .execute();
  for (const { customer, mustName, several, choice } of CONTRACT_RULES)
    await db
      .updateTable('customer')
      .set({ must_name_contract: mustName, several_contracts: several, contract_choice: choice })
      .where('number', '=', customer)
      .execute();
  for (const [at, { name, days, customers, lines }] of CONTRACTS.entries()) {
    const day = (offset: number) => isoDay(dayNumber(today) + offset);
    const { id } = await db
      .insertInto('contract')
      .values({ number: `K${FIRST_CONTRACT + at}`, name, first_day: day(days[0]), last_day: day(days[1]) })
      .returning('id')
      .executeTakeFirstOrThrow();
    for (const number of customers) {
      const customer = await db.selectFrom('customer').select('id').where('number', '=', number).executeTakeFirstOrThrow();
      await db.insertInto('contract_customer').values({ contract_id: id, customer_id: customer.id, ship_to_id: null }).execute();
    }
    await db
      .insertInto('contract_line')
      .values(
        lines.map(({ item, group, kind, unit, price, percent, minimum, most }, line) => ({
          contract_id: id,
          line_no: line + 1,
          item: item ?? null,
          item_group: group ?? null,
          kind,
          unit: unit ?? null,
          price: price ?? null,
          percent: percent ?? null,
          minimum: minimum ?? null,
          most: most ?? null,
        })),
      )
      .execute();
  }
  await db
    .updateTable('number_series')
    .set({ next: FIRST_CONTRACT + CONTRACTS.length })
    .where('name', '=', 'contract')
    .execute();
}

/** A year of receipts, which shows who is late and by how much; the days of each supplier lie evenly over the year. */
export async function loadReceipts(db: Db, today: string, dice: Dice): Promise<void> {
  for (const { supplier, receipts, days } of RECORDS) {
    const items = await db.selectFrom('supplier_item').select('item').where('supplier', '=', supplier).orderBy('item').execute();
    const rows = Array.from({ length: receipts }, (_, at) => {
      const promised = dayNumber(today) - 400 + Math.floor((at * 365) / receipts);
      return { supplier, item: dice.pick(items).item, promised_day: isoDay(promised), received_day: isoDay(promised + lateBy(days, dice)) };
    });
    await db.insertInto('supplier_receipt').values(rows).execute();
  }
}

function lateBy(days: readonly (readonly [late: number, percent: number])[], dice: Dice): number {
  let roll = dice.whole(1, 100);
  for (const [late, percent] of days) if ((roll -= percent) <= 0) return late;
  return 0;
}
