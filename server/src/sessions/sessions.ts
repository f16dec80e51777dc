import type { UserId } from '@nockwright/core/ids';
import { createHash, randomBytes } from 'node:crypto';
import type { OpenSession } from '@nockwright/contract/access';
import type { Context } from 'hono';
import { getCookie } from 'hono/cookie';
import { sql } from 'kysely';
import { anyOf, type Db } from '../database';
import { notify } from '../events';
import type { CurrentUser } from '../http/context';

export const SESSION_HOURS = 12;
/** That a session is used is noted no oftener. */
const SEEN_MINUTES = 5;

/**
 * What the cookie of a session is called. Over TLS it has the prefix that browsers take only with Secure, for the whole host and
 * for no other. Source: RFC 6265bis, section 4.1.3.2.
 */
export function sessionCookie(secure: boolean): string {
  return secure ? '__Host-nock_session' : 'nock_session';
}

/** Only its hash is kept: who reads the table cannot log in with it. */
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** The hash of the session a request comes with, by which it is known here; of no session, one that nobody has. */
export function sessionHash(c: Context, secure: boolean): string {
  return hashOf(getCookie(c, sessionCookie(secure)) ?? '');
}

/** Opens a session for a user and gives its token, to be sent as the cookie. `device`: what the browser says it is. */
export async function openSession(db: Db, userId: UserId, at: Date, device: string): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await db.deleteFrom('session').where('expires_at', '<', at).execute();
  await db
    .insertInto('session')
    .values({ token_hash: hashOf(token), user_id: userId, expires_at: new Date(at.getTime() + SESSION_HOURS * 3_600_000), opened_at: at, seen_at: at, device })
    .execute();
  // Who keeps the users sees where they are.
  await notify(db, [`user:${userId}`]);
  return token;
}

/** Who has a session, and whether they have to choose a password first. Null where it has ended, or they are shut out. */
export async function findSession(db: Db, hash: string, at: Date): Promise<(CurrentUser & { readonly mustChangePassword: boolean }) | null> {
  const user = await db
    .selectFrom('session')
    .innerJoin('app_user', 'app_user.id', 'session.user_id')
    .select(['app_user.id', 'login', 'name', 'role', 'must_change_password as mustChangePassword', 'seen_at'])
    .where('token_hash', '=', hash)
    .where('expires_at', '>', at)
    .where('disabled_at', 'is', null)
    .executeTakeFirst();
  if (!user) return null;
  const { seen_at, ...found } = user;
  if (at.getTime() - seen_at.getTime() > SEEN_MINUTES * 60_000) await db.updateTable('session').set({ seen_at: at }).where('token_hash', '=', hash).execute();
  return found;
}

/** The open sessions of users, the one used last first. `here`: the hash of the one that asks. */
export async function listSessions(db: Db, users: readonly number[], here = ''): Promise<ReadonlyMap<number, OpenSession[]>> {
  const rows = await db
    .selectFrom('session')
    .selectAll()
    .where(anyOf('user_id', users))
    .where('expires_at', '>', sql<Date>`now()`)
    .orderBy('seen_at', 'desc')
    .execute();
  const byUser = new Map<number, OpenSession[]>();
  for (const row of rows) {
    const one = { id: row.id, from: row.device, openedAt: row.opened_at.toISOString(), seenAt: row.seen_at.toISOString(), here: row.token_hash === here };
    byUser.set(row.user_id, [...(byUser.get(row.user_id) ?? []), one]);
  }
  return byUser;
}

/** What tells every server process that a session has ended: its live events end with it. */
export const SESSION_TOPIC = 'session:';

export function sessionTopic(hash: string): string {
  return `${SESSION_TOPIC}${hash}`;
}

/** Ends sessions of a user: all, only one (by its number), or all but one (by its hash). Gives how many. */
export async function endSessions(db: Db, userId: UserId, which: { readonly only?: number; readonly but?: string } = {}): Promise<number> {
  let query = db.deleteFrom('session').where('user_id', '=', userId);
  if (which.only !== undefined) query = query.where('id', '=', which.only);
  if (which.but !== undefined) query = query.where('token_hash', '<>', which.but);
  const ended = await query.returning('token_hash').execute();
  if (ended.length > 0)
    await notify(
      db,
      ended.map((row) => sessionTopic(row.token_hash)),
    );
  return ended.length;
}

export async function closeSession(db: Db, hash: string): Promise<void> {
  await notify(db, [sessionTopic(hash)]);
  await db.deleteFrom('session').where('token_hash', '=', hash).execute();
}
