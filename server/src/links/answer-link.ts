import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Db } from '../database';

/*
 * A link that lets a customer answer one question, once: the number of the question, its last day, sixteen random bytes,
 * and a signature over these with a key only this house has. It is made when its mail goes out, and nowhere kept: the database
 * has a hash of it, so that nobody who reads it, or a mail on the screen, can answer for a customer. A mail that is tried again
 * has another link; each of them works until the question is answered.
 */

/** Where the link comes in a mail's text; it is what everybody but the customer sees. */
export const LINK_PLACE = '[a link that only the customer sees]';

const KEY = 'link_key';
const NONCE_BYTES = 16;
const FORM = /^(\d{1,10})-(\d{8})-([A-Za-z0-9_-]{22})-([A-Za-z0-9_-]{43})$/;

/** A new link's token; what is kept of it is its hash. `lastDay`: `YYYY-MM-DD`. */
export async function makeToken(db: Db, question: number, lastDay: string): Promise<string> {
  const body = `${question}-${lastDay.replaceAll('-', '')}-${randomBytes(NONCE_BYTES).toString('base64url')}`;
  const token = `${body}-${signature(await linkKey(db), body)}`;
  await db
    .insertInto('answer_link')
    .values({ hash: hashOf(token), request_id: question })
    .execute();
  return token;
}

/** The question a token is for and its last day; null where it was not made here, was altered, or is not known any more. */
export async function readToken(db: Db, token: string): Promise<{ readonly question: number; readonly lastDay: string } | null> {
  const match = FORM.exec(token);
  if (!match) return null;
  const [, question, day, nonce, given] = match as unknown as [string, string, string, string, string];
  const expected = signature(await linkKey(db), `${question}-${day}-${nonce}`);
  if (!timingSafeEqual(Buffer.from(given), Buffer.from(expected))) return null;
  const known = await db
    .selectFrom('answer_link')
    .select('request_id')
    .where('hash', '=', hashOf(token))
    .where('request_id', '=', Number(question))
    .executeTakeFirst();
  return known ? { question: known.request_id, lastDay: `${day.slice(0, 4)}-${day.slice(4, 6)}-${day.slice(6)}` } : null;
}

function signature(key: string, body: string): string {
  return createHmac('sha256', key).update(body).digest('base64url');
}

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}

async function linkKey(db: Db): Promise<string> {
  const read = () => db.selectFrom('desk_setting').select('value').where('name', '=', KEY).executeTakeFirst();
  const known = await read();
  if (known) return known.value as string;
  await db
    .insertInto('desk_setting')
    .values({ name: KEY, value: JSON.stringify(randomBytes(32).toString('base64url')) })
    .onConflict((conflict) => conflict.doNothing())
    .execute();
  return (await read())!.value as string;
}
