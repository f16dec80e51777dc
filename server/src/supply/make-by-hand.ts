import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import { takeLocks } from '../locks';
import type { AssemblyView, TransferView } from '@nockwright/contract/supply';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';

import { createAssemblies, loadRecipes } from './assemblies';
import { freeShelves, takeFromShelf } from './make-for-routes';
import { readAssembly, readTransfer } from './read-inside';
import { createTransfers } from './transfers';

interface Item {
  readonly item: ItemCode;
  readonly quantity: string;
}

/** Has free goods brought from one warehouse to another, for whoever needs them there. */
export async function createTransfer(
  context: CommandContext,
  { from, to, lines }: { readonly from: string; readonly to: string; readonly lines: readonly Item[] },
): Promise<TransferView> {
  const { trx } = context;
  for (const [field, code] of Object.entries({ from, to })) await checkWarehouse(context, code, `body.${field}`);
  if (from === to) throw invalid('body.to', 'expected another warehouse than the one the goods come from');
  for (const [at, { item }] of lines.entries()) await checkItem(context, item, `body.lines[${at}].item`);
  await takeLocks(trx, { pools: lines.flatMap(({ item }) => [from, to].map((warehouse) => ({ item, warehouse }))) });
  const shelf = await freeShelves(
    context,
    lines.map((line) => line.item),
  );
  for (const { item, quantity } of lines) takeFromShelf(shelf(from), item, quantity, from);
  const [made] = await createTransfers(
    context,
    lines.map(({ item, quantity }) => ({ route: null, line: { id: null, item, warehouse: to }, from, quantity })),
  );
  return readTransfer(trx, made!.transferId);
}

/** Has an item put together from free goods, for whoever needs it. */
export async function createAssembly(
  context: CommandContext,
  { item, warehouse, quantity }: Item & { readonly warehouse: WarehouseCode },
): Promise<AssemblyView> {
  const { trx } = context;
  await checkWarehouse(context, warehouse, 'body.warehouse');
  await checkItem(context, item, 'body.item');
  const recipes = await loadRecipes(trx, [item]);
  if (!recipes.has(item)) throw invalid('body.item', `${item} is not assembled here`);
  const parts = [...recipes.values()].flatMap((recipe) => recipe.components.map((row) => row.item));
  await takeLocks(trx, { pools: [...new Set([item, ...parts])].map((code) => ({ item: code, warehouse })) });
  const shelf = await freeShelves(context, [item]);
  const [made] = await createAssemblies(context, [{ route: null, line: { id: null, item, warehouse }, quantity }], shelf);
  return readAssembly(trx, made!.assemblyId);
}

async function checkWarehouse({ trx }: CommandContext, code: string, field: string): Promise<void> {
  const known = await trx.selectFrom('warehouse').select('code').where('code', '=', code).executeTakeFirst();
  if (!known) throw invalid(field, `there is no warehouse ${code}`);
}

async function checkItem({ trx }: CommandContext, code: string, field: string): Promise<void> {
  const known = await trx.selectFrom('item').select('code').where('code', '=', code).executeTakeFirst();
  if (!known) throw invalid(field, `there is no item ${code}`);
}
