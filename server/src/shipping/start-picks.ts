import type { OrderId } from '@nockwright/core/ids';
import type { PickView } from '@nockwright/contract/shipping';
import { anyOf } from '../database';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { savepoint, takeLocks } from '../locks';
import { startPick, type PickWish } from './start-pick';

export interface StartedPicks {
  readonly started: PickView[];
  readonly refused: { readonly order: OrderId; readonly why: string }[];
}

/** Starts the picks of many orders, the oldest first. One that cannot be is left out, with why; nothing of it stays. */
export async function startPicks(context: CommandContext, picks: readonly PickWish[]): Promise<StartedPicks> {
  const { trx } = context;
  const orders = [...new Set(picks.map((wish) => wish.order))];
  // All of all orders, before the first: what one locks after another would come out of its turn.
  await takeLocks(trx, { orders });
  const pools = await trx.selectFrom('order_line').select(['item', 'warehouse']).where(anyOf('order_id', orders)).execute();
  await takeLocks(trx, { pools });
  const started: PickView[] = [];
  const refused: { order: OrderId; why: string }[] = [];
  for (const wish of [...picks].sort((a, b) => a.order - b.order)) {
    const place = await savepoint(trx, 'pick');
    try {
      started.push(await startPick(context, wish));
      await place.keep();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      await place.back();
      refused.push({ order: wish.order, why: error.message });
    }
  }
  return { started, refused };
}
