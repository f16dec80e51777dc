import type { AssemblyId, LineId } from '@nockwright/core/ids';
import { sql, type Selectable } from 'kysely';
import type { Trx, Database } from '../database';
import { minus, compareDecimal, times, plus, type Quantity } from '@nockwright/core/money';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { checkLasting } from '../items';
import { takeLocks } from '../locks';
import { checkNamed, placeSerials } from '../serials';
import { lockAssembly } from './assemblies';
import { loadAssemblyTree } from './assembly-tree';
import { poolsBehind } from './pools-behind';

/** What is made for an order line is kept for it as far as it still needs it. */
export async function setAsideFor(trx: Trx, orderLineId: LineId, quantity: string): Promise<void> {
  await trx
    .updateTable('order_line')
    .set({ reserved: sql`least(stock_quantity - shipped - cancelled, reserved + ${quantity}::numeric)` })
    .where('id', '=', orderLineId)
    .execute();
}

/**
 * Books what was put together: components are used up, and the goods are on the shelf, set aside for the order line or
 * the assembly they are for.
 */
export async function buildAssembly(context: CommandContext, assemblyId: AssemblyId, version: number, quantity: string, serials = ''): Promise<void> {
  const { trx } = context;
  const [whole] = (await loadAssemblyTree(trx, assemblyId)).values();
  const bound = await trx
    .selectFrom('order_line')
    .select('order_id')
    .where('id', '=', whole?.order_line_id ?? 0)
    .execute();
  await takeLocks(trx, { orders: bound.map((row) => row.order_id) });
  // A part is kept for what it goes into: both change.
  const tree = await loadAssemblyTree(trx, assemblyId, 'lock');
  const assembly = await lockAssembly(trx, assemblyId, version);
  await takeLocks(trx, { pools: await poolsBehind(trx, { assemblies: [...tree.keys()] }) });
  const open = minus(minus(assembly.quantity, assembly.built), assembly.cancelled);
  if (!Number.isInteger(Number(quantity))) throw invalid('body.quantity', `${quantity} is no whole number: only whole ones are assembled`);
  if (compareDecimal(quantity, open) > 0) throw invalid('body.quantity', `${quantity} is more than the ${open} still to assemble`);
  const components = await trx.selectFrom('assembly_component').selectAll().where('assembly_id', '=', assemblyId).orderBy('component').execute();
  await checkComponents(context, assembly, components, quantity);
  const { tracks_serials: tracked } = await trx.selectFrom('item').select('tracks_serials').where('code', '=', assembly.item).executeTakeFirstOrThrow();
  const [named] = await checkNamed(trx, [{ field: 'body.serials', item: assembly.item, quantity, serials, tracked }], context.now.today);
  await useUp(context, assembly, components, quantity, named!);
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
    kind: 'assembly.built',
    facts: { number: assembly.number, quantity, item: assembly.item },
    before: { built: assembly.built },
    after: { built: plus(assembly.built, quantity) },
    subjects: [
      { kind: 'assembly', key: assemblyId },
      { kind: 'item', key: assembly.item },
      ...components.map((row) => ({ kind: 'item' as const, key: row.component })),
    ],
  });
}

type Assembly = Awaited<ReturnType<typeof lockAssembly>>;
type Component = Selectable<Database['assembly_component']>;

/** Refuses where a component is not there, or does not last. */
async function checkComponents({ trx, now }: CommandContext, assembly: Assembly, components: readonly Component[], quantity: Quantity): Promise<void> {
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
}

/** Components leave the shelf, and what was assembled is put on it. */
async function useUp(
  context: CommandContext,
  assembly: Assembly,
  components: readonly Component[],
  quantity: Quantity,
  serials: readonly string[],
): Promise<void> {
  const { trx, now } = context;
  const reference = assembly.number;
  for (const row of components) {
    const used = times(row.per_unit, quantity);
    await trx
      .updateTable('assembly_component')
      .set({ set_aside: minus(row.set_aside, used) })
      .where('assembly_id', '=', assembly.id)
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
  await placeSerials(
    context,
    [{ item: assembly.item, warehouse: assembly.warehouse, status: 'available', lot: '', bin: null, serials, reference }],
    'received',
  );
}
