import type { OrderId } from '@nockwright/core/ids';
import type { mailRoutes } from '@nockwright/contract/mail';
import type { OrderView } from '@nockwright/contract/orders';
import type { BodyOf } from '@nockwright/contract/shape';
import { anyOf } from '../database';
import { loadPaper } from '../documents';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { lockOrder, readOrder } from '../orders';

/** Mails a paper of an order, with files of it. It is on its way when the transaction commits, whatever becomes of the post office. */
export async function mailPaper(context: CommandContext, orderId: OrderId, wish: BodyOf<typeof mailRoutes.mailPaper>): Promise<OrderView> {
  const { trx, now, user, jobs } = context;
  const order = await lockOrder(trx, orderId);
  const row = await trx.selectFrom('document').select(['order_id', 'kind']).where('id', '=', wish.paper).executeTakeFirst();
  if (row?.order_id !== orderId) throw invalid('body.paper', `this order has no paper ${wish.paper}`);
  const newer = await trx
    .selectFrom('document')
    .select('id')
    .where('order_id', '=', orderId)
    .where('kind', '=', row.kind)
    .where('id', '>', wish.paper)
    .executeTakeFirst();
  if (newer) throw new Refusal('conflict', 'Another paper has taken the place of this one: mail the newest.');
  const files = await trx.selectFrom('order_file').select('id').where('order_id', '=', orderId).where(anyOf('id', wish.files)).execute();
  for (const [at, file] of wish.files.entries())
    if (!files.some((known) => known.id === file)) throw invalid(`body.files[${at}]`, `this order has no file ${file}`);
  const { id } = await trx
    .insertInto('mail')
    .values({
      order_id: orderId,
      document_id: wish.paper,
      recipients: [...new Set(wish.recipients)],
      subject: wish.subject,
      body: wish.text,
      made_at: now.instant,
      made_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  if (files.length > 0)
    await trx
      .insertInto('mail_file')
      .values(files.map((file) => ({ mail_id: id, file_id: file.id })))
      .execute();
  await jobs.send(trx, 'mail', { mail: id });
  const paper = await loadPaper(trx, wish.paper);
  await recordEvent(context, {
    kind: 'paper.mailed',
    facts: { paper: paper.name, recipients: wish.recipients },
    after: { subject: wish.subject, files: wish.files.length },
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'mail', key: id },
      { kind: 'customer', key: order.customer_id },
    ],
  });
  return readOrder(trx, now, orderId);
}
