import type { MailId } from '@nockwright/core/ids';
import type { MailView } from '@nockwright/contract/mail';
import type { Db } from '../database';
import { loadPaper, paperFileName } from '../documents';
import { notFound } from '../http/refusal';
import { asMailRow, mailRows } from './list-mail';

/** A mail with its text, what is attached, and the message that went out. */
export async function readMail(db: Db, mailId: MailId): Promise<MailView> {
  const row = await mailRows(db).where('mail.id', '=', mailId).executeTakeFirst();
  if (!row) throw notFound(`mail ${mailId}`);
  const files = await db
    .selectFrom('mail_file')
    .innerJoin('order_file', 'order_file.id', 'mail_file.file_id')
    .select(['order_file.id', 'order_file.name'])
    .where('mail_id', '=', mailId)
    .orderBy('order_file.id')
    .execute();
  const message = await db.selectFrom('outbox_message').select('id').where('mail_id', '=', mailId).limit(1).executeTakeFirst();
  return {
    row: asMailRow(row),
    body: row.body,
    attachments: [
      ...(row.document_id === null ? [] : [{ name: paperFileName(await loadPaper(db, row.document_id)), href: `/api/papers/${row.document_id}` }]),
      ...files.map(({ id, name }) => ({ name, href: `/api/files/${id}` })),
    ],
    message: message ? `/api/mail/${mailId}/message` : null,
  };
}

/** The message of a mail as it went over the wire, to be saved. */
export async function messageReply(db: Db, mailId: MailId): Promise<Response> {
  const row = await db.selectFrom('outbox_message').select('message').where('mail_id', '=', mailId).orderBy('id', 'desc').limit(1).executeTakeFirst();
  if (!row) throw notFound(`message of mail ${mailId}`);
  return new Response(new Uint8Array(row.message), {
    headers: {
      'Content-Type': 'message/rfc822',
      'Content-Disposition': `attachment; filename="mail-${mailId}.eml"`,
    },
  });
}
