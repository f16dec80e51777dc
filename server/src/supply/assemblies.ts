import type { Because } from './close-open-quantity';
import type { AssemblyId, ItemCode, WarehouseCode } from '@nockwright/core/ids';
import type { Dealing } from '@nockwright/contract/history';
import { noteLock } from '../locks';
import { calendarOf, dayNumber, firstShipDay, isoDay } from '@nockwright/core/calendar';
import { plus } from '@nockwright/core/money';
import { assemblySteps, type AssemblyStep, type Recipe } from '@nockwright/core/shortages';
import { sql } from 'kysely';
import { anyOf, type Db, type Trx } from '../database';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { nextNumber } from '../numbers';
import { loadWarehouses } from '../promise';
import { givenBack, loadAssemblyTree } from './assembly-tree';

/** A quantity to be put together, for an order line by its route or for the shelf. */
export interface Make {
  readonly route: number | null;
  readonly line: { readonly id: number | null; readonly item: ItemCode; readonly warehouse: WarehouseCode };
  readonly quantity: string;
}

export interface MadeAssembly {
  readonly assemblyId: AssemblyId;
  readonly number: string;
}

/** How the items that these are made of, and they themselves, are put together. */
export async function loadRecipes(db: Db, items: readonly string[]): Promise<ReadonlyMap<string, Recipe>> {
  if (items.length === 0) return new Map();
  const { rows } = await sql<{ item: ItemCode; days: number; component: ItemCode; quantity: string }>`
    with recursive tree(item) as (
      select unnest(${items}::text[])
      union
      select c.component from tree join item_component c on c.item = tree.item
    )
    select c.item, i.assembly_days as days, c.component, trim_scale(c.quantity)::text as quantity
    from tree join item i on i.code = tree.item and i.assembly_days is not null join item_component c on c.item = tree.item
    order by c.item, c.component`.execute(db);
  const recipes = new Map<string, { days: number; components: { item: ItemCode; quantity: string }[] }>();
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
  shelf: (warehouse: WarehouseCode) => Map<string, number>,
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
        kind: 'assembly.started',
        facts: { number, quantity: String(part.quantity), item: part.item, warehouse },
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

export async function lockAssembly(trx: Trx, assemblyId: AssemblyId, version?: number) {
  const assembly = await trx.selectFrom('assembly_order').selectAll().where('id', '=', assemblyId).forNoKeyUpdate().executeTakeFirst();
  if (!assembly) throw notFound(`assembly order ${assemblyId}`);
  noteLock(trx, 'assemblies', assemblyId);
  if (version !== undefined && assembly.version !== version)
    throw await changedSince(trx, { kind: 'assembly', key: assembly.id, label: `Assembly ${assembly.number}`, given: version, current: assembly.version });
  checkUnderWay(assembly);
  return assembly;
}

export function checkUnderWay({ number, state }: { readonly number: string; readonly state: string }): void {
  if (state !== 'open') throw new Refusal('conflict', `Assembly ${number} is ${state}.`);
}

/** Gives up so many of an assembly, and of what is made for it; components go back to the shelf. */
export async function cancelAssembly(context: CommandContext, assemblyId: AssemblyId, quantity: string, because: Because): Promise<Dealing> {
  const { trx } = context;
  const [top, ...parts] = givenBack(await loadAssemblyTree(trx, assemblyId, 'lock'), assemblyId, quantity);
  if (!top) {
    const { number } = await trx.selectFrom('assembly_order').select('number').where('id', '=', assemblyId).executeTakeFirstOrThrow();
    return { did: 'goes_on', assembly: number };
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
      kind: 'assembly.cut',
      facts: { number: assembly.number, quantity: String(given), item: assembly.item },
      ...because,
      subjects: [
        { kind: 'assembly', key: assembly.id },
        { kind: 'item', key: assembly.item },
        ...assembly.components.map((row) => ({ kind: 'item' as const, key: row.component })),
      ],
    });
  }
  return { did: 'given_up', quantity: String(top.given), assembly: top.assembly.number };
}

/** Assemblies bound to order lines that are not done. */
export async function loadOpenAssemblies(db: Db, orderLineIds: readonly number[]) {
  return db.selectFrom('assembly_order').selectAll().where(anyOf('order_line_id', orderLineIds)).where('state', '=', 'open').orderBy('id').execute();
}
