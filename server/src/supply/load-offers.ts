import type { SupplierCode } from '@nockwright/core/ids';
import type { DraftPurchase, ItemOffer } from '@nockwright/core/routing';
import type { CostBreak } from '@nockwright/core/shortages';
import type { SupplierOdds } from '@nockwright/core/supply';
import { sql } from 'kysely';
import { anyOf, type Db } from '../database';
import { loadOdds, owedLate } from '../promise';

/** What suppliers want for items, by item; each with their times, breaks and record of lateness (`known`, where it is). */
export async function loadOffers(db: Db, items: readonly string[], known?: SupplierOdds): Promise<ReadonlyMap<string, readonly ItemOffer[]>> {
  const rows = await db
    .selectFrom('supplier_item')
    .innerJoin('supplier', 'supplier.code', 'supplier_item.supplier')
    .selectAll('supplier')
    .select(['supplier_item.item', 'supplier_item.cost', 'supplier_item.lead_days as item_lead_days', 'minimum', 'multiple', 'returnable'])
    .select([
      sql<
        CostBreak[] | null
      >`(select json_agg(json_build_object('from', trim_scale(from_quantity)::text, 'cost', trim_scale(b.cost)::text) order by from_quantity)
        from supplier_item_break b where b.supplier = supplier_item.supplier and b.item = supplier_item.item)`.as('breaks'),
      owedLate('supplier_item.item', 'supplier_item.supplier').as('not_before'),
      sql<string[]>`array(select day::text from supplier_closed_day where supplier = supplier.code order by day)`.as('closed'),
    ])
    .where(anyOf('supplier_item.item', items))
    .orderBy('supplier_item.item')
    .orderBy('supplier.code')
    .execute();
  const odds = known ?? (await loadOdds(db));
  const offers = new Map<string, ItemOffer[]>();
  for (const row of rows) {
    const list = offers.get(row.item) ?? [];
    offers.set(row.item, list);
    list.push({
      item: row.item,
      supplier: row.code,
      name: row.name,
      cost: row.cost,
      breaks: row.breaks ?? [],
      leadDays: row.item_lead_days ?? row.lead_days,
      workdays: row.workdays,
      orderDays: row.order_days,
      cutoff: row.cutoff,
      closed: row.closed,
      transitDays: row.transit_days,
      notBefore: row.not_before,
      minimum: row.minimum,
      multiple: row.multiple,
      returnable: row.returnable,
      dropShips: row.drop_ships,
      dropShipFee: row.drop_ship_fee,
      minimumValue: row.minimum_value,
      freight: row.freight,
      freightFreeFrom: row.freight_free_from,
      odds: odds.of(row.code),
    });
  }
  return offers;
}

/** The newest draft to stock of each of these suppliers and each warehouse, by `supplier/warehouse`. */
export async function loadDrafts(db: Db, suppliers: readonly string[]): Promise<ReadonlyMap<string, DraftPurchase>> {
  const rows = await db
    .selectFrom('purchase_order')
    .innerJoin('purchase_line', 'purchase_line.purchase_id', 'purchase_order.id')
    .select([
      'purchase_order.id',
      'purchase_order.number',
      'purchase_order.supplier',
      'purchase_order.warehouse',
      'purchase_line.item',
      sql<string>`sum(purchase_line.quantity - closed)`.as('bought'),
      sql<string>`coalesce(sum(purchase_line.quantity - closed) filter (where not lifts), 0)`.as('needed'),
      sql<string>`sum(round((purchase_line.quantity - closed) * cost, 2))`.as('value'),
    ])
    // Written out: a plan that is kept must know how few drafts there are.
    .where('state', '=', sql.lit('draft'))
    .where('kind', '=', sql.lit('stock'))
    .where(anyOf('purchase_order.supplier', suppliers))
    .groupBy(['purchase_order.id', 'purchase_line.item'])
    .orderBy('purchase_order.id')
    .execute();
  const drafts = new Map<string, DraftPurchase & { value: string; items: Map<string, { needed: string; bought: string }> }>();
  for (const row of rows) {
    const key = `${row.supplier}/${row.warehouse}`;
    let draft = drafts.get(key);
    if (draft?.id !== row.id) {
      draft = { id: row.id, number: row.number, supplier: row.supplier, warehouse: row.warehouse!, value: '0', items: new Map() };
      drafts.set(key, draft);
    }
    draft.value = (Number(draft.value) + Number(row.value)).toFixed(2);
    draft.items.set(row.item, { needed: row.needed, bought: row.bought });
  }
  return drafts;
}

/** A draft of what a supplier ships to the customer of an order. */
export interface DraftDropShipment {
  readonly id: number;
  readonly number: string;
  readonly supplier: SupplierCode;
  readonly order: number;
  readonly shipTo: string;
}

/** Drafts that drop shipments for these orders would join, the newest last. */
export async function loadDraftDropShipments(db: Db, orders: readonly number[]): Promise<DraftDropShipment[]> {
  return db
    .selectFrom('purchase_order')
    .select(['id', 'number', 'supplier', 'ship_to as shipTo'])
    .select((eb) => eb.ref('order_id').$notNull().as('order'))
    .where('kind', '=', 'drop_ship')
    .where('state', '=', 'draft')
    .where(anyOf('order_id', orders))
    .orderBy('id')
    .execute();
}
