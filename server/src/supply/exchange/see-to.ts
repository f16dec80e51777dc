import type { Db } from '../../database';
import { recordEvent } from '../../events';
import type { CommandContext } from '../../http/context';
import { notFound, Refusal } from '../../http/refusal';

/** Somebody has seen to what a supplier answered: it is no work any more. */
export async function seeTo(context: CommandContext, messageId: number): Promise<void> {
  const { trx } = context;
  const message = await trx.selectFrom('exchange_message').selectAll().where('id', '=', messageId).forNoKeyUpdate().executeTakeFirst();
  if (!message) throw notFound(`message ${messageId}`);
  if (message.state === 'held') throw new Refusal('conflict', `Message ${message.number} needs a decision: accept it, or decline it.`);
  if (!message.needs_look) throw new Refusal('conflict', `Message ${message.number} is reviewed already.`);
  await trx.updateTable('exchange_message').set({ needs_look: false }).where('id', '=', messageId).execute();
  await recordEvent(context, {
    kind: 'message.seen',
    facts: { message: message.number, supplier: message.supplier },
    subjects: [{ kind: 'supplier', key: message.supplier }, ...(message.purchase_id === null ? [] : [{ kind: 'purchase' as const, key: message.purchase_id }])],
  });
}

/** A message as the file it went or came as; a browser saves it and shows nothing of it. */
export async function messageFile(db: Db, messageId: number): Promise<Response> {
  const message = await db.selectFrom('exchange_message').select(['file', 'content']).where('id', '=', messageId).executeTakeFirst();
  if (!message) throw notFound(`message ${messageId}`);
  const name = message.file.replace(/[^\w.-]/g, '_');
  return new Response(message.content, {
    headers: { 'Content-Type': 'application/xml; charset=utf-8', 'Content-Disposition': `attachment; filename="${name}"` },
  });
}
