import type { OrderView } from '@nockwright/contract/orders';
import { refreshBoards } from '../../server/src/boards';
import { cancelPick, readBoard, ship, startPick } from '../../server/src/shipping/commands';
import { MoneyDesk } from './money';

/** The whole desk, with what leaves it. */
export class Desk extends MoneyDesk {
  /** Picks what is on hand for an order; `leaves`: ships it, too. */
  async pick(days: number, order: OrderView, leaves: boolean, share = 1): Promise<void> {
    const at = '13:20';
    const board = await this.on(
      days,
      async ({ trx, now }) => {
        await refreshBoards(trx, now);
        return readBoard(trx, now, { q: order.number!, most: 2000 });
      },
      at,
    );
    for (const ready of board.ready.filter((row) => row.order === order.id)) {
      const lines = ready.lines.map((line) => ({
        line: line.line,
        quantity: String(Math.max(1, Math.floor(Number(line.quantity) * (ready.shipComplete ? 1 : share)))),
      }));
      const pick = await this.on(days, (context) => startPick(context, { order: order.id, warehouse: ready.warehouse, lines }), at);
      if (!leaves) continue;
      await this.on(days, (context) => ship(context, pick.id, `TRK${800000 + pick.id * 37}`), at);
      // What was mailed of it then has long arrived.
      await this.db
        .updateTable('mail')
        .set(({ ref }) => ({ state: 'sent', sent_at: ref('made_at') }))
        .where('state', '=', 'waiting')
        .where('consignment_id', 'is not', null)
        .execute();
    }
  }

  async putBack(days: number, order: OrderView, reason: string): Promise<void> {
    const board = await this.on(days, ({ trx, now }) => readBoard(trx, now));
    for (const pick of board.picking.filter((row) => row.order === order.id)) await this.on(days, (context) => cancelPick(context, pick.id, reason));
  }
}
