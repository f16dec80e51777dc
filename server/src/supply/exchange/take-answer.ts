import type { PurchaseId, SupplierCode } from '@nockwright/core/ids';
import { takeLocks } from '../../locks';
import {
  kindOfAnswer,
  readDespatchAdvice,
  readOrderResponse,
  type DespatchAdviceMessage,
  type OrderResponseMessage,
  type Read,
} from '@nockwright/core/exchange';
import { notify, recordEvent } from '../../events';
import type { CommandContext, CurrentUser } from '../../http/context';
import { notFound, Refusal } from '../../http/refusal';

import type { Task } from '../../work';
import type { Purchase, Taken } from './answered-purchase';
import { takeDespatch } from './take-despatch';
import { takeResponse } from './take-response';

/** What Nockwright does of itself. */
export const NOBODY: CurrentUser = { id: 0, login: '', name: 'Nockwright', role: 'coordinator' };

/** A file from a supplier's folder. */
export interface AnswerFile {
  readonly supplier: SupplierCode;
  readonly name: string;
  readonly content: string;
  /** What it says, where somebody has read it already. */
  readonly read?: MessageRead;
}

export type MessageRead = Read<OrderResponseMessage | DespatchAdviceMessage>;

/**
 * Acts on what a supplier says in a file, as one change: their days, quantities and costs hold from now on, goods that left
 * for a customer are shipped, goods that left for us are announced. Promises stand as told; those that its news leave
 * without goods in time are named. An answer beyond what may hold by itself changes nothing: it waits for a person. A message
 * that came before does nothing. Throws a Refusal where it cannot be acted on.
 */
export async function takeAnswer(context: CommandContext, { supplier, name, content, read }: AnswerFile): Promise<void> {
  const { trx, now } = context;
  const message = documentOf(read ?? readMessageTask.run(content));
  const kind = 'tracking' in message ? ('despatch_advice' as const) : ('order_response' as const);
  const purchase = await findPurchase(context, supplier, message.order);
  await lockWhole(context, purchase.id);
  const inserted = await trx
    .insertInto('exchange_message')
    .values({ supplier, direction: 'in', kind, purchase_id: purchase.id, number: message.number, file: name, content, at: now.instant, state: 'taken' })
    // The index knows each message once: whoever comes second waits for the first and finds it here.
    .onConflict((conflict) =>
      conflict.columns(['supplier', 'kind', 'number']).where('direction', '=', 'in').where('state', 'in', ['taken', 'held']).doNothing(),
    )
    .returning('id')
    .executeTakeFirst();
  if (!inserted) return;
  const { findings, lines, held, quiet }: Taken =
    'tracking' in message ? await takeDespatch(context, purchase, message) : await takeResponse(context, purchase, message, 'within tolerance');
  await trx
    .updateTable('exchange_message')
    .set({ findings: JSON.stringify(findings), hurts: [...lines], needs_look: findings.length > 0 && !quiet, ...(held ? { state: 'held' } : {}) })
    .where('id', '=', inserted.id)
    .execute();
  await notify(trx, [`supplier:${supplier}`, `purchase:${purchase.id}`]);
}

/** A person decides on an answer that waits: it holds as they say, or everything stays as it was ordered. */
export async function decideAnswer(context: CommandContext, messageId: number, take: boolean): Promise<void> {
  const { trx } = context;
  const row = await trx.selectFrom('exchange_message').selectAll().where('id', '=', messageId).forNoKeyUpdate().executeTakeFirst();
  if (!row) throw notFound(`message ${messageId}`);
  if (row.state !== 'held') throw new Refusal('conflict', `Message ${row.number} does not wait for a decision.`);
  const message = documentOf(readMessageTask.run(row.content)) as OrderResponseMessage;
  const purchase = await findPurchase(context, row.supplier, message.order);
  await lockWhole(context, purchase.id);
  if (take) {
    const { findings, lines } = await takeResponse(context, purchase, message, 'whatever they say');
    await trx
      .updateTable('exchange_message')
      .set({ state: 'taken', findings: JSON.stringify(findings), hurts: [...lines], needs_look: lines.length > 0 })
      .where('id', '=', messageId)
      .execute();
  } else await trx.updateTable('exchange_message').set({ state: 'refused', needs_look: false }).where('id', '=', messageId).execute();
  await recordEvent(context, {
    kind: take ? 'answer.taken' : 'answer.declined',
    facts: { answer: row.number, supplier: purchase.supplier_name, purchase: purchase.number, findings: row.findings },
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: row.supplier },
    ],
  });
  await notify(trx, [`supplier:${row.supplier}`, `purchase:${purchase.id}`]);
}

