import type { Supplier, SupplierPage, SupplierScore } from '@nockwright/contract/supply';
import { supplierArrival, orderDay } from '@nockwright/core/shortages';
import { scorecardOf } from '@nockwright/core/supply';
import { sql } from 'kysely';
import type { Now } from '../../clock';
import type { Db } from '../../database';
import { notFound } from '../../http/refusal';

/** Suppliers by name, with what is open at them and how they deliver. */
export async function listSuppliers(db: Db, now: Now): Promise<Supplier[]> {
  const { rows } = await sql<{
    code: string;
    name: string;
    lead_days: number;
    drop_ships: boolean;
    exchanges: boolean;
    items: number;
    open_orders: number;
    overdue_orders: number;
    receipts: number;
    on_time: number;
  }>`
    select s.code, s.name, s.lead_days, s.drop_ships, s.exchanges,
      (select count(*)::int from supplier_item i where i.supplier = s.code) as items,
      o.open_orders, o.overdue_orders, r.receipts, r.on_time
    from supplier s
    cross join lateral (
      select count(*)::int as open_orders,
        count(*) filter (where exists (
          select from purchase_line l where l.purchase_id = p.id and l.expected_day < ${now.today}::date and l.received + l.closed < l.quantity))::int as overdue_orders
      from purchase_order p where p.supplier = s.code and p.state in ('sent', 'acknowledged')
    ) o
    cross join lateral (
      select count(*)::int as receipts, count(*) filter (where received_day <= promised_day)::int as on_time from supplier_receipt where supplier = s.code
    ) r
    order by s.name`.execute(db);
  return rows.map((row) => ({
    code: row.code,
    name: row.name,
    leadDays: row.lead_days,
    dropShips: row.drop_ships,
    exchanges: row.exchanges,
    items: row.items,
    openOrders: row.open_orders,
    overdueOrders: row.overdue_orders,
    receipts: row.receipts,
    onTimePercent: row.receipts === 0 ? null : Math.round((1000 * row.on_time) / row.receipts) / 10,
  }));
}

/** A supplier: what they want, what they sell, how they deliver. */
export async function readSupplier(db: Db, now: Now, code: string): Promise<SupplierPage> {
  const row = await db.selectFrom('supplier').selectAll().where('code', '=', code).executeTakeFirst();
  if (!row) throw notFound(`supplier ${code}`);
  const closed = (await db.selectFrom('supplier_closed_day').select('day').where('supplier', '=', code).orderBy('day').execute()).map(({ day }) => day);
  const items = await db
    .selectFrom('supplier_item')
    .innerJoin('item', 'item.code', 'supplier_item.item')
    .selectAll('supplier_item')
    .select(['item.description', 'item.unit', 'item.discontinued'])
    .where('supplier', '=', code)
    .orderBy('item')
    .execute();
  const breaks = await db.selectFrom('supplier_item_break').selectAll().where('supplier', '=', code).orderBy('from_quantity').execute();
  const units = await db.selectFrom('supplier_unit').selectAll().where('supplier', '=', code).orderBy('unit').execute();
  const times = {
    leadDays: row.lead_days,
    workdays: row.workdays,
    orderDays: row.order_days,
    cutoff: row.cutoff,
    closed,
    transitDays: row.transit_days,
  };
  return {
    code: row.code,
    name: row.name,
    version: row.version,
    email: row.email,
    leadDays: row.lead_days,
    workdays: row.workdays,
    orderDays: row.order_days,
    cutoff: row.cutoff,
    transitDays: row.transit_days,
    minimumValue: row.minimum_value,
    freight: row.freight,
    freightFreeFrom: row.freight_free_from,
    dropShips: row.drop_ships,
    dropShipFee: row.drop_ship_fee,
    exchanges: row.exchanges,
    priceTolerance: row.price_tolerance,
    dayTolerance: row.day_tolerance,
    closed,
    nextOrder: { taken: orderDay(now.localTime, times), arrives: supplierArrival(now.localTime, times) },
    items: items.map((item) => ({
      item: item.item,
      description: item.description,
      unit: item.unit,
      discontinued: item.discontinued,
      theirCode: item.their_code,
      cost: item.cost,
      leadDays: item.lead_days,
      minimum: item.minimum,
      multiple: item.multiple,
      returnable: item.returnable,
      breaks: breaks.filter((step) => step.item === item.item).map((step) => ({ from: step.from_quantity, cost: step.cost })),
      units: units.filter((row) => row.item === item.item).map(({ unit, quantity }) => ({ unit, quantity })),
    })),
    score: await readScore(db, now, code),
  };
}

async function readScore(db: Db, now: Now, code: string): Promise<SupplierScore> {
  const receipts = await db.selectFrom('supplier_receipt').select(['promised_day', 'received_day']).where('supplier', '=', code).execute();
  const { ended, full, damaged, bought } = await db
    .selectFrom('purchase_line')
    .innerJoin('purchase_order', 'purchase_order.id', 'purchase_line.purchase_id')
    .select([
      sql<number>`count(*) filter (where received + closed >= quantity)::int`.as('ended'),
      sql<number>`count(*) filter (where received >= quantity)::int`.as('full'),
      sql<number>`count(*) filter (where damaged > 0)::int`.as('damaged'),
      sql<string>`coalesce(sum(round((quantity - closed) * cost, 2)) filter (where created_day > ${now.today}::date - 365), 0)::text`.as('bought'),
    ])
    .where('purchase_order.supplier', '=', code)
    .where('purchase_order.state', '<>', 'draft')
    .executeTakeFirstOrThrow();
  return {
    ...scorecardOf(receipts.map((row) => ({ promised: row.promised_day, received: row.received_day }))),
    endedLines: ended,
    inFullPercent: ended === 0 ? null : Math.round((1000 * full) / ended) / 10,
    damagedLines: damaged,
    bought,
  };
}
