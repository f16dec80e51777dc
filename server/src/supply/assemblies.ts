import { calendarOf, dayNumber, firstShipDay, isoDay } from '@nockwright/core/calendar';
import { compareDecimal, minus, plus, times } from '@nockwright/core/money';
import { assemblySteps, type AssemblyStep, type Recipe } from '@nockwright/core/shortages';
import { sql } from 'kysely';
import { anyOf, type Db, type Trx } from '../database';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { checkLasting } from '../items';
import { nextNumber } from '../numbers';
import { loadWarehouses, lockOrders, lockPools } from '../promise';
import { givenBack, loadAssemblyTree } from './assembly-tree';
import { poolsBehind } from './pools-behind';

/** A quantity to be put together, for an order line by its route or for the shelf. */
export interface Make {
  readonly route: number | null;
  readonly line: { readonly id: number | null; readonly item: string; readonly warehouse: string };
  readonly quantity: string;
}

export interface MadeAssembly {
  readonly assemblyId: number;
  readonly number: string;
}

/** How the items that these are made of, and they themselves, are put together. */
export async function loadRecipes(db: Db, items: readonly string[]): Promise<ReadonlyMap<string, Recipe>> {
  if (items.length === 0) return new Map();
  const { rows } = await sql<{ item: string; days: number; component: string; quantity: string }>`
    with recursive tree(item) as (
      select unnest(${items}::text[])
      union
      select c.component from tree join item_component c on c.item = tree.item
    )
    select c.item, i.assembly_days as days, c.component, trim_scale(c.quantity)::text as quantity
    from tree join item i on i.code = tree.item and i.assembly_days is not null join item_component c on c.item = tree.item
    order by c.item, c.component`.execute(db);
  const recipes = new Map<string, { days: number; components: { item: string; quantity: string }[] }>();
  for (const row of rows) {
    const recipe = recipes.get(row.item) ?? { days: row.days, components: [] };
    recipes.set(row.item, recipe);
    recipe.components.push({ item: row.component, quantity: row.quantity });
  }
  return recipes;
}

/**
 * Has items put together from what is free on the shelf: one assembly order for each line, bound to it, and one below it
 * for each component that has to be made first. Components are set aside at once. The pools must be locked. `shelf`: what
 * is free at a warehouse; it is used up by what is made.
 */
export async function createAssemblies(
  context: CommandContext,
  makes: readonly Make[],
  shelf: (warehouse: string) => Map<string, number>,
): Promise<MadeAssembly[]> {
  if (makes.length === 0) return [];
  const { trx, now } = context;
  const recipes = await loadRecipes(trx, [...new Set(makes.map((make) => make.line.item))]);
  const warehouses = new Map((await loadWarehouses(trx)).map((row) => [row.code, row.book]));
  const made: MadeAssembly[] = [];
  for (const make of makes) {
    const { item, warehouse, id: orderLine } = make.line;
    const free = shelf(warehouse);
    const step = assemblySteps(item, Number(make.quantity), recipes, free);
    if (!step) throw invalid('body.quantity', `${make.quantity} ${item} cannot be assembled at ${warehouse} from what nobody else is promised`);
    useUp(step, free);
    const book = warehouses.get(warehouse)!;
    const calendar = calendarOf(book);
    const first = dayNumber(firstShipDay(book, now.localTime));
    const store = async (part: AssemblyStep, parent: number | null): Promise<MadeAssembly> => {
      const number = await nextNumber(trx, 'assembly');
      const { id } = await trx
        .insertInto('assembly_order')
        .values({
          number,
          item: part.item,
          warehouse,
          quantity: String(part.quantity),
          state: 'open',
          created_day: now.today,
          expected_day: isoDay(calendar.offset(first, part.days)),
          order_line_id: parent === null ? orderLine : null,
          parent_id: parent,
        })
        .returning('id')
        .executeTakeFirstOrThrow();
      await trx
        .insertInto('assembly_component')
        .values(part.components.map((row) => ({ assembly_id: id, component: row.item, per_unit: row.perUnit, set_aside: row.fromShelf })))
        .execute();
      await recordEvent(context, {
        what: `assembly ${number}: ${part.quantity} ${part.item} at ${warehouse}`,
        subjects: [
          { kind: 'assembly', key: id },
          { kind: 'item', key: part.item },
          ...part.components.map((row) => ({ kind: 'item' as const, key: row.item })),
        ],
      });
      for (const row of part.components) if (row.made) await store(row.made, id);
      return { assemblyId: id, number };
    };
    const top = await store(step, null);
    if (make.route !== null) await trx.updateTable('line_route').set({ assembly_id: top.assemblyId }).where('id', '=', make.route).execute();
    made.push(top);
  }
  return made;
}

