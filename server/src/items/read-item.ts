import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import { type LiveBook } from '@nockwright/core/book';
import type { ItemPage, ItemPromise, OtherItem, PoolView, TimelineStep } from '@nockwright/contract/items';
import { compareDecimal, minus, plus, sum, type Quantity } from '@nockwright/core/money';
import { promiseBook } from '@nockwright/core/promise';
import { unitName } from '@nockwright/core/units';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, together, type Db } from '../database';
import { notFound } from '../http/refusal';
import { decimal, loadBook } from '../promise';

/** An item: what is on hand, committed, available and inbound by warehouse, and how that changes day by day. */
export async function readItem(db: Db, now: Now, code: string): Promise<ItemPage> {
  const item = await db.selectFrom('item').selectAll().where('code', '=', code).executeTakeFirst();
  if (!item) throw notFound(`item ${code}`);
  const live = await loadBook(db, now, { items: [code] });
  const { stock, warehouses, units, suppliers } = await loadBeside(db, code, now.today);
  return {
    code: item.code,
    description: item.description,
    group: item.item_group,
    unit: item.unit,
    listPrice: item.list_price,
    cost: item.cost,
    discontinued: item.discontinued,
    successor: item.successor,
    units: [asUnit({ unit: item.unit, numerator: 1, denominator: 1, step: item.step }), ...units.map(asUnit)],
    pools: warehouses.map((warehouse) =>
      poolView(
        warehouse,
        stock.find((entry) => entry.warehouse === warehouse.code),
        timelineOf(live, code, warehouse.code, now.today),
      ),
    ),
    suppliers: suppliers.map((row) => ({
      code: row.supplier,
      name: row.name,
      theirCode: row.their_code,
      cost: row.cost,
      leadDays: String(row.lead_days ?? row.usual_days),
      minimum: row.minimum,
      multiple: row.multiple,
      dropShips: row.drop_ships,
    })),
    gtin: item.gtin,
    tracksLots: item.tracks_lots,
    tracksExpiry: item.tracks_expiry,
    weight: item.weight,
    length: item.length_cm,
    width: item.width_cm,
    height: item.height_cm,
    apart: item.apart,
    tracksSerials: item.tracks_serials,
    taxClass: item.tax_class,
    leastLife: item.least_life,
    also: item.also,
    promises: await promisesOf(db, live, code),
    ...(await loadOthers(db, code)),
  };
}

/** What stands about an item besides its promises. */
function loadBeside(db: Db, code: string, today: string) {
  return together(db, async (all) => {
    const [stock, warehouses, units, suppliers] = await Promise.all([
      all
        .selectFrom('stock')
        .selectAll()
        .select(sql<string>`trim_scale(expired_on_hand(item, warehouse, ${today}::date))::text`.as('expired'))
        .where('item', '=', code)
        .execute(),
      all.selectFrom('warehouse').select(['code', 'name']).orderBy('code').execute(),
      all.selectFrom('item_unit').selectAll().where('item', '=', code).orderBy('numerator').execute(),
      all
        .selectFrom('supplier_item')
        .innerJoin('supplier', 'supplier.code', 'supplier_item.supplier')
        .selectAll('supplier_item')
        .select(['supplier.name', 'supplier.lead_days as usual_days', 'supplier.drop_ships'])
        .where('item', '=', code)
        .orderBy('supplier.name')
        .execute(),
    ]);
    return { stock, warehouses, units, suppliers };
  });
}

function asUnit({
  unit,
  numerator,
  denominator,
  step,
}: {
  readonly unit: string;
  readonly numerator: number;
  readonly denominator: number;
  readonly step: Quantity;
}) {
  return { code: unit, name: unitName(unit), numerator: String(numerator), denominator: String(denominator), step };
}

const NOTHING = { on_hand: '0', allocated: '0', committed: '0', inbound: '0', expired: '0' };

function poolView(warehouse: { readonly code: WarehouseCode; readonly name: string }, row: typeof NOTHING = NOTHING, timeline: PoolView['timeline']): PoolView {
  return {
    warehouse: warehouse.code,
    name: warehouse.name,
    onHand: row.on_hand,
    allocated: row.allocated,
    committed: row.committed,
    inbound: row.inbound,
    // What has expired is no stock to sell.
    available: minus(minus(plus(row.on_hand, row.inbound), row.committed), row.expired),
    expired: row.expired,
    timeline,
  };
}

