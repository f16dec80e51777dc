import { type PoolKey } from '@nockwright/core/book';
import { sql } from 'kysely';
import type { Db } from '../database';

/**
 * The pools that change when transfers leave, stay or come, or assemblies are built or given up: both ends of a transfer
 * line, and what an assembly makes and is made of, with all that is made for it. To be locked before any of them is written.
 */
export async function poolsBehind(
  db: Db,
  { transferLines = [], assemblies = [] }: { readonly transferLines?: readonly number[]; readonly assemblies?: readonly number[] },
): Promise<PoolKey[]> {
  if (transferLines.length + assemblies.length === 0) return [];
  const { rows } = await sql<PoolKey>`
    with recursive tree(id) as (
      select unnest(${assemblies}::int[])
      union
      select a.id from tree join assembly_order a on a.parent_id = tree.id
    )
    select a.item, a.warehouse from tree join assembly_order a on a.id = tree.id
    union
    select c.component, a.warehouse from tree join assembly_order a on a.id = tree.id join assembly_component c on c.assembly_id = a.id
    union
    select l.item, w.code from transfer_line l join transfer_order o on o.id = l.transfer_id join warehouse w on w.code in (o.from_warehouse, o.to_warehouse)
    where l.id = any(${transferLines}::int[])`.execute(db);
  return rows;
}
