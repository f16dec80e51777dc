import type { ItemCode } from '@nockwright/core/ids';
import type { BodyOf } from '@nockwright/contract/shape';
import type { SupplierPage, supplyRoutes } from '@nockwright/contract/supply';
import { parseClock } from '@nockwright/core/calendar';
import { compareDecimal, type Decimal, type UnitPrice } from '@nockwright/core/money';
import { beyondCleared, spanOf, type ClearedCosts } from '@nockwright/core/supply';
import { UNIT_CODES } from '@nockwright/core/units';
import { sql, type Insertable } from 'kysely';
import type { Trx, Database } from '../../database';
import { changedSince, recordEvent } from '../../events';
import type { CommandContext } from '../../http/context';
import { invalid, notFound, Refusal } from '../../http/refusal';
import { loadCostLimits, needsManager, outsideInWords, type CostLimits } from '../check-costs';
import { readSupplier } from './read-supplier';

/** Changes what a supplier wants and when they work. Promises that stand are not moved: they rest on purchases that were sent. */
export async function changeSupplier(context: CommandContext, code: string, wish: BodyOf<typeof supplyRoutes.changeSupplier>): Promise<SupplierPage> {
  const { trx, now } = context;
  const before = await lockSupplier(trx, code, wish.version);
  if (typeof wish.cutoff === 'string' && parseClock(wish.cutoff) === null) throw invalid('body.cutoff', `expected a time HH:MM, got ${wish.cutoff}`);
  if (wish.priceTolerance !== undefined && compareDecimal(wish.priceTolerance, before.price_tolerance) !== 0 && context.user.role !== 'manager')
    throw new Refusal('not-allowed', 'How far a cost may differ before somebody decides is set by the manager.');
  const changes = {
    ...(wish.email === undefined ? {} : { email: wish.email ?? '' }),
    ...(wish.leadDays === undefined ? {} : { lead_days: wish.leadDays }),
    ...(wish.workdays === undefined ? {} : { workdays: weekdays(wish.workdays) }),
    ...(wish.orderDays === undefined ? {} : { order_days: weekdays(wish.orderDays) }),
    ...(wish.cutoff === undefined ? {} : { cutoff: wish.cutoff }),
    ...(wish.transitDays === undefined ? {} : { transit_days: wish.transitDays }),
    ...(wish.minimumValue === undefined ? {} : { minimum_value: wish.minimumValue }),
    ...(wish.freight === undefined ? {} : { freight: wish.freight }),
    ...(wish.freightFreeFrom === undefined ? {} : { freight_free_from: wish.freightFreeFrom }),
    ...(wish.dropShips === undefined ? {} : { drop_ships: wish.dropShips }),
    ...(wish.dropShipFee === undefined ? {} : { drop_ship_fee: wish.dropShipFee }),
    ...(wish.exchanges === undefined ? {} : { exchanges: wish.exchanges }),
    ...(wish.priceTolerance === undefined ? {} : { price_tolerance: wish.priceTolerance }),
    ...(wish.dayTolerance === undefined ? {} : { day_tolerance: wish.dayTolerance }),
  };
  await touchSupplier(trx, code, changes);
  if (wish.closed) {
    await trx.deleteFrom('supplier_closed_day').where('supplier', '=', code).execute();
    const days = [...new Set(wish.closed)];
    if (days.length > 0)
      await trx
        .insertInto('supplier_closed_day')
        .values(days.map((day) => ({ supplier: code, day })))
        .execute();
  }
  await recordEvent(context, {
    kind: 'supplier.changed',
    facts: { supplier: before.name },
    before: Object.fromEntries(Object.keys(changes).map((name) => [name, before[name as keyof typeof changes]])),
    after: { ...changes, ...(wish.closed ? { closed: wish.closed } : {}) },
    subjects: [{ kind: 'supplier', key: code }],
  });
  return readSupplier(trx, now, code);
}

type ItemTerms = BodyOf<typeof supplyRoutes.setSupplierItem>;

