import type { orderRoutes, OrderView } from '@nockwright/contract/orders';
import type { BodyOf } from '@nockwright/contract/shape';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { changeOrder } from './change-order';
import { insertLine } from './edit-lines';
import { lockDraft } from './lock-order';
import { readOrder } from './read-order';
import { noteTasks } from './tasks';

/** Adds lines to a draft at once, and what was read of its head, all or nothing; every fault is told with its line. */
export async function addLines(context: CommandContext, orderId: number, wish: BodyOf<typeof orderRoutes.addLines>): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockDraft(trx, orderId);
  const errors: { field: string; message: string }[] = [];
  for (const [at, line] of wish.lines.entries()) {
    try {
      await insertLine(context, order, line);
    } catch (error) {
      if (!(error instanceof Refusal) || error.kind !== 'invalid') throw error;
      errors.push(...error.errors.map(({ field, message }) => ({ field: field.replace(/^body/, `body.lines[${at}]`), message })));
    }
  }
  if (errors.length > 0) throw new Refusal('invalid', errors.map(({ field, message }) => `${field}: ${message}`).join('; '), errors);
  await noteTasks(context, trx, orderId, wish.tasks ?? []);
  const head = Object.fromEntries(HEAD.flatMap((field) => (wish[field] === undefined ? [] : [[field, wish[field]]])));
  if (Object.keys(head).length === 0) return readOrder(trx, now, orderId);
  // Lines go behind what others added meanwhile; what stands in the head is compared with what was seen of it.
  const { version } = await trx.selectFrom('sales_order').select('version').where('id', '=', orderId).executeTakeFirstOrThrow();
  const before = wish.version === order.version ? version : wish.version;
  return changeOrder(context, orderId, { version: before, ...(wish.seen ? { seen: wish.seen } : {}), ...head });
}

const HEAD = ['poNumber', 'requestKind', 'requestedDay'] as const;
