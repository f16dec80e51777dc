import type { ItemCode, SupplierCode } from '@nockwright/core/ids';
import { beyondCleared, spanOf, type ClearedCosts } from '@nockwright/core/supply';
import { sql } from 'kysely';
import { anyOf, type Db } from '../database';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';

/** What of a supplier's costs was cleared, and how far a cost may be from it. */
export interface CostLimits {
  /** Per cent. */
  readonly tolerance: string;
  readonly items: ReadonlyMap<string, ClearedCosts>;
}

/** The limits for these items of a supplier; one that they do not sell has none. */
export async function loadCostLimits(db: Db, supplier: SupplierCode, items: readonly string[]): Promise<CostLimits> {
  const { price_tolerance } = await db.selectFrom('supplier').select('price_tolerance').where('code', '=', supplier).executeTakeFirstOrThrow();
  const rows = await db
    .selectFrom('supplier_item')
    .select(['item', 'cost', 'cleared_most', 'cleared_least'])
    .select(
      sql<
        { cost: string }[]
      >`(select coalesce(json_agg(json_build_object('cost', trim_scale(b.cost)::text)), '[]') from supplier_item_break b where b.supplier = supplier_item.supplier and b.item = supplier_item.item)`.as(
        'breaks',
      ),
    )
    .where('supplier', '=', supplier)
    .where(anyOf('item', items))
    .execute();
  return {
    tolerance: price_tolerance,
    items: new Map(
      rows.map((row) => [
        row.item,
        row.cleared_most === null || row.cleared_least === null ? spanOf(row.cost, row.breaks) : { most: row.cleared_most, least: row.cleared_least },
      ]),
    ),
  };
}

/** Whether a cost needs the manager: further from what was cleared than may be. */
export function needsManager({ tolerance, items }: CostLimits, item: ItemCode, cost: string): boolean {
  const cleared = items.get(item);
  return cleared !== undefined && beyondCleared(cost, cleared, tolerance);
}

/**
 * Refuses costs that a person sets on lines of a purchase where the manager has to: margins are judged by them. `costs`: those
 * that differ from what stood.
 */
export async function checkCosts(
  { trx, user }: CommandContext,
  supplier: SupplierCode,
  costs: readonly { readonly item: ItemCode; readonly cost: string; readonly field: string }[],
): Promise<void> {
  if (user.role === 'manager' || costs.length === 0) return;
  const limits = await loadCostLimits(trx, supplier, [...new Set(costs.map((row) => row.item))]);
  const errors = costs
    .filter(({ item, cost }) => needsManager(limits, item, cost))
    .map(({ item, cost, field }) => ({ field, message: `${cost} for ${item} is ${outsideInWords(limits, item)}: the manager enters it` }));
  if (errors.length > 0) throw new Refusal('not-allowed', errors.map((row) => row.message).join('; '), errors);
}

/** `more than 10 % from the 0.30 to 0.33 that was cleared`. */
export function outsideInWords({ tolerance, items }: CostLimits, item: ItemCode): string {
  const { most, least } = items.get(item)!;
  return `more than ${tolerance} % from the ${least === most ? most : `${least} to ${most}`} that was cleared`;
}
