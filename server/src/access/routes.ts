import { hash, verify } from '@node-rs/argon2';
import { accessRoutes, type User } from '@nockwright/contract/access';
import type { Context, Hono } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import type { Db } from '../database';
import type { CurrentUser, Services } from '../http/context';
import { mountQuery } from '../http/mount';
import { invalid, Refusal } from '../http/refusal';
import { closeSession, currentUser, openSession, SESSION_COOKIE, SESSION_HOURS } from '../sessions';

const WINDOW_MINUTES = 15;
const MOST_FAILURES_OF_A_LOGIN = 8;
const MOST_FAILURES_OF_AN_ADDRESS = 40;

export function mountAccess(app: Hono, services: Services): void {
  const { db, clock, secureCookies } = services;
  const toUser = ({ login, name, role }: CurrentUser): User => ({ login, name, role, today: clock().today });

  app.post(`/api${accessRoutes.logIn.path}`, async (c) => {
    const { login, password } = await readCredentials(c);
    const user = await logIn(db, login, password, addressOf(c), new Date());
    const token = await openSession(db, user.id, new Date());
    setCookie(c, SESSION_COOKIE, token, { httpOnly: true, sameSite: 'Strict', secure: secureCookies, path: '/', maxAge: SESSION_HOURS * 3600 });
    return c.json(toUser(user));
  });
  app.post(`/api${accessRoutes.logOut.path}`, async (c) => {
    await currentUser(c, services, accessRoutes.logOut.roles);
    await closeSession(db, getCookie(c, SESSION_COOKIE)!);
    deleteCookie(c, SESSION_COOKIE, { path: '/' });
    return c.json({ loggedOut: true });
  });
  mountQuery(app, services, accessRoutes.whoAmI, async ({ user }) => toUser(user));
}

/** Verified against when there is no such user, so that the answer takes as long and tells nothing. */
const decoy = hash('nobody has this password');

async function logIn(db: Db, login: string, password: string, address: string, at: Date): Promise<CurrentUser> {
  const since = new Date(at.getTime() - WINDOW_MINUTES * 60_000);
  const { ofLogin, ofAddress } = await db
    .selectFrom('failed_log_in')
    .select(({ fn }) => [
      fn.countAll<number>().filterWhere('login', '=', login).as('ofLogin'),
      fn.countAll<number>().filterWhere('address', '=', address).as('ofAddress'),
    ])
    .where('at', '>', since)
    .executeTakeFirstOrThrow();
  if (ofLogin >= MOST_FAILURES_OF_A_LOGIN || ofAddress >= MOST_FAILURES_OF_AN_ADDRESS)
    throw new Refusal('too-many', `Too many failed attempts; wait ${WINDOW_MINUTES} minutes and try again.`);
  const user = await db.selectFrom('app_user').selectAll().where('login', '=', login).executeTakeFirst();
  const right = await verify(user?.password_hash ?? (await decoy), password);
  if (!user || !right) {
    await db.insertInto('failed_log_in').values({ login, address, at }).execute();
    throw new Refusal('wrong-log-in', 'Name or password is wrong.');
  }
  await db.deleteFrom('failed_log_in').where('login', '=', login).execute();
  return { id: user.id, login: user.login, name: user.name, role: user.role };
}

async function readCredentials(c: Context) {
  const body: unknown = await c.req.json().catch(() => null);
  const { error, value } = accessRoutes.logIn.body!.schema.validate(body ?? {}, { abortEarly: false, errors: { label: false } });
  if (error)
    throw new Refusal(
      'invalid',
      error.message,
      error.details.map(({ path, message }) => ({ field: ['body', ...path].join('.'), message })),
    );
  const { login, password } = value as { login: string; password: string };
  if (!login) throw invalid('body.login', 'missing');
  return { login: login.toLowerCase(), password };
}

function addressOf(c: Context): string {
  const env = c.env as { incoming?: { socket?: { remoteAddress?: string } } } | undefined;
  return env?.incoming?.socket?.remoteAddress ?? 'unknown';
}
