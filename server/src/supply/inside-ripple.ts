import { takeLocks } from '../locks';
import { type LiveBook, type PoolKey } from '@nockwright/core/book';
import type { Cause } from '@nockwright/contract/history';
import type { Decision, RippleView } from '@nockwright/contract/promise';
import type { Now } from '../clock';
import type { Db } from '../database';
import type { CommandContext } from '../http/context';
import { loadLocked, settleRipple, viewRipple, type RipplePlan } from '../promise';
import { movingBook, planOfSupply, type SupplyChange } from './supply-plan';

/** What changes of goods that come from within the house: of a line of a transfer, or of an assembly. */
export interface InsideChange extends PoolKey {
  /** As the book names it. */
  readonly supply: string;
  readonly becomes: SupplyChange;
  /** What goes back to the shelf it was set aside on. */
  readonly freed: readonly (PoolKey & { readonly quantity: string })[];
}

/** Whose promises changes of transfers and assemblies would move, and who could have what they leave on the shelf. */
export async function viewInside(db: Db, now: Now, changes: readonly InsideChange[], accept: readonly number[]): Promise<RippleView> {
  const live = await movingBook(
    db,
    now,
    poolsOf(changes).map((pool) => pool.item),
  );
  return viewRipple(db, planOf(live, changes), accept, now.today);
}

/**
 * Carries changes of transfers and assemblies out (`record`) with every pool they touch locked. With a decision the
 * promises they reach move as was seen; without one nothing else is done here. Orders must be locked before.
 */
export async function settleInside(
  context: CommandContext,
  changes: readonly InsideChange[],
  decision: Decision | undefined,
  cause: Cause,
  record: () => Promise<unknown>,
): Promise<void> {
  const pools = poolsOf(changes);
  if (decision) {
    const live = await loadLocked(context, [...new Set(pools.map((pool) => pool.item))], pools);
    await settleRipple(context, planOf(live, changes), decision, cause, record);
    return;
  }
  await takeLocks(context.trx, { pools });
  await record();
}

function poolsOf(changes: readonly InsideChange[]): PoolKey[] {
  return changes.flatMap(({ item, warehouse, freed }) => [{ item, warehouse }, ...freed]).map(({ item, warehouse }) => ({ item, warehouse }));
}

function planOf(live: LiveBook, changes: readonly InsideChange[]): RipplePlan {
  const plan = planOfSupply(live, new Map(changes.map(({ supply, becomes }) => [supply, becomes])));
  const freed = changes
    .flatMap((change) => change.freed)
    .map(({ item, warehouse, quantity }, at) => ({ id: `FREED/${at}`, item, warehouse, quantity: Number(quantity) }));
  return { ...plan, after: { ...plan.after, supply: [...plan.after.supply, ...freed] } };
}
