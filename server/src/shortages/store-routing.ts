import type { PromisePart } from '@nockwright/contract/promise';
import type { RouteWish } from '@nockwright/contract/shortages';
import { compareDecimal, least, plus } from '@nockwright/core/money';
import { openQuantity } from '@nockwright/core/orders';
import type { Decided } from '@nockwright/core/routing';
import { sql } from 'kysely';
import { anyOf, type Trx } from '../database';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';
import { loadOrder, loadOrderLinesById, shipToText, type OrderLineRecord } from '../orders';
import { storeRemains } from '../promise';
import { makeForRoutes, type MadeDocument } from '../supply';
import { insertSubstitute } from './insert-substitute';

/** What was decided for a line, with the line as it is stored. */
export interface RoutedRecord {
  readonly decided: Decided<RouteWish>;
  readonly record: OrderLineRecord;
}

/** Takes what is routed off the promises, and what is cut or replaced off the line. */
export async function takeOff(trx: Trx, routed: readonly RoutedRecord[]): Promise<void> {
  await storeRemains(
    trx,
    routed.flatMap(({ decided: { line, remains } }) => remains.map((row) => ({ line, ...row }))),
  );
  const less = routed.flatMap(({ decided: { lost }, record }) => {
    if (compareDecimal(lost, '0') <= 0) return [];
    const cancelled = plus(record.cancelled, lost);
    return [{ id: record.id, cancelled, reserved: least(record.reserved, openQuantity({ ...record, cancelled })) }];
  });
  if (less.length === 0) return;
  await sql`update order_line l set cancelled = k.cancelled, reserved = k.reserved
    from unnest(${less.map((row) => row.id)}::int[], ${less.map((row) => row.cancelled)}::numeric[], ${less.map((row) => row.reserved)}::numeric[]) as k(id, cancelled, reserved)
    where l.id = k.id`.execute(trx);
}

export interface StoredRoute extends RoutedRecord {
  readonly id: number;
  readonly part: RouteWish;
}

export async function storeRoutes(
  { trx, now }: CommandContext,
  routed: readonly RoutedRecord[],
  told: ReadonlyMap<number, readonly PromisePart[]>,
): Promise<StoredRoute[]> {
  const wanted = routed.flatMap((row) => row.decided.parts.map((part, at) => ({ ...row, part, unitCost: row.decided.route.parts[at]!.unitCost })));
  if (wanted.length === 0) return [];
  const rows = await trx
    .insertInto('line_route')
    .values(
      wanted.map(({ record, part, unitCost }) => ({
        line_id: record.id,
        ...routeColumns(part),
        unit_cost: unitCost,
        told_before: JSON.stringify(told.get(record.id) ?? []),
        made_at: now.instant,
      })),
    )
    .returning('id')
    .execute();
  return rows.map(({ id }, at) => ({ id, ...wanted[at]! }));
}

/** A route as it is stored. */
export function routeColumns({ kind, quantity, supplier, warehouse, item, shipTo, more }: RouteWish) {
  return { kind, quantity, supplier: supplier ?? null, warehouse: warehouse ?? null, item: item ?? null, ship_to_id: shipTo ?? null, more: more ?? null };
}

/** Makes the purchases, transfers and assemblies that routes need. */
export async function makeDocuments(context: CommandContext, routes: readonly StoredRoute[]): Promise<MadeDocument[]> {
  const addresses = await addressesFor(
    context.trx,
    routes.filter(({ part }) => part.kind === 'drop_ship'),
  );
  return makeForRoutes(
    context,
    routes.map((row) => ({
      id: row.id,
      order: row.record.order_id,
      line: { id: row.record.id, item: row.record.item, warehouse: row.record.warehouse },
      kind: row.part.kind,
      supplier: row.part.supplier ?? null,
      warehouse: row.part.warehouse ?? null,
      quantity: row.part.quantity,
      more: row.part.more ?? null,
      shipTo: row.part.kind === 'drop_ship' ? addresses(row) : '',
    })),
  );
}

/** Where drop shipments go: the address of the route, else the line's, else the order's. */
async function addressesFor(trx: Trx, drops: readonly StoredRoute[]): Promise<(route: StoredRoute) => string> {
  const orders = new Map<number, Awaited<ReturnType<typeof loadOrder>>>();
  for (const { record } of drops) if (!orders.has(record.order_id)) orders.set(record.order_id, await loadOrder(trx, record.order_id));
  const own = drops.flatMap(({ part }) => part.shipTo ?? []);
  const rows = await trx
    .selectFrom('ship_to')
    .select(['id', 'customer_id', 'name as ship_name', 'street as ship_street', 'postcode as ship_postcode', 'town as ship_town', 'country as ship_country'])
    .where(anyOf('id', own))
    .execute();
  return ({ record, part }) => {
    const order = orders.get(record.order_id);
    if (!order) return '';
    if (part.shipTo === undefined) return shipToText(record.ship_to_id === null ? order : record);
    const row = rows.find((address) => address.id === part.shipTo && address.customer_id === order.customer_id);
    if (!row) throw invalid('body.parts.shipTo', `${part.shipTo} is no address of this customer`);
    return shipToText(row);
  };
}

/** Adds the lines that go instead. */
export async function addSubstitutes(context: CommandContext, routes: readonly StoredRoute[]): Promise<OrderLineRecord[]> {
  const { trx } = context;
  const ids: number[] = [];
  for (const { id: route, decided, record, part } of routes) {
    if (part.kind !== 'substitute') continue;
    const id = await insertSubstitute(context, record, part.item!, part.quantity, decided.ratios.get(part.item!)!);
    await trx.updateTable('line_route').set({ new_line_id: id }).where('id', '=', route).execute();
    ids.push(id);
  }
  return loadOrderLinesById(trx, ids);
}
