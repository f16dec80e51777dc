import type { OrderId } from '@nockwright/core/ids';
import { createHash } from 'node:crypto';
import { drawReceiptTask } from '../documents';
import { recordEvent } from '../events';
import { loadFirm } from '../firm';
import type { CommandContext, Services } from '../http/context';
import { Refusal } from '../http/refusal';
import { readBasket } from './baskets';

/** Mails the receipt of a sale that is paid. The same receipt is kept once, however often it is mailed. */
export async function mailReceipt(context: CommandContext, work: Services['work'], order: OrderId, email: string) {
  const { trx, now, user, jobs } = context;
  const basket = await readBasket(trx, order);
  if (basket.state !== 'paid' || basket.number === null) throw new Refusal('conflict', 'There is a receipt once the basket is paid.');
  const firm = await loadFirm(trx);
  const content = Buffer.from(await work.run(drawReceiptTask, { firm, day: now.today, basket }, user.id));
  const name = `receipt-${basket.number}.pdf`;
  const kept = await trx.selectFrom('order_file').select('id').where('order_id', '=', order).where('name', '=', name).executeTakeFirst();
  const file =
    kept ??
    (await trx
      .insertInto('order_file')
      .values({
        order_id: order,
        name,
        media: 'application/pdf',
        size: content.length,
        sha256: createHash('sha256').update(content).digest('hex'),
        content,
        added_at: now.instant,
        added_by: user.id,
      })
      .returning('id')
      .executeTakeFirstOrThrow());
  const { id: mail } = await trx
    .insertInto('mail')
    .values({
      order_id: order,
      document_id: null,
      recipients: [email],
      subject: `Your receipt ${basket.number} from ${firm.name}`,
      body: `Good day,\n\nthank you for your purchase. Your receipt over ${basket.total} ${basket.currency} is attached.\n\nKind regards\n${user.name}\n${firm.name}`,
      made_at: now.instant,
      made_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await trx.insertInto('mail_file').values({ mail_id: mail, file_id: file.id }).execute();
  await recordEvent(context, { kind: 'counter.mailed', facts: { number: basket.number, to: email }, subjects: [{ kind: 'order', key: order }] });
  await jobs.send(trx, 'mail', { mail });
  return basket;
}
