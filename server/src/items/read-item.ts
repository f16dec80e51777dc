import type { ItemPage, ItemPromise, OtherItem, PoolView, TimelineStep } from '@nockwright/contract/items';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import { promiseBook } from '@nockwright/core/promise';
import { unitName } from '@nockwright/core/units';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { notFound } from '../http/refusal';
import { decimal, loadBook, type LiveBook } from '../promise';

/** An item: what is on hand, committed, available and inbound by warehouse, and how that changes day by day. */
export async function readItem(db: Db, now: Now, code: string): Promise<ItemPage> {
  const item = await db.selectFrom('item').selectAll().where('code', '=', code).executeTakeFirst();
  if (!item) throw notFound(`item ${code}`);
  const live = await loadBook(db, now, { items: [code] });
  const stock = await db
    .selectFrom('stock')
    .selectAll()
    .select(sql<string>`trim_scale(expired_on_hand(item, warehouse, ${now.today}::date))::text`.as('expired'))
    .where('item', '=', code)
    .execute();
  const warehouses = await db.selectFrom('warehouse').select(['code', 'name']).orderBy('code').execute();
  const units = await db.selectFrom('item_unit').selectAll().where('item', '=', code).orderBy('numerator').execute();
  const suppliers = await db
    .selectFrom('supplier_item')
    .innerJoin('supplier', 'supplier.code', 'supplier_item.supplier')
    .selectAll('supplier_item')
    .select(['supplier.name', 'supplier.lead_days as usual_days', 'supplier.drop_ships'])
    .where('item', '=', code)
    .orderBy('supplier.name')
    .execute();
  return {
    code: item.code,
    description: item.description,
    group: item.item_group,
    unit: item.unit,
    listPrice: item.list_price,
    cost: item.cost,
    discontinued: item.discontinued,
    successor: item.successor,
    units: [
      { code: item.unit, name: unitName(item.unit), numerator: '1', denominator: '1', step: item.step },
      ...units.map((unit) => ({
        code: unit.unit,
        name: unitName(unit.unit),
        numerator: String(unit.numerator),
        denominator: String(unit.denominator),
        step: unit.step,
      })),
    ],
    pools: warehouses.map(({ code: warehouse, name }): PoolView => {
      const row = stock.find((entry) => entry.warehouse === warehouse) ?? { on_hand: '0', allocated: '0', committed: '0', inbound: '0', expired: '0' };
      // What has expired is no stock to sell.
      const available = minus(minus(plus(row.on_hand, row.inbound), row.committed), row.expired);
      return {
        warehouse,
        name,
        onHand: row.on_hand,
        allocated: row.allocated,
        committed: row.committed,
        inbound: row.inbound,
        available,
        expired: row.expired,
        timeline: timelineOf(live, code, warehouse, now.today),
      };
    }),
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
    leastLife: item.least_life,
    promises: await promisesOf(db, live, code),
    ...(await loadOthers(db, code)),
  };
}

/** Who is promised how many of an item for when, from what. */
async function promisesOf(db: Db, live: LiveBook, item: string): Promise<ItemPromise[]> {
  const result = promiseBook(live.book);
  const late = new Set(result.atRisk.map(({ id, date }) => `${id}/${date}`));
  const kept = result.promises.flatMap(({ id, schedule }) =>
    schedule.filter((entry) => entry.kept).map((entry) => ({ ...entry, id, info: live.demands.get(id)! })),
  );
  const own = kept.filter(({ info }) => info.item === item);
  const customers = await db
    .selectFrom('sales_order')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .select(['sales_order.id', 'customer.name'])
    .where(anyOf('sales_order.id', [...new Set(own.map(({ info }) => info.orderId))]))
    .execute();
  const names = new Map(customers.map((row) => [row.id, row.name]));
  return own
    .map(({ id, date, quantity, from, info }) => ({
      order: info.orderId,
      number: info.orderNumber,
      lineNo: info.lineNo,
      customer: names.get(info.orderId) ?? '',
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
function timelineOf(live: LiveBook, item: string, warehouse: string, today: string): TimelineStep[] {
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
