import type { ItemCode, SupplierCode, WarehouseCode } from '@nockwright/core/ids';
import { freeGoods, freeNow } from '@nockwright/core/book';
import type { RouteKind } from '@nockwright/core/shortages';
import { decimal, loadBook, loadWarehouses } from '../promise';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { createAssemblies, loadRecipes } from './assemblies';
import { gatherPurchases } from './gather-purchases';
import { createTransfers } from './transfers';

/** A route that is to be carried out. */
export interface RouteToMake {
  readonly id: number;
  readonly order: number;
  readonly line: { readonly id: number; readonly item: ItemCode; readonly warehouse: WarehouseCode };
  readonly kind: RouteKind;
  readonly supplier: SupplierCode | null;
  readonly warehouse: WarehouseCode | null;
  readonly quantity: string;
  /** Bought for stock besides. */
  readonly more: string | null;
  /** Where a drop shipment goes, on one line. */
  readonly shipTo: string;
}

export type MadeDocument = { readonly kind: 'purchase' | 'transfer' | 'assembly'; readonly id: number; readonly number: string };

/** Makes the purchases, transfers and assemblies that routes need, each bound to its line. The pools they take from must be locked. */
export async function makeForRoutes(context: CommandContext, routes: readonly RouteToMake[]): Promise<MadeDocument[]> {
  const of = (...kinds: RouteKind[]) => routes.filter((route) => kinds.includes(route.kind));
  const shelf = await freeShelves(
    context,
    of('transfer', 'assemble').map((route) => route.line.item),
  );
  const bought = await gatherPurchases(
    context,
    of('special_order', 'drop_ship').map((route) => ({
      route: route.id,
      order: route.order,
      line: route.line,
      shipTo: route.shipTo,
      kind: route.kind as 'special_order' | 'drop_ship',
      supplier: route.supplier!,
      quantity: route.quantity,
      more: route.more,
    })),
  );
  const moves = of('transfer').map((route) => ({ route: route.id, line: route.line, from: route.warehouse!, quantity: route.quantity }));
  for (const move of moves) takeFromShelf(shelf(move.from), move.line.item, move.quantity, move.from);
  const moved = await createTransfers(context, moves);
  const assembled = await createAssemblies(
    context,
    of('assemble').map((route) => ({ route: route.id, line: route.line, quantity: route.quantity })),
    shelf,
  );
  return [
    ...bought.map(({ purchaseId, number }) => ({ kind: 'purchase' as const, id: purchaseId, number })),
    ...moved.map(({ transferId, number }) => ({ kind: 'transfer' as const, id: transferId, number })),
    ...assembled.map(({ assemblyId, number }) => ({ kind: 'assembly' as const, id: assemblyId, number })),
  ];
}

/** What is free on the shelf of each warehouse, of these items and of all they are put together from. */
export async function freeShelves({ trx, now }: CommandContext, wanted: readonly string[]): Promise<(warehouse: WarehouseCode) => Map<string, number>> {
  if (wanted.length === 0) return () => new Map();
  const own = [...new Set(wanted)];
  const recipes = await loadRecipes(trx, own);
  const items = [...new Set([...own, ...[...recipes].flatMap(([item, recipe]) => [item, ...recipe.components.map((row) => row.item)])])];
  const live = await loadBook(trx, now, { items, confidence: null });
  const warehouses = await loadWarehouses(trx);
  const free = freeGoods(
    live,
    items.flatMap((item) => warehouses.map((row) => ({ item, warehouse: row.code }))),
  );
  const shelves = new Map(warehouses.map((row) => [row.code, new Map(items.map((item) => [item, freeNow(live, free, { item, warehouse: row.code }, row)]))]));
  return (warehouse) => shelves.get(warehouse)!;
}

export function takeFromShelf(shelf: Map<string, number>, item: ItemCode, quantity: string, warehouse: WarehouseCode): void {
  const free = shelf.get(item) ?? 0;
  if (Number(quantity) > free)
    throw new Refusal('conflict', `Only ${decimal(free)} ${item} at ${warehouse} are free of promises; ${quantity} were to be transferred.`);
  shelf.set(item, free - Number(quantity));
}
