import { createHash, randomBytes } from 'node:crypto';
import type { Context } from 'hono';
import { getCookie } from 'hono/cookie';
import type { Db } from '../database';
import { notify } from '../events';
import type { CurrentUser } from '../http/context';

export const SESSION_COOKIE = 'nock_session';
export const SESSION_HOURS = 12;

/** Only its hash is kept: who reads the table cannot log in with it. */
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** Opens a session for a user and gives its token, to be sent as the cookie. */
export async function openSession(db: Db, userId: number, at: Date): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await db.deleteFrom('session').where('expires_at', '<', at).execute();
  await db
    .insertInto('session')
    .values({ token_hash: hashOf(token), user_id: userId, expires_at: new Date(at.getTime() + SESSION_HOURS * 3_600_000) })
    .execute();
  return token;
}

export async function findSession(db: Db, token: string, at: Date): Promise<CurrentUser | null> {
  const user = await db
    .selectFrom('session')
    .innerJoin('app_user', 'app_user.id', 'session.user_id')
    .select(['app_user.id', 'login', 'name', 'role'])
    .where('token_hash', '=', hashOf(token))
    .where('expires_at', '>', at)
    .executeTakeFirst();
  return user ?? null;
}

/** What tells every server process that a session has ended: its live events end with it. */
export const SESSION_TOPIC = 'session:';

export function sessionTopic(c: Context): string {
  return `${SESSION_TOPIC}${hashOf(getCookie(c, SESSION_COOKIE) ?? '')}`;
}

export async function closeSession(db: Db, token: string): Promise<void> {
  await notify(db, [`${SESSION_TOPIC}${hashOf(token)}`]);
  await db.deleteFrom('session').where('token_hash', '=', hashOf(token)).execute();
}
