import type { Dealing } from '@nockwright/contract/history';
import { compareDecimal, least, minus, sum } from '@nockwright/core/money';
import { beyondNeed, nextCarrierDay, openQuantity } from '@nockwright/core/orders';
import { sql } from 'kysely';
import { anyOf } from '../database';
import type { CommandContext } from '../http/context';
import { loadOrderLinesById } from '../orders';
import { giveUp, loadBoundSupply } from '../supply';
import type { RoutedRecord } from './store-routing';

/** What was done with what was bound to lines, by line. */
export type Dealt = Map<number, Dealing[]>;

/**
 * Drop shipments that slipped are taken back from the supplier where another way is better; of those that are waited for
 * the later day is from now on what was told. Adds what was done to `dealt`.
 */
export async function dealWithSlipped(context: CommandContext, routed: readonly RoutedRecord[], dealt: Dealt): Promise<void> {
  const { trx, now } = context;
  const bound = await loadBoundSupply(
    trx,
    routed.filter(({ decided }) => decided.lifted.slipped.length > 0).map(({ record }) => record.id),
  );
  for (const { decided, record } of routed)
    for (const { id, cut } of decided.lifted.slipped) {
      const row = bound.find((supply) => supply.kind === 'drop_ship' && supply.id === id)!;
      tell(dealt, record.id, await giveUp(context, row, cut, 'cancel', { kind: 'promise.endangered', facts: {} }));
    }
  const waited = routed.flatMap(({ decided }) => decided.kept.slipped.map((row) => row.id));
  if (waited.length > 0)
    await trx
      .updateTable('purchase_line')
      .set({ told_day: sql`case when expected_day < ${now.today}::date then ${nextCarrierDay(now.today)}::date else expected_day end` })
      .where(anyOf('id', waited))
      .execute();
}

/**
 * What was bought, brought over or put together for parts of a line that go another way now is bound to it no more: it is
 * free for anyone, struck off its draft, or stays where it is. Adds what was done to `dealt`.
 */
export async function freeLifted(context: CommandContext, routed: readonly RoutedRecord[], dealt: Dealt): Promise<void> {
  const free = routed.filter(({ decided }) => decided.freed.size > 0);
  if (free.length === 0) return;
  const bound = await loadBoundSupply(
    context.trx,
    free.map(({ record }) => record.id),
  );
  for (const { decided, record } of free)
    for (const row of bound) {
      const quantity = row.order_line_id === record.id && row.kind !== 'drop_ship' ? least(decided.freed.get(row.name) ?? '0', row.open) : '0';
      if (compareDecimal(quantity, '0') > 0) tell(dealt, record.id, await giveUp(context, row, quantity, 'keep', { kind: 'line.rerouted', facts: {} }));
    }
}

/** What is bound to a line beyond all it is open for is bound to it no more. Adds what was done to `dealt`. */
export async function freeSurplus(context: CommandContext, routed: readonly RoutedRecord[], dealt: Dealt): Promise<void> {
  const ids = routed.filter(({ decided }) => decided.lifted.promises.length > 0).map(({ record }) => record.id);
  if (ids.length === 0) return;
  const bound = await loadBoundSupply(context.trx, ids);
  for (const line of await loadOrderLinesById(context.trx, ids)) {
    const own = bound.filter((row) => row.order_line_id === line.id);
    const open = openQuantity(line);
    const dropped = sum(own.filter((row) => row.kind === 'drop_ship').map((row) => row.open));
    for (const { row, surplus } of beyondNeed(own, minus(minus(open, dropped), least(line.reserved, open))))
      tell(dealt, line.id, await giveUp(context, row, surplus, 'keep', { kind: 'line.rerouted', facts: {} }));
  }
}

function tell(dealt: Dealt, line: number, done: readonly Dealing[]): void {
  if (done.length > 0) dealt.set(line, [...(dealt.get(line) ?? []), ...done]);
}
