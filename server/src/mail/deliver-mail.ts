import type { MailId, OrderId, PurchaseId } from '@nockwright/core/ids';
import type { EventFacts } from '@nockwright/contract/history';
import type { Transporter } from 'nodemailer';
import { sql, type Selectable } from 'kysely';
import { drawPaperTask, loadPaper, paperFileName } from '../documents';
import { recordEvent } from '../events';
import { loadFirm } from '../firm';
import type { CommandContext, Services } from '../http/context';
import type { Database, Db } from '../database';
import { LINK_PLACE, makeToken } from '../links';
import { CONFIDENTIAL, isPermanent, MAIL_ID } from './transport';

/** What Nockwright does of itself. */
const NOBODY = { id: 0, login: '', name: 'Nockwright', role: 'coordinator' } as const;
/** How long whoever sends a mail has it for themselves: longer than a mail server may take to answer. */
const CLAIM_SECONDS = 100;

/** As a post office says that a mail can never go: trying again does not help. */
const NO_SENDER = 550;

type Mail = Selectable<Database['mail']>;
type Fate = Mail['fates'][number];

/** Another has the mail in hand: nobody knows yet what becomes of it. */
export class InHand extends Error {
  constructor(mailId: MailId) {
    super(`mail ${mailId} is being sent by another`);
    this.name = 'InHand';
  }
}

/**
 * Hands a mail that waits to the post office. It is claimed first and sent outside of any transaction, so that a post office
 * that hangs holds nothing; what became of each recipient is kept. Where it was not taken it is tried again, unless it never
 * could be, or this was the last try. A mail that another has in hand is tried again later: should that one die, it still goes out.
 */
export async function deliverMail(
  services: Pick<Services, 'db' | 'clock' | 'jobs' | 'publicUrl' | 'work'>,
  transport: Transporter,
  mailId: MailId,
  last: boolean,
): Promise<void> {
  const { db } = services;
  const mail = await claim(db, mailId);
  if (!mail) return;
  const to = mail.recipients.filter((address) => !mail.fates.some((fate) => fate.address === address && fate.taken));
  const { fates, error } = await send(services, transport, mail, to);
  const failure = await settle(services, mail, fates, error, last);
  // Thrown behind the commit, so that what happened stays told: the queue tries again.
  if (failure) throw failure;
}

/** The mail, for this sender alone; null where nothing is to be sent. Throws InHand. */
async function claim(db: Db, mailId: MailId): Promise<Mail | null> {
  const mail = await db
    .updateTable('mail')
    .set({ claimed_until: sql`now() + make_interval(secs => ${CLAIM_SECONDS})` })
    .where('id', '=', mailId)
    .where('state', '=', 'waiting')
    .where(sql<boolean>`(claimed_until is null or claimed_until < now())`)
    .returningAll()
    .executeTakeFirst();
  if (mail) return mail;
  const known = await db.selectFrom('mail').select('state').where('id', '=', mailId).executeTakeFirst();
  if (known?.state === 'waiting') throw new InHand(mailId);
  return null;
}

/** What became of each recipient, and why the whole was not taken where it was not. */
async function send(
  { db, publicUrl, work }: Pick<Services, 'db' | 'publicUrl' | 'work'>,
  transport: Transporter,
  mail: Mail,
  to: readonly string[],
): Promise<{ readonly fates: readonly Fate[]; readonly error: unknown }> {
  try {
    const firm = await loadFirm(db);
    if (firm.email === '') throw Object.assign(new Error('the firm has no mail address yet: a manager sets it on the page Firm'), { responseCode: NO_SENDER });
    const info = (await transport.sendMail({
      from: { name: firm.name, address: firm.email },
      to: [...to],
      subject: mail.subject,
      text: await textOf(db, publicUrl, mail),
      date: mail.made_at,
      messageId: `<${mail.message_id}@${firm.email.split('@')[1]}>`,
      headers: { [MAIL_ID]: String(mail.id), ...(mail.request_id === null ? {} : { [CONFIDENTIAL]: 'yes' }) },
      attachments: await attachments(db, work, mail),
      disableFileAccess: true,
      disableUrlAccess: true,
    })) as {
      readonly rejected?: readonly (string | { readonly address: string })[];
      readonly rejectedErrors?: readonly (Error & { readonly recipient?: string })[];
    };
    const refused = new Map((info.rejected ?? []).map((row) => [typeof row === 'string' ? row : row.address, 'refused by the mail server']));
    for (const one of info.rejectedErrors ?? []) if (one.recipient) refused.set(one.recipient, one.message.slice(0, 300));
    return { fates: to.map((address) => ({ address, taken: !refused.has(address), why: refused.get(address) ?? '' })), error: null };
  } catch (error) {
    const why = (error as Error).message.slice(0, 300);
    return { fates: to.map((address) => ({ address, taken: false, why })), error };
  }
}

