import type { MailId } from '@nockwright/core/ids';
import type { MailView } from '@nockwright/contract/mail';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { subjectOf } from './deliver-mail';
import { readMail } from './read-mail';

/** Tries a mail again now that was not taken, perhaps to other recipients. */
export async function retryMail(context: CommandContext, mailId: MailId, recipients?: readonly string[]): Promise<MailView> {
  const { trx, jobs } = context;
  const mail = await trx.selectFrom('mail').selectAll().where('id', '=', mailId).forNoKeyUpdate().executeTakeFirst();
  if (!mail) throw notFound(`mail ${mailId}`);
  if (mail.state === 'sent') throw new Refusal('conflict', 'This mail has gone out. Mail the document again.');
  const to = recipients ? [...new Set(recipients)] : mail.recipients;
  if (mail.claimed_until !== null && mail.claimed_until > new Date()) throw new Refusal('conflict', 'It is being sent just now: wait a moment.');
  // Who has it keeps their place among the recipients: it is not sent to them again.
  const kept = mail.fates.filter((fate) => fate.taken).map((fate) => fate.address);
  await trx
    .updateTable('mail')
    .set({ state: 'waiting', recipients: [...new Set([...kept, ...to])] })
    .where('id', '=', mailId)
    .execute();
  await jobs.send(trx, 'mail', { mail: mailId });
  await recordEvent(context, {
    kind: 'mail.retried',
    facts: { subject: mail.subject, to: recipients ? to : [] },
    before: { recipients: mail.recipients, fault: mail.fault },
    subjects: [subjectOf(mail), { kind: 'mail', key: mailId }],
  });
  return readMail(trx, mailId);
}
