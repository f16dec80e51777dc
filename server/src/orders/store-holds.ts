import type { OrderId } from '@nockwright/core/ids';
import type { CommandContext } from '../http/context';
import { recordEvent } from '../events';
import type { BelowFloor, NeededHold } from './holds';
import { lockDraft, orderRef, orderLabel, touchOrder } from './lock-order';
import type { OrderView } from '@nockwright/contract/orders';
import { HOLD_CLEARED_BY } from '@nockwright/contract/orders';
import { readOrder } from './read-order';
import { notFound, Refusal } from '../http/refusal';
import { loadHolds } from './load-holds';
import type { Role } from '@nockwright/contract/shape';

/** Takes back what an earlier try to release held and nobody has let go: it is judged anew. */
export async function forgetHolds({ trx }: CommandContext, orderId: OrderId): Promise<void> {
  await trx.deleteFrom('order_hold').where('order_id', '=', orderId).where('kind', '<>', 'customer').where('cleared_at', 'is', null).execute();
}

/** Holds an order for these reasons; the ones of the same kind that were open are replaced. */
export async function placeHolds(context: CommandContext, orderId: OrderId, needed: readonly NeededHold[]): Promise<void> {
  const { trx, now, user } = context;
  for (const { kind, why, facts } of needed) {
    await trx.deleteFrom('order_hold').where('order_id', '=', orderId).where('kind', '=', kind).where('cleared_at', 'is', null).execute();
    await trx
      .insertInto('order_hold')
      .values({ order_id: orderId, kind, why, facts: JSON.stringify(facts), placed_at: now.instant, placed_by: user.id })
      .execute();
  }
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'draft.held',
    facts: { id: orderId },
    why: needed.map((hold) => hold.why).join('; '),
    subjects: [{ kind: 'order', key: orderId }],
  });
}

/** Holds a draft until the customer has answered. */
export async function holdOrder(context: CommandContext, orderId: OrderId, version: number, why: string): Promise<OrderView> {
  await lockDraft(context.trx, orderId, version);
  await placeHolds(context, orderId, [{ kind: 'customer', why, facts: [] }]);
  return readOrder(context.trx, context.now, orderId);
}

/** Lets a held order go, for a reason; it is released by the desk when it is in order otherwise. */
export async function clearHold(context: CommandContext, orderId: OrderId, holdId: number, version: number, why: string): Promise<OrderView> {
  const { trx, now, user } = context;
  const order = await lockDraft(trx, orderId, version);
  const hold = (await loadHolds(trx, orderId)).find((row) => row.id === holdId);
  if (!hold) throw notFound(`hold ${holdId} of this order`);
  if (hold.cleared_at !== null) throw new Refusal('conflict', `${orderLabel(order)} was released by ${hold.clearer} already.`);
  if (!HOLD_CLEARED_BY[hold.kind].includes(user.role))
    throw new Refusal('not-allowed', `This hold is released by ${HOLD_CLEARED_BY[hold.kind].join(' or ')}; you are logged in as ${user.role}.`);
  if (hold.kind !== 'customer') checkAnother(hold, user.id);
  await trx.updateTable('order_hold').set({ cleared_at: now.instant, cleared_by: user.id, cleared_why: why }).where('id', '=', holdId).execute();
  await touchOrder(context, orderId);
  await recordEvent(context, { kind: 'hold.cleared', facts: { order: orderRef(order), hold: hold.why }, why, subjects: [{ kind: 'order', key: orderId }] });
  return readOrder(trx, now, orderId);
}

/** Keeps what an act of somebody who may approve it lets go, so that later acts are judged by it. */
export async function storeApproval({ trx, now, user }: CommandContext, orderId: OrderId, { kind, why, facts }: NeededHold, by: string): Promise<void> {
  const done = { placed_at: now.instant, placed_by: user.id, cleared_at: now.instant, cleared_by: user.id, cleared_why: by };
  await trx
    .insertInto('order_hold')
    .values({ order_id: orderId, kind, why, facts: JSON.stringify(facts), ...done })
    .execute();
}

/** Who asked, or set the price that is asked for, does not approve it. */
export function checkAnother(hold: Pick<NeededHold, 'kind' | 'facts'> & { readonly placed_by: number }, user: number): void {
  if (hold.placed_by === user || askedBy(hold, user)) throw new Refusal('not-allowed', 'You asked for this yourself: somebody else approves it.');
}

/** Whether this user set one of the prices that a hold is about. */
export function askedBy({ kind, facts }: Pick<NeededHold, 'kind' | 'facts'>, user: number): boolean {
  return kind === 'below_floor' && (facts as BelowFloor[]).some((row) => row.askedBy === user);
}

/** Whether a user may do by themselves what somebody else would be held for. */
export function mayApprove(hold: NeededHold, user: { readonly id: number; readonly role: Role }): boolean {
  return HOLD_CLEARED_BY[hold.kind].includes(user.role) && !askedBy(hold, user.id);
}