/** Says at what terms a supplier sells an item from now on. Costs on purchases that exist stay as they are. */
export async function setSupplierItem(
  context: CommandContext,
  code: string,
  item: ItemCode,
  wish: BodyOf<typeof supplyRoutes.setSupplierItem>,
): Promise<SupplierPage> {
  const { trx, now } = context;
  const { name, price_tolerance } = await lockSupplier(trx, code, wish.version);
  const known = await trx.selectFrom('item').select(['code', 'cost']).where('code', '=', item).executeTakeFirst();
  if (!known) throw notFound(`item ${item}`);
  const breaks = wish.breaks ?? [];
  checkTerms(wish);
  const before = await trx.selectFrom('supplier_item').selectAll().where('supplier', '=', code).where('item', '=', item).executeTakeFirst();
  const stand = await trx.selectFrom('supplier_item_break').select('cost').where('supplier', '=', code).where('item', '=', item).execute();
  const span = spanOf(wish.cost, wish.breaks ? breaks : stand);
  const limits = await loadCostLimits(trx, code, [item]);
  if (context.user.role !== 'manager') checkCleared(limits, { item, cost: known.cost, tolerance: price_tolerance, isNew: !before }, span);
  const cleared = clearedBy(context.user.role === 'manager', span, limits.items.get(item), known.cost);
  const terms = {
    their_code: wish.theirCode ?? before?.their_code ?? '',
    cost: wish.cost,
    lead_days: wish.leadDays === undefined ? (before?.lead_days ?? null) : wish.leadDays,
    minimum: wish.minimum,
    multiple: wish.multiple,
    returnable: wish.returnable ?? before?.returnable ?? true,
    cleared_most: cleared.most,
    cleared_least: cleared.least,
  };
  await storeTerms(trx, code, item, terms, wish);
  await touchSupplier(trx, code);
  await recordEvent(context, {
    kind: 'supplier.sells',
    facts: { supplier: name, item, before: before !== undefined },
    before: before ?? null,
    after: { ...terms, breaks, ...(wish.units ? { units: wish.units } : {}) },
    subjects: [
      { kind: 'supplier', key: code },
      { kind: 'item', key: item },
    ],
  });
  return readSupplier(trx, now, code);
}

/** Refuses breaks that do not rise, and units that are none. */
function checkTerms({ breaks = [], units, cost }: ItemTerms): void {
  breaks.forEach((step, at) => {
    if (at > 0 && compareDecimal(step.from, breaks[at - 1]!.from) <= 0)
      throw invalid(`body.breaks[${at}].from`, `expected more than the ${breaks[at - 1]!.from} of the break before it, got ${step.from}`);
    if (compareDecimal(step.cost, at === 0 ? cost : breaks[at - 1]!.cost) > 0)
      throw invalid(`body.breaks[${at}].cost`, `expected no more than what fewer cost, got ${step.cost}`);
  });
  units?.forEach(({ unit, quantity }, at) => {
    if (!(unit in UNIT_CODES)) throw invalid(`body.units[${at}].unit`, `expected one of ${Object.keys(UNIT_CODES).join(', ')}, got ${unit}`);
    if (compareDecimal(quantity, '0') <= 0) throw invalid(`body.units[${at}].quantity`, `expected more than 0, got ${quantity}`);
    if (units!.findIndex((row) => row.unit === unit) < at) throw invalid(`body.units[${at}].unit`, `${unit} stands twice`);
  });
}