function useUp(step: AssemblyStep, shelf: Map<string, number>) {
  for (const { item, fromShelf, made } of step.components) {
    shelf.set(item, (shelf.get(item) ?? 0) - Number(fromShelf));
    if (made) useUp(made, shelf);
  }
}

export async function lockAssembly(trx: Trx, assemblyId: number, version?: number) {
  const assembly = await trx.selectFrom('assembly_order').selectAll().where('id', '=', assemblyId).forNoKeyUpdate().executeTakeFirst();
  if (!assembly) throw notFound(`assembly order ${assemblyId}`);
  if (version !== undefined && assembly.version !== version)
    throw await changedSince(trx, { kind: 'assembly', key: assembly.id, label: `Assembly ${assembly.number}`, given: version, current: assembly.version });
  checkUnderWay(assembly);
  return assembly;
}

export function checkUnderWay({ number, state }: { readonly number: string; readonly state: string }): void {
  if (state !== 'open') throw new Refusal('conflict', `Assembly ${number} is ${state}.`);
}

/**
 * Books what was put together: components are used up, and the goods are on the shelf, set aside for the order line or
 * the assembly they are for.
 */
export async function buildAssembly(context: CommandContext, assemblyId: number, version: number, quantity: string): Promise<void> {
  const { trx, now } = context;
  const [whole] = (await loadAssemblyTree(trx, assemblyId)).values();
  const bound = await trx
    .selectFrom('order_line')
    .select('order_id')
    .where('id', '=', whole?.order_line_id ?? 0)
    .execute();
  await lockOrders(
    trx,
    bound.map((row) => row.order_id),
  );
  // A part is kept for what it goes into: both change.
  const tree = await loadAssemblyTree(trx, assemblyId, 'lock');
  const assembly = await lockAssembly(trx, assemblyId, version);
  await lockPools(trx, await poolsBehind(trx, { assemblies: [...tree.keys()] }));
  const open = minus(minus(assembly.quantity, assembly.built), assembly.cancelled);
  if (!Number.isInteger(Number(quantity))) throw invalid('body.quantity', `${quantity} is no whole number: only whole ones are put together`);
  if (compareDecimal(quantity, open) > 0) throw invalid('body.quantity', `${quantity} is more than the ${open} still to be put together`);
  const components = await trx.selectFrom('assembly_component').selectAll().where('assembly_id', '=', assemblyId).orderBy('component').execute();
  const short = components.filter((row) => compareDecimal(times(row.per_unit, quantity), row.set_aside) > 0);
  if (short.length > 0)
    throw new Refusal(
      'conflict',
      `${short.map((row) => `${row.component}: ${row.set_aside} of ${times(row.per_unit, quantity)} are there`).join('; ')}. Put those together first.`,
    );
  await checkLasting(
    trx,
    components.map((row) => ({
      item: row.component,
      warehouse: assembly.warehouse,
      quantity: times(row.per_unit, quantity),
      until: now.today,
      label: `Assembly ${assembly.number}`,
    })),
    now.today,
  );
  const reference = assembly.number;
  for (const row of components) {
    const used = times(row.per_unit, quantity);
    await trx
      .updateTable('assembly_component')
      .set({ set_aside: minus(row.set_aside, used) })
      .where('assembly_id', '=', assemblyId)
      .where('component', '=', row.component)
      .execute();
    await trx
      .insertInto('stock_movement')
      .values({
        at: now.instant,
        item: row.component,
        warehouse: assembly.warehouse,
        quantity: `-${used}`,
        kind: 'assembly',
        reference,
        lasts_until: now.today,
      })
      .execute();
  }
  await trx
    .insertInto('stock_movement')
    .values({ at: now.instant, item: assembly.item, warehouse: assembly.warehouse, quantity, kind: 'assembly', reference })
    .execute();
  const done = compareDecimal(quantity, open) === 0;
  await trx
    .updateTable('assembly_order')
    .set({ built: plus(assembly.built, quantity), version: sql`version + 1`, ...(done ? { state: 'closed' as const } : {}) })
    .where('id', '=', assemblyId)
    .execute();
  if (assembly.parent_id !== null)
    await trx
      .updateTable('assembly_component')
      .set({ set_aside: sql`set_aside + ${quantity}::numeric` })
      .where('assembly_id', '=', assembly.parent_id)
      .where('component', '=', assembly.item)
      .execute();
  if (assembly.order_line_id !== null) await setAsideFor(trx, assembly.order_line_id, quantity);
  await recordEvent(context, {
    what: `put together ${quantity} ${assembly.item}, assembly ${assembly.number}`,
    before: { built: assembly.built },
    after: { built: plus(assembly.built, quantity) },
    subjects: [
      { kind: 'assembly', key: assemblyId },
      { kind: 'item', key: assembly.item },
      ...components.map((row) => ({ kind: 'item' as const, key: row.component })),
    ],
  });
}

