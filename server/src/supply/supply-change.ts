import type { Cause } from '@nockwright/contract/history';
import type { Decision, RippleView } from '@nockwright/contract/promise';
import type { Now } from '../clock';
import type { Db } from '../database';
import type { CommandContext } from '../http/context';
import { takeLocks } from '../locks';
import { loadLocked, settleRipple, viewRipple } from '../promise';
import type { AwaitedChange } from './awaited-change';
import { settleDropShipments, viewDropRipple } from './drop-ripple';
import { changedTo, movingBook, planOfSupply, supplyIdOf } from './supply-plan';

/** Whose promises changes of what is awaited of one purchase would move. */
export async function viewSupplyChange(db: Db, now: Now, purchase: string, changes: readonly AwaitedChange[], accept: readonly number[]): Promise<RippleView> {
  if (forCustomer(changes)) return viewDropRipple(db, now, changes);
  const live = await movingBook(
    db,
    now,
    changes.map(({ line }) => line.item),
  );
  return viewRipple(db, planOfSupply(live, suppliesAfter(purchase, changes)), accept, now.today);
}

/**
 * Carries changes of what is awaited of one purchase out (`record`). With a decision the promises they reach move as was
 * seen; without one they stand as told. The purchase is locked, with the orders whose promises may move; pools are locked here.
 */
export async function settleSupplyChange(
  context: CommandContext,
  purchase: string,
  changes: readonly AwaitedChange[],
  decision: Decision | undefined,
  cause: Cause,
  record: () => Promise<unknown>,
): Promise<void> {
  if (forCustomer(changes)) return settleDropShipments(context, changes, decision, cause, record);
  if (decision) {
    const live = await loadLocked(context, [...new Set(changes.map(({ line }) => line.item))]);
    await settleRipple(context, planOfSupply(live, suppliesAfter(purchase, changes)), decision, cause, record);
    return;
  }
  await takeLocks(context.trx, { pools: changes.flatMap(({ line: { item, warehouse } }) => (warehouse === null ? [] : [{ item, warehouse }])) });
  await record();
}

/** The supplier ships them: a purchase goes to a warehouse or to a customer, never both. */
function forCustomer(changes: readonly AwaitedChange[]): boolean {
  return changes.some(({ line }) => line.warehouse === null);
}

function suppliesAfter(purchase: string, changes: readonly AwaitedChange[]) {
  return new Map(changes.map(({ line, day, open }) => [supplyIdOf(purchase, line), changedTo(day, open)]));
}