/** Refuses a cost that margins would be judged by and that no manager has seen. */
function checkCleared(
  limits: CostLimits,
  { item, cost, tolerance, isNew }: { readonly item: ItemCode; readonly cost: UnitPrice; readonly tolerance: Decimal; readonly isNew: boolean },
  span: ClearedCosts,
): void {
  const beyond = [span.most, span.least].find((cost) => needsManager(limits, item, cost));
  if (beyond !== undefined)
    throw new Refusal('not-allowed', `${beyond} is ${outsideInWords(limits, item)}, and margins are judged by it: the manager enters it.`);
  // Dropped and added anew is no way round it: what is new is held to what the item costs.
  if (isNew && compareDecimal(span.least, cost) < 0 && beyondCleared(span.least, { most: cost, least: cost }, tolerance))
    throw new Refusal(
      'not-allowed',
      `The cost would be more than ${tolerance} % below the ${cost} that ${item} costs, and margins are judged by it: the manager enters it.`,
    );
}

async function storeTerms(
  trx: Trx,
  supplier: string,
  item: ItemCode,
  terms: Omit<Insertable<Database['supplier_item']>, 'supplier' | 'item'>,
  { breaks, units }: ItemTerms,
): Promise<void> {
  await trx
    .insertInto('supplier_item')
    .values({ supplier, item, ...terms })
    .onConflict((conflict) => conflict.columns(['supplier', 'item']).doUpdateSet(terms))
    .execute();
  if (breaks) {
    await trx.deleteFrom('supplier_item_break').where('supplier', '=', supplier).where('item', '=', item).execute();
    if (breaks.length > 0)
      await trx
        .insertInto('supplier_item_break')
        .values(breaks.map((step) => ({ supplier, item, from_quantity: step.from, cost: step.cost })))
        .execute();
  }
  if (units) {
    await trx.deleteFrom('supplier_unit').where('supplier', '=', supplier).where('item', '=', item).execute();
    if (units.length > 0)
      await trx
        .insertInto('supplier_unit')
        .values(units.map((row) => ({ supplier, item, ...row })))
        .execute();
  }
}

/** A manager clears what they enter; what anybody else enters leaves what was cleared, and of an item new here clears no less than it costs. */
function clearedBy(manager: boolean, span: ClearedCosts, before: ClearedCosts | undefined, itemCost: string): ClearedCosts {
  if (manager) return span;
  if (before) return before;
  const atLeast = (cost: string) => (compareDecimal(cost, itemCost) < 0 ? itemCost : cost);
  return { most: atLeast(span.most), least: atLeast(span.least) };
}

/** A supplier does not sell an item any more. What was bought of them still comes. */
export async function dropSupplierItem(context: CommandContext, code: string, item: ItemCode): Promise<SupplierPage> {
  const { trx, now } = context;
  const { name } = await lockSupplier(trx, code);
  const known = await trx.selectFrom('supplier_item').selectAll().where('supplier', '=', code).where('item', '=', item).executeTakeFirst();
  if (!known) throw notFound(`item ${item} of ${name}`);
  await trx.deleteFrom('supplier_item_break').where('supplier', '=', code).where('item', '=', item).execute();
  await trx.deleteFrom('supplier_item').where('supplier', '=', code).where('item', '=', item).execute();
  await touchSupplier(trx, code);
  await recordEvent(context, {
    kind: 'supplier.stops',
    facts: { supplier: name, item },
    before: known,
    subjects: [
      { kind: 'supplier', key: code },
      { kind: 'item', key: item },
    ],
  });
  return readSupplier(trx, now, code);
}

async function lockSupplier(trx: Trx, code: string, version?: number) {
  const supplier = await trx.selectFrom('supplier').selectAll().where('code', '=', code).forNoKeyUpdate().executeTakeFirst();
  if (!supplier) throw notFound(`supplier ${code}`);
  if (version !== undefined && version !== supplier.version)
    throw await changedSince(trx, { kind: 'supplier', key: code, label: supplier.name, given: version, current: supplier.version });
  return supplier;
}

async function touchSupplier(trx: Trx, code: string, changes: object = {}): Promise<void> {
  await trx
    .updateTable('supplier')
    .set({ ...changes, version: sql`version + 1` })
    .where('code', '=', code)
    .execute();
}

function weekdays(days: readonly number[]): number[] {
  return [...new Set(days)].sort((a, b) => a - b);
}