/** What is made for an order line is kept for it as far as it still needs it. */
export async function setAsideFor(trx: Trx, orderLineId: number, quantity: string): Promise<void> {
  await trx
    .updateTable('order_line')
    .set({ reserved: sql`least(stock_quantity - shipped - cancelled, reserved + ${quantity}::numeric)` })
    .where('id', '=', orderLineId)
    .execute();
}

/** Gives up so many of an assembly, and of what is made for it; components go back to the shelf. */
export async function cancelAssembly(context: CommandContext, assemblyId: number, quantity: string, why: string): Promise<string> {
  const { trx } = context;
  const [top, ...parts] = givenBack(await loadAssemblyTree(trx, assemblyId, 'lock'), assemblyId, quantity);
  if (!top) {
    const { number } = await trx.selectFrom('assembly_order').select('number').where('id', '=', assemblyId).executeTakeFirstOrThrow();
    return `assembly ${number} goes on`;
  }
  for (const { assembly, given, rest, back } of [top, ...parts]) {
    await trx
      .updateTable('assembly_order')
      .set({
        cancelled: plus(assembly.cancelled, String(given)),
        version: sql`version + 1`,
        ...(rest === 0 ? { state: Number(assembly.built) > 0 ? ('closed' as const) : ('cancelled' as const) } : {}),
      })
      .where('id', '=', assembly.id)
      .execute();
    for (const row of back)
      await trx
        .updateTable('assembly_component')
        .set({ set_aside: sql`set_aside - ${row.quantity}::numeric` })
        .where('assembly_id', '=', assembly.id)
        .where('component', '=', row.item)
        .execute();
    await recordEvent(context, {
      what: `gave up ${given} of assembly ${assembly.number} (${assembly.item}); components go back`,
      why,
      subjects: [
        { kind: 'assembly', key: assembly.id },
        { kind: 'item', key: assembly.item },
        ...assembly.components.map((row) => ({ kind: 'item' as const, key: row.component })),
      ],
    });
  }
  return `${top.given} of assembly ${top.assembly.number} given up, components go back`;
}

/** Assemblies bound to order lines that are not done. */
export async function loadOpenAssemblies(db: Db, orderLineIds: readonly number[]) {
  return db.selectFrom('assembly_order').selectAll().where(anyOf('order_line_id', orderLineIds)).where('state', '=', 'open').orderBy('id').execute();
}
