import type { ItemPage, PoolView, TimelineStep } from '@nockwright/contract/items';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import { unitName } from '@nockwright/core/units';
import type { Now } from '../clock';
import type { Db } from '../database';
import { notFound } from '../http/refusal';
import { decimal, loadBook, type LiveBook } from '../promise';

/** An item: what is on hand, committed, available and inbound by warehouse, and how that changes day by day. */
export async function readItem(db: Db, now: Now, code: string): Promise<ItemPage> {
  const item = await db.selectFrom('item').selectAll().where('code', '=', code).executeTakeFirst();
  if (!item) throw notFound(`item ${code}`);
  const live = await loadBook(db, now, { items: [code] });
  const stock = await db.selectFrom('stock').selectAll().where('item', '=', code).execute();
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
      { code: item.unit, name: unitName(item.unit), numerator: '1', denominator: '1' },
      ...units.map((unit) => ({ code: unit.unit, name: unitName(unit.unit), numerator: String(unit.numerator), denominator: String(unit.denominator) })),
    ],
    pools: warehouses.map(({ code: warehouse, name }): PoolView => {
      const row = stock.find((entry) => entry.warehouse === warehouse) ?? { on_hand: '0', allocated: '0', committed: '0', inbound: '0' };
      const available = minus(plus(row.on_hand, row.inbound), row.committed);
      return {
        warehouse,
        name,
        onHand: row.on_hand,
        allocated: row.allocated,
        committed: row.committed,
        inbound: row.inbound,
        available,
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
  };
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