/** What the mail says; of a question, with a link that is for the customer alone. */
async function textOf(db: Db, publicUrl: string, { body, request_id: question }: Mail): Promise<string> {
  if (question === null) return body;
  const { answer_by } = await db.selectFrom('consent_request').select('answer_by').where('id', '=', question).executeTakeFirstOrThrow();
  return body.replace(LINK_PLACE, `${publicUrl}/answer/${await makeToken(db, question, answer_by)}`);
}

/** Keeps what became of it. Gives the error where it is to be tried again. */
async function settle(
  { db, clock, jobs, publicUrl }: Pick<Services, 'db' | 'clock' | 'jobs' | 'publicUrl'>,
  mail: Mail,
  fates: readonly Fate[],
  error: unknown,
  last: boolean,
): Promise<unknown> {
  const now = clock();
  const all = [...mail.fates.filter((old) => !fates.some((fate) => fate.address === old.address)), ...fates];
  const refused = all.filter((fate) => !fate.taken && mail.recipients.includes(fate.address));
  const again = error !== null && !last && !isPermanent(error);
  const state = refused.length === 0 ? 'sent' : again ? 'waiting' : 'failed';
  const fault =
    error !== null
      ? (error as Error).message.slice(0, 1000)
      : refused
          .map((fate) => `${fate.address}: ${fate.why}`)
          .join('; ')
          .slice(0, 1000);
  const subjects = [subjectOf(mail), { kind: 'mail', key: mail.id } as const];
  const taken = all.filter((fate) => fate.taken).map((fate) => fate.address);
  const happening: EventFacts =
    taken.length > 0
      ? { kind: 'mail.sent', facts: { subject: mail.subject, taken, refused: refused.map((fate) => fate.address) } }
      : { kind: 'mail.not_taken', facts: { subject: mail.subject, again } };
  await db.transaction().execute(async (trx) => {
    const context: CommandContext = { trx, user: NOBODY, now, jobs, publicUrl, afterCommit: () => undefined };
    await trx
      .updateTable('mail')
      .set({
        attempts: mail.attempts + 1,
        fault,
        state,
        fates: JSON.stringify(all),
        claimed_until: null,
        ...(state === 'sent' ? { sent_at: now.instant } : {}),
      })
      .where('id', '=', mail.id)
      .execute();
    await recordEvent(context, { ...happening, why: fault, subjects });
  });
  return again ? error : null;
}

/** The order or the purchase that a mail is about. */
export function subjectOf(mail: { readonly order_id: OrderId | null; readonly purchase_id: PurchaseId | null }) {
  return mail.order_id === null ? ({ kind: 'purchase', key: mail.purchase_id! } as const) : ({ kind: 'order', key: mail.order_id } as const);
}

/** Has a job made for every mail that waits without one: its job was lost, or ended while the mail was in another's hand. */
export async function sweepMail({ db, jobs }: Pick<Services, 'db' | 'jobs'>): Promise<number> {
  return db.transaction().execute(async (trx) => {
    const { rows } = await sql<{ id: number }>`
      select id from mail where state = 'waiting' and (claimed_until is null or claimed_until < now())
        and not exists (select from job_queue.job j where j.name = 'mail' and j.state < 'completed' and (j.data->>'mail')::int = mail.id)
      for no key update skip locked limit 100`.execute(trx);
    for (const { id } of rows) await jobs.send(trx, 'mail', { mail: id });
    return rows.length;
  });
}

async function attachments(db: Db, work: Services['work'], { id: mailId, document_id: paperId, made_by: user }: Mail) {
  const paper = paperId === null ? null : await loadPaper(db, paperId);
  const files = await db
    .selectFrom('mail_file')
    .innerJoin('order_file', 'order_file.id', 'mail_file.file_id')
    .select(['name', 'media', 'content'])
    .where('mail_id', '=', mailId)
    .orderBy('order_file.id')
    .execute();
  return [
    ...(paper ? [{ filename: paperFileName(paper), contentType: 'application/pdf', content: Buffer.from(await work.run(drawPaperTask, paper, user)) }] : []),
    ...files.map(({ name, media, content }) => ({ filename: name, contentType: media, content })),
  ];
}
