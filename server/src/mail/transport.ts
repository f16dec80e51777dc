import nodemailer, { type Transport, type Transporter } from 'nodemailer';
import type SMTPTransport from 'nodemailer/lib/smtp-transport';
import { mkdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Db } from '../database';
import { readPostOffice } from './post-office';

const TIMEOUT_MS = 25_000;

/** Which mail a message is of; handed to the transport with it. */
export const MAIL_ID = 'X-Nockwright-Mail';
/** On a message that nobody but its recipients may read: the stand-in keeps no copy of it. */
export const CONFIDENTIAL = 'X-Nockwright-Confidential';

/** A name that is never given to anybody. Source: RFC 2606, section 2. */
const NOBODY = /\.invalid$/i;

/**
 * What mail is handed to: a real server where there is an SMTP address, else the stand-in post office, which keeps each
 * message as it would have gone over the wire, and puts it into a folder where there is one, as into the recipient's mailbox.
 * The stand-in refuses what a real one would: addresses that cannot exist,
 * for good, and everything while it is closed.
 */
export function createTransport(db: Db, smtp: string | undefined, mailbox?: string): Transporter {
  // A mail server that hangs is given up before the claim on the mail ends.
  return smtp
    ? nodemailer.createTransport({ url: smtp, connectionTimeout: TIMEOUT_MS, greetingTimeout: TIMEOUT_MS, socketTimeout: TIMEOUT_MS } as SMTPTransport.Options)
    : nodemailer.createTransport(postOffice(db, mailbox));
}

function postOffice(db: Db, mailbox: string | undefined): Transport {
  return {
    name: 'stand-in post office',
    version: '1',
    send: (mail, done) => {
      const { from, to } = mail.message.getEnvelope();
      const headers = (mail.data.headers ?? {}) as Record<string, string>;
      const id = Number(headers[MAIL_ID]);
      const take = async () => {
        if (!(await readPostOffice(db))) throw refusal(421, 'the post office is closed, try again later');
        const rejected = to.filter((address) => NOBODY.test(address));
        const accepted = to.filter((address) => !NOBODY.test(address));
        if (accepted.length === 0) throw refusal(550, `nobody is called ${rejected.join(', ')}`);
        const message = await mail.message.build();
        if (mailbox) await drop(mailbox, id, message);
        if (headers[CONFIDENTIAL] === undefined)
          await db
            .insertInto('outbox_message')
            .values({ mail_id: id, at: new Date(), sender: from || '', recipients: accepted, message })
            .execute();
        return { envelope: { from, to }, messageId: mail.message.messageId(), accepted, rejected, pending: [], response: '250 taken' };
      };
      take().then(
        (info) => done(null, info),
        (error: Error) => done(error, null as never),
      );
    },
  };
}

/** Puts a message where its recipients would find it, whole at once. */
async function drop(mailbox: string, id: number, message: Buffer): Promise<void> {
  await mkdir(mailbox, { recursive: true });
  const name = `mail-${id}.eml`;
  await writeFile(join(mailbox, `.${name}`), message, { mode: 0o600 });
  await rename(join(mailbox, `.${name}`), join(mailbox, name));
}

/** As a server answers: 4yz may do later, 5yz never. Source: RFC 5321, section 4.2.1. */
function refusal(responseCode: number, message: string): Error {
  return Object.assign(new Error(`${responseCode} ${message}`), { responseCode });
}

/** Whether trying again is of no use. */
export function isPermanent(error: unknown): boolean {
  const code = (error as { responseCode?: number }).responseCode;
  return code !== undefined && code >= 500;
}