/** Locks all that an answer may change, once for all of its lines: orders they are for, the purchase, and its pools. */
async function lockWhole({ trx }: CommandContext, purchaseId: PurchaseId): Promise<void> {
  const lines = await trx
    .selectFrom('purchase_line')
    .leftJoin('order_line', 'order_line.id', 'purchase_line.order_line_id')
    .select(['purchase_line.item', 'purchase_line.warehouse', 'order_line.order_id'])
    .where('purchase_id', '=', purchaseId)
    .execute();
  await takeLocks(trx, {
    orders: lines.map((line) => line.order_id),
    purchases: [purchaseId],
    pools: lines.flatMap(({ item, warehouse }) => (warehouse === null ? [] : [{ item, warehouse }])),
  });
}

/** A supplier's file as the document it is, or what is wrong with it. */
export const readMessageTask = {
  name: 'readMessage',
  run: (content: string): MessageRead => {
    const kind = kindOfAnswer(content);
    if (!kind.ok) return kind;
    return kind.document === 'OrderResponse' ? readOrderResponse(content) : readDespatchAdvice(content);
  },
} satisfies Task<string, MessageRead>;

function documentOf(read: MessageRead): OrderResponseMessage | DespatchAdviceMessage {
  if (!read.ok) throw unreadable(read.faults);
  return read.document;
}

/** Keeps a file that could not be acted on, with why: it comes up as work. */
export async function keepRefused(context: CommandContext, { supplier, name, content }: AnswerFile, faults: readonly string[]): Promise<void> {
  const kind = kindOfAnswer(content);
  const read = kind.ok ? (kind.document === 'OrderResponse' ? readOrderResponse(content) : readDespatchAdvice(content)) : kind;
  const about = kind.ok && read.ok ? (read.document as OrderResponseMessage | DespatchAdviceMessage) : null;
  const purchase = about
    ? await context.trx.selectFrom('purchase_order').select('id').where('number', '=', about.order).where('supplier', '=', supplier).executeTakeFirst()
    : undefined;
  await context.trx
    .insertInto('exchange_message')
    .values({
      supplier,
      direction: 'in',
      kind: kind.ok ? (kind.document === 'OrderResponse' ? 'order_response' : 'despatch_advice') : 'unreadable',
      purchase_id: purchase?.id ?? null,
      number: about?.number ?? name,
      file: name,
      // PostgreSQL keeps no NUL in a text.
      content: content.replaceAll('\u0000', '').slice(0, 200_000),
      at: context.now.instant,
      state: 'refused',
      findings: JSON.stringify(faults.map((words) => ({ about: 'words', words: words.slice(0, 1000) }))),
      needs_look: true,
    })
    .execute();
  await recordEvent(context, {
    kind: 'file.failed',
    facts: { name, supplier },
    why: faults.join('; ').slice(0, 1000),
    subjects: [{ kind: 'supplier', key: supplier }, ...(purchase ? [{ kind: 'purchase' as const, key: purchase.id }] : [])],
  });
}

function unreadable(faults: readonly string[]): Refusal {
  return new Refusal(
    'invalid',
    faults.join('; '),
    faults.map((message) => ({ field: 'file', message })),
  );
}

async function findPurchase({ trx }: CommandContext, supplier: SupplierCode, number: string): Promise<Purchase> {
  const purchase = await trx
    .selectFrom('purchase_order')
    .innerJoin('supplier', 'supplier.code', 'purchase_order.supplier')
    .select([
      'purchase_order.id',
      'purchase_order.number',
      'purchase_order.state',
      'purchase_order.kind',
      'purchase_order.supplier',
      'purchase_order.order_id',
      'supplier.name as supplier_name',
    ])
    .where('purchase_order.number', '=', number)
    .where('purchase_order.supplier', '=', supplier)
    .executeTakeFirst();
  if (!purchase) throw new Refusal('invalid', `${supplier} has no purchase order ${number} of ours.`);
  if (purchase.state === 'draft') throw new Refusal('invalid', `Purchase ${number} is a draft: it was never sent.`);
  return purchase;
}