/** Who is promised how many of an item for when, from what. */
async function promisesOf(db: Db, live: LiveBook, item: ItemCode): Promise<ItemPromise[]> {
  const result = promiseBook(live.book);
  const late = new Set(result.atRisk.map(({ id, date }) => `${id}/${date}`));
  const kept = result.promises.flatMap(({ id, schedule }) =>
    schedule.filter((entry) => entry.kept).map((entry) => ({ ...entry, id, info: live.demands.get(id)! })),
  );
  const own = kept.filter(({ info }) => info.item === item);
  const customers = await db
    .selectFrom('sales_order')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .select(['sales_order.id', 'customer.name', 'customer.id as customer_id'])
    .where(anyOf('sales_order.id', [...new Set(own.map(({ info }) => info.orderId))]))
    .execute();
  const customerOf = new Map(customers.map((row) => [row.id, row]));
  return own
    .map(({ id, date, quantity, from, info }) => ({
      order: info.orderId,
      number: info.orderNumber,
      lineNo: info.lineNo,
      customer: customerOf.get(info.orderId)!.name,
      customerId: customerOf.get(info.orderId)!.customer_id,
      warehouse: info.warehouse,
      quantity: decimal(quantity),
      day: date,
      atRisk: late.has(`${id}/${date}`),
      from: from.map((part) => {
        const supply = live.supplies.get(part.supply);
        return { label: supply?.label ?? part.supply, purchase: supply?.purchase ?? null, quantity: decimal(part.quantity) };
      }),
    }))
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.order - b.order || a.lineNo - b.lineNo));
}

/** What may stand in for an item, what it stands in for, what it is made of and what it is a part of. */
async function loadOthers(db: Db, code: string): Promise<Pick<ItemPage, 'substitutes' | 'insteadOf' | 'components' | 'partOf'>> {
  const { rows } = await sql<OtherItem & { kind: 'substitutes' | 'insteadOf' | 'components' | 'partOf' }>`
    select o.kind, o.item, i.description, i.unit, trim_scale(o.ratio)::text as ratio,
      trim_scale(coalesce((select sum(greatest(0, on_hand + inbound - committed)) from stock s where s.item = o.item), 0))::text as available
    from (
      select 'substitutes' as kind, substitute as item, ratio from item_substitute where item = ${code}
      union all select 'insteadOf', item, ratio from item_substitute where substitute = ${code}
      union all select 'components', component, quantity from item_component where item = ${code}
      union all select 'partOf', item, quantity from item_component where component = ${code}
    ) o join item i on i.code = o.item
    order by o.item`.execute(db);
  const of = (kind: (typeof rows)[number]['kind']) => rows.filter((row) => row.kind === kind).map(({ kind: _, ...row }) => row);
  return { substitutes: of('substitutes'), insteadOf: of('insteadOf'), components: of('components'), partOf: of('partOf') };
}

type Change = Pick<TimelineStep, 'day' | 'change' | 'kind' | 'label' | 'order' | 'purchase'>;

/** Supply and commitments of a pool by day, with the running sum and what could still be promised (ATP looks ahead). */
function timelineOf(live: LiveBook, item: ItemCode, warehouse: WarehouseCode, today: string): TimelineStep[] {
  const changes: Change[] = [];
  for (const supply of live.book.supply) {
    if (supply.item !== item || supply.warehouse !== warehouse) continue;
    const info = live.supplies.get(supply.id)!;
    changes.push({
      day: info.available ?? today,
      change: decimal(supply.quantity),
      kind: supply.date === undefined ? 'on_hand' : 'purchase',
      label: supply.for ? `${info.label}, bound to ${supply.for}` : info.label,
      order: null,
      purchase: info.purchase,
    });
  }
  for (const demand of live.book.demand) {
    if (demand.item !== item || demand.warehouse !== warehouse) continue;
    for (const { date, quantity } of demand.promised ?? []) {
      changes.push({
        day: date < today ? today : date,
        change: decimal(-quantity),
        kind: 'promise',
        label: `order ${demand.order} line ${live.demands.get(demand.id)!.lineNo}`,
        order: live.demands.get(demand.id)!.orderId,
        purchase: null,
      });
    }
  }
  // Within a day supply stands before what takes it.
  changes.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : compareDecimal(b.change, a.change)));
  let running = '0';
  const steps = changes.map((change) => ({ ...change, projected: (running = sum([running, change.change])) }));
  let least: string | null = null;
  const available: string[] = [];
  for (let at = steps.length - 1; at >= 0; at--) {
    const endOfDay = at === steps.length - 1 || steps[at + 1]!.day !== steps[at]!.day;
    if (endOfDay && (least === null || compareDecimal(steps[at]!.projected, least) < 0)) least = steps[at]!.projected;
    available[at] = compareDecimal(least!, '0') > 0 ? least! : '0';
  }
  return steps.map((step, at) => ({ ...step, available: available[at]! }));
}
