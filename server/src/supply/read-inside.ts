import type { AssemblyId, TransferId } from '@nockwright/core/ids';
import type { AssemblyView, InsideRow, TransferView } from '@nockwright/contract/supply';
import { minus, times } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Db } from '../database';
import { notFound } from '../http/refusal';
import { customersOfLines } from './load-purchase';
import { loadTransferLines, openOf } from './transfers';

/** Transfers and assemblies that are under way, or all, what is due first. */
export async function listInside(db: Db, state: 'open' | 'all' = 'open'): Promise<InsideRow[]> {
  const { rows } = await sql<InsideRow>`
    select 'transfer' as kind, t.id, t.number, f.name || ' to ' || w.name as what, t.state, t.expected_day::text as "expectedDay",
      (select count(*)::int from transfer_line l where l.transfer_id = t.id) as lines
    from transfer_order t join warehouse f on f.code = t.from_warehouse join warehouse w on w.code = t.to_warehouse
    where ${state === 'all' ? sql`true` : sql`t.state in ('open', 'shipped')`}
    union all
    select 'assembly', a.id, a.number, trim_scale(a.quantity)::text || ' ' || a.item || ' at ' || w.name, a.state, a.expected_day::text, 1
    from assembly_order a join warehouse w on w.code = a.warehouse
    where ${state === 'all' ? sql`true` : sql`a.state = 'open'`}
    order by 6, 1, 2
    limit 500`.execute(db);
  return rows;
}

export async function readTransfer(db: Db, transferId: TransferId): Promise<TransferView> {
  const transfer = await db
    .selectFrom('transfer_order')
    .innerJoin('warehouse as f', 'f.code', 'transfer_order.from_warehouse')
    .innerJoin('warehouse as t', 't.code', 'transfer_order.to_warehouse')
    .selectAll('transfer_order')
    .select(['f.name as from_name', 't.name as to_name'])
    .where('transfer_order.id', '=', transferId)
    .executeTakeFirst();
  if (!transfer) throw notFound(`transfer order ${transferId}`);
  const lines = await loadTransferLines(db, transferId);
  const owed = await customersOfLines(
    db,
    lines.flatMap((line) => line.order_line_id ?? []),
  );
  return {
    id: transfer.id,
    number: transfer.number,
    from: { code: transfer.from_warehouse, name: transfer.from_name },
    to: { code: transfer.to_warehouse, name: transfer.to_name },
    state: transfer.state,
    version: transfer.version,
    createdDay: transfer.created_day,
    shipDay: transfer.ship_day,
    expectedDay: transfer.expected_day,
    lines: lines.map((line) => ({
      id: line.id,
      lineNo: line.line_no,
      item: line.item,
      description: line.description,
      unit: line.unit,
      quantity: line.quantity,
      cancelled: line.cancelled,
      shipped: line.shipped,
      received: line.received,
      lost: line.lost,
      damaged: line.damaged,
      open: openOf(line),
      for: line.order_line_id === null ? null : (owed.get(line.order_line_id) ?? null),
      tracksSerials: line.tracks_serials,
    })),
  };
}

export async function readAssembly(db: Db, assemblyId: AssemblyId): Promise<AssemblyView> {
  const assembly = await db
    .selectFrom('assembly_order')
    .innerJoin('warehouse', 'warehouse.code', 'assembly_order.warehouse')
    .innerJoin('item', 'item.code', 'assembly_order.item')
    .selectAll('assembly_order')
    .select(['warehouse.name as warehouse_name', 'item.description', 'item.unit', 'item.tracks_serials'])
    .where('assembly_order.id', '=', assemblyId)
    .executeTakeFirst();
  if (!assembly) throw notFound(`assembly order ${assemblyId}`);
  const components = await db
    .selectFrom('assembly_component')
    .innerJoin('item', 'item.code', 'assembly_component.component')
    .selectAll('assembly_component')
    .select(['item.description', 'item.unit'])
    .where('assembly_id', '=', assemblyId)
    .orderBy('component')
    .execute();
  const parts = await db.selectFrom('assembly_order').select(['id', 'number', 'item', 'state']).where('parent_id', '=', assemblyId).orderBy('id').execute();
  const parent =
    assembly.parent_id === null
      ? null
      : await db.selectFrom('assembly_order').select(['id', 'number']).where('id', '=', assembly.parent_id).executeTakeFirstOrThrow();
  const owed = await customersOfLines(db, assembly.order_line_id === null ? [] : [assembly.order_line_id]);
  const open = minus(minus(assembly.quantity, assembly.built), assembly.cancelled);
  return {
    id: assembly.id,
    number: assembly.number,
    item: assembly.item,
    description: assembly.description,
    unit: assembly.unit,
    warehouse: { code: assembly.warehouse, name: assembly.warehouse_name },
    state: assembly.state,
    version: assembly.version,
    quantity: assembly.quantity,
    built: assembly.built,
    cancelled: assembly.cancelled,
    open,
    createdDay: assembly.created_day,
    expectedDay: assembly.expected_day,
    tracksSerials: assembly.tracks_serials,
    for: assembly.order_line_id === null ? null : (owed.get(assembly.order_line_id) ?? null),
    parent,
    parts,
    components: components.map((row) => ({
      item: row.component,
      description: row.description,
      unit: row.unit,
      perUnit: row.per_unit,
      needed: times(row.per_unit, open),
      setAside: row.set_aside,
    })),
  };
}
