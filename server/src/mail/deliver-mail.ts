import type { Transporter } from 'nodemailer';
import { drawPaper, loadPaper, paperFileName } from '../documents';
import { recordEvent } from '../events';
import type { CommandContext, Services } from '../http/context';
import type { Trx } from '../database';
import { isPermanent, MAIL_ID } from './transport';

/** Who a mail comes from. */
const SENDER = { name: 'Marrowby Apiary Supply', address: 'orders@marrowby.example' };
/** What Nockwright does of itself. */
const NOBODY = { id: 0, login: '', name: 'Nockwright', role: 'coordinator' } as const;

/**
 * Hands a mail that waits to the post office. Where that does not take it, why is kept on the mail; it is tried again
 * unless it never could be, or this was the last try. A mail that another server has in hand, or that is gone, is left.
 */
export async function deliverMail(
  { db, clock, jobs, publicUrl }: Pick<Services, 'db' | 'clock' | 'jobs' | 'publicUrl'>,
  transport: Transporter,
  mailId: number,
  last: boolean,
): Promise<void> {
  const failure = await db.transaction().execute(async (trx) => {
    // Not a lock of the key: the stand-in post office writes rows that refer to it, over a connection of its own.
    const mail = await trx
      .selectFrom('mail')
      .selectAll()
      .where('id', '=', mailId)
      .where('state', '=', 'waiting')
      .forNoKeyUpdate()
      .skipLocked()
      .executeTakeFirst();
    if (!mail) return null;
    const now = clock();
    const context: CommandContext = { trx, user: NOBODY, now, jobs, publicUrl, afterCommit: () => undefined };
    const subjects = [subjectOf(mail), { kind: 'mail', key: mailId } as const];
    const attempts = mail.attempts + 1;
    try {
      await transport.sendMail({
        from: SENDER,
        to: mail.recipients,
        subject: mail.subject,
        text: mail.body,
        date: mail.made_at,
        headers: { [MAIL_ID]: String(mailId) },
        attachments: await attachments(trx, mailId, mail.document_id),
        disableFileAccess: true,
        disableUrlAccess: true,
      });
    } catch (error) {
      const failed = last || isPermanent(error);
      const fault = (error as Error).message.slice(0, 1000);
      await trx
        .updateTable('mail')
        .set({ attempts, fault, state: failed ? 'failed' : 'waiting' })
        .where('id', '=', mailId)
        .execute();
      await recordEvent(context, { what: `the post office did not take “${mail.subject}”${failed ? '; it is not tried again' : ''}`, why: fault, subjects });
      return failed ? null : error;
    }
    await trx.updateTable('mail').set({ attempts, fault: '', state: 'sent', sent_at: now.instant }).where('id', '=', mailId).execute();
    await recordEvent(context, { what: `“${mail.subject}” went out to ${mail.recipients.join(', ')}`, subjects });
    return null;
  });
  // Thrown behind the commit, so that what happened stays told: the queue tries again.
  if (failure) throw failure;
}

/** The order or the purchase that a mail is about. */
export function subjectOf(mail: { readonly order_id: number | null; readonly purchase_id: number | null }) {
  return mail.order_id === null ? ({ kind: 'purchase', key: mail.purchase_id! } as const) : ({ kind: 'order', key: mail.order_id } as const);
}

async function attachments(trx: Trx, mailId: number, paperId: number | null) {
  const paper = paperId === null ? null : await loadPaper(trx, paperId);
  const files = await trx
    .selectFrom('mail_file')
    .innerJoin('order_file', 'order_file.id', 'mail_file.file_id')
    .select(['name', 'media', 'content'])
    .where('mail_id', '=', mailId)
    .orderBy('order_file.id')
    .execute();
  return [
    ...(paper ? [{ filename: paperFileName(paper), contentType: 'application/pdf', content: await drawPaper(paper) }] : []),
    ...files.map(({ name, media, content }) => ({ filename: name, contentType: media, content })),
  ];
}
