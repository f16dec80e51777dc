import type { UserId } from '@nockwright/core/ids';
import { createHash, randomBytes } from 'node:crypto';
import type { Db } from '../database';

/** Over TLS browsers take it only with Secure. It is sent to the log-in alone, so that it is none of the whole host. */
export function deviceCookie(secure: boolean): string {
  return secure ? '__Secure-nock_device' : 'nock_device';
}
export const DEVICE_DAYS = 365;

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** Which of a user's known browsers holds this; null where it is none of theirs. */
export async function findDevice(db: Db, login: string, token: string | undefined): Promise<string | null> {
  if (!token) return null;
  const row = await db
    .selectFrom('known_device')
    .innerJoin('app_user', 'app_user.id', 'known_device.user_id')
    .select('token_hash')
    .where('token_hash', '=', hashOf(token))
    .where('login', '=', login)
    .executeTakeFirst();
  return row?.token_hash ?? null;
}

/** Knows a browser from now on; gives what it is to hold. */
export async function knowDevice(db: Db, userId: UserId, at: Date): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await db
    .insertInto('known_device')
    .values({ token_hash: hashOf(token), user_id: userId, seen_at: at })
    .execute();
  return token;
}
