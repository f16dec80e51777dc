import type { OrderId } from '@nockwright/core/ids';
import { createHash } from 'node:crypto';
import { MOST_FILE_BYTES } from '@nockwright/contract/documents';
import type { OrderView } from '@nockwright/contract/orders';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { mediaOf, nameFault } from './file-kind';
import { lockOrder, orderLabel } from './lock-order';
import { readOrder } from './read-order';

const MOST_FILES = 20;

/** Attaches a file to an order. What it is is read from its content: a name does not make a program a picture. */
export async function attachFile(context: CommandContext, orderId: OrderId, name: string, base64: string): Promise<OrderView> {
  const { trx, now, user } = context;
  const order = await lockOrder(trx, orderId);
  if (order.state === 'discarded') throw new Refusal('conflict', `${orderLabel(order)} is discarded.`);
  const content = Buffer.from(base64, 'base64');
  if (content.length === 0) throw invalid('body.content', `${name} is empty`);
  if (content.length > MOST_FILE_BYTES) throw invalid('body.content', `${name} has ${content.length} bytes, at most ${MOST_FILE_BYTES} are taken`);
  const media = await mediaOf(content);
  if (media === null)
    throw invalid('body.content', `${name} is none of: PDF, PNG, JPEG, WebP, spreadsheet or letter (xlsx, docx, ods, odt), mail or plain text`);
  const fault = nameFault(safeName(name), media);
  if (fault !== null) throw invalid('body.name', fault);
  const others = await trx.selectFrom('order_file').select(['name', 'sha256']).where('order_id', '=', orderId).execute();
  if (others.length >= MOST_FILES) throw invalid('body', `an order has at most ${MOST_FILES} files`);
  const sha256 = createHash('sha256').update(content).digest('hex');
  const same = others.find((file) => file.sha256 === sha256);
  if (same) throw new Refusal('conflict', `The same file is attached already, as ${same.name}.`);
  await trx
    .insertInto('order_file')
    .values({ order_id: orderId, name: safeName(name), media, size: content.length, sha256, content, added_at: now.instant, added_by: user.id })
    .execute();
  await recordEvent(context, {
    kind: 'file.attached',
    facts: { name: safeName(name) },
    after: { size: content.length, sha256 },
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}

/** A file as a reply to be saved. Nothing in it runs as a page of ours, whatever it holds. */
export async function fileReply(db: Db, fileId: number): Promise<Response> {
  const file = await db.selectFrom('order_file').select(['name', 'media', 'content']).where('id', '=', fileId).executeTakeFirst();
  if (!file) throw notFound(`file ${fileId}`);
  return new Response(new Uint8Array(file.content), {
    headers: {
      'Content-Type': file.media,
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
    },
  });
}

/** Takes a file off; one that was mailed stays, since it was told. */
export async function removeFile(context: CommandContext, orderId: OrderId, fileId: number): Promise<OrderView> {
  const { trx, now } = context;
  await lockOrder(trx, orderId);
  const file = await trx.selectFrom('order_file').select(['name', 'sha256']).where('id', '=', fileId).where('order_id', '=', orderId).executeTakeFirst();
  if (!file) throw notFound(`file ${fileId} on this order`);
  const mailed = await trx.selectFrom('mail_file').select('mail_id').where('file_id', '=', fileId).executeTakeFirst();
  if (mailed) throw new Refusal('conflict', `${file.name} was mailed: it stays with the order.`);
  await trx.deleteFrom('order_file').where('id', '=', fileId).execute();
  await recordEvent(context, { kind: 'file.removed', facts: { name: file.name }, before: file, subjects: [{ kind: 'order', key: orderId }] });
  return readOrder(trx, now, orderId);
}

/** The last part of a path, without what a file system or a header could take for something else. */
function safeName(name: string): string {
  const last = name.split(/[\\/]/).at(-1)!;
  return last.replace(/[<>:"|?*\p{Cc}]/gu, '_').replace(/^\.+/, '') || 'file';
}
