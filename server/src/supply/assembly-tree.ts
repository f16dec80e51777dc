import type { AssemblyId, ItemCode, LineId, WarehouseCode } from '@nockwright/core/ids';
import { compareDecimal, least, minus, plus, times } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Db } from '../database';

/** An assembly order with its components, as one of those that go into another. */
export interface AssemblyNode {
  readonly id: number;
  readonly number: string;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly parent_id: number | null;
  readonly order_line_id: LineId | null;
  readonly state: 'open' | 'closed' | 'cancelled';
  readonly version: number;
  readonly expected_day: string;
  readonly quantity: string;
  readonly built: string;
  readonly cancelled: string;
  /** Working days it takes once its components are there. */
  readonly days: number;
  readonly components: readonly { readonly component: ItemCode; readonly per_unit: string; readonly set_aside: string }[];
}

/**
 * An assembly, those it goes into and those that go into them, the whole first. With `lock` nobody else changes them until
 * the transaction ends.
 */
export async function loadAssemblyTree(db: Db, assemblyId: AssemblyId, lock?: 'lock'): Promise<ReadonlyMap<number, AssemblyNode>> {
  const { rows } = await sql<AssemblyNode>`
    with recursive above(id, parent_id) as (
      select id, parent_id from assembly_order where id = ${assemblyId}
      union
      select a.id, a.parent_id from above join assembly_order a on a.id = above.parent_id
    ), tree(id) as (
      select id from above where parent_id is null
      union
      select a.id from tree join assembly_order a on a.parent_id = tree.id
    )
    select a.id, a.number, a.item, a.warehouse, a.parent_id, a.order_line_id, a.state, a.version, a.expected_day::text as expected_day, i.assembly_days as days,
      trim_scale(a.quantity)::text as quantity, trim_scale(a.built)::text as built, trim_scale(a.cancelled)::text as cancelled,
      (select coalesce(json_agg(json_build_object('component', component, 'per_unit', trim_scale(per_unit)::text, 'set_aside', trim_scale(set_aside)::text)
        order by component), '[]') from assembly_component where assembly_id = a.id) as components
    from assembly_order a join item i on i.code = a.item
    where a.id in (select id from tree)
    order by a.id
    ${lock ? sql`for no key update of a` : sql``}`.execute(db);
  return new Map(rows.map((row) => [row.id, row]));
}

/** How many are still to assemble. */
export function unbuilt({ quantity, built, cancelled }: Pick<AssemblyNode, 'quantity' | 'built' | 'cancelled'>): string {
  return minus(minus(quantity, built), cancelled);
}

/** What of an assembly is given up, and the components that go back to the shelf by it. */
export interface GivenBack {
  readonly assembly: AssemblyNode;
  readonly given: number;
  readonly rest: number;
  readonly back: readonly { readonly item: ItemCode; readonly quantity: string }[];
}

/**
 * What goes back when `quantity` of an assembly is given up: of it and of those that are put together for it, the whole
 * first. Only whole ones are put together: a part of one that is not needed any more is made for anyone.
 */
export function givenBack(tree: ReadonlyMap<number, AssemblyNode>, assemblyId: AssemblyId, quantity: string): GivenBack[] {
  const assembly = tree.get(assemblyId)!;
  const open = unbuilt(assembly);
  const given = Math.min(Math.floor(Number(quantity)), Number(open));
  if (given <= 0) return [];
  const rest = Number(open) - given;
  const below = [...tree.values()].filter((part) => part.parent_id === assemblyId && part.state === 'open');
  const parts: GivenBack[] = [];
  const back = assembly.components.flatMap((row) => {
    const child = below.find((part) => part.item === row.component);
    const coming = child ? unbuilt(child) : '0';
    // What is to be made for it goes first, then what lies there.
    const over = minus(plus(row.set_aside, coming), times(row.per_unit, rest));
    if (compareDecimal(over, '0') <= 0) return [];
    const unmade = child ? String(Math.min(Math.floor(Number(over)), Number(coming))) : '0';
    if (child) parts.push(...givenBack(tree, child.id, unmade));
    const freed = least(minus(over, unmade), row.set_aside);
    return compareDecimal(freed, '0') > 0 ? [{ item: row.component, quantity: freed }] : [];
  });
  return [{ assembly, given, rest, back }, ...parts];
}
