import { passesLimit, type CreditFacts } from '@nockwright/core/credit';
import { compareDecimal, minus, roundMoney, sum } from '@nockwright/core/money';
import type { Now } from '../clock';
import type { Trx } from '../database';
import { Refusal } from '../http/refusal';
import { neededCreditHold, neededFloorHold } from './holds';
import { loadOrderLines, type OrderLineRecord } from './load-order';
import { lineMoney } from './line-view';

/**
 * Refuses an act on a released order that takes its customer over their limit, or sells below the floor what nobody has
 * approved so. `before`: the lines it changed, as they were; they are in the database as they will be. `credit`: as it stood
 * before.
 */
export async function checkOwed(
  trx: Trx,
  now: Now,
  order: { readonly id: number; readonly currency: string },
  credit: CreditFacts,
  before: readonly OrderLineRecord[],
): Promise<void> {
  const after = (await loadOrderLines(trx, order.id)).filter((line) => before.some((row) => row.id === line.id));
  const worth = (lines: readonly OrderLineRecord[]) => sum(lines.map((line) => lineMoney(line, [], order.currency).amount));
  const more = minus(worth(after), worth(before));
  if (compareDecimal(more, '0') > 0 && passesLimit(credit, more)) {
    const hold = await neededCreditHold(trx, order, [], { ...credit, openOrders: sum([credit.openOrders, more]) }, now.today);
    if (hold)
      throw new Refusal(
        'conflict',
        `It would be ${roundMoney(more, order.currency)} more: ${hold.why}. Finance decides: enter it as an order of its own, which is held.`,
      );
  }
  const floor = await neededFloorHold(trx, now, order, after);
  if (floor) throw new Refusal('conflict', `${floor.why}. Nobody has approved that: enter it as an order of its own, which is held.`);
}
