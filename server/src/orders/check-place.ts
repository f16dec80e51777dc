import type { WarehouseCode } from '@nockwright/core/ids';
import { placeFault } from '@nockwright/core/orders';
import type { Db } from '../database';
import { invalid } from '../http/refusal';

/** Refuses a warehouse there is not and a requested day that has passed. `place`: where they stand in the request. */
export async function checkPlace(
  db: Db,
  place: 'body' | 'query',
  wish: { readonly warehouse?: WarehouseCode; readonly requestedDay?: string | null },
  today: string,
): Promise<void> {
  const warehouses = wish.warehouse === undefined ? [] : (await db.selectFrom('warehouse').select('code').orderBy('code').execute()).map((row) => row.code);
  const fault = placeFault({ warehouses }, wish, today);
  if (fault) throw invalid(`${place}.${fault.field}`, fault.message);
}
