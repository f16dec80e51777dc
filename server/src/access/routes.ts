import { hash, verify } from '@node-rs/argon2';
import { accessRoutes, type User } from '@nockwright/contract/access';
import type { Context, Hono } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import type { Db } from '../database';
import type { CurrentUser, Services } from '../http/context';
import { addressOf } from '../http/client-address';
import { mountQuery } from '../http/mount';
import { invalid, Refusal } from '../http/refusal';
import { closeSession, currentUser, openSession, SESSION_COOKIE, SESSION_HOURS } from '../sessions';
import { DEVICE_COOKIE, DEVICE_DAYS, findDevice, knowDevice } from './known-device';
import { forgetFailures, noteFailure, secondsToWait, type Trier } from './log-in-delay';

export function mountAccess(app: Hono, services: Services): void {
  const { db, clock, secureCookies, trustedProxies } = services;
  const toUser = ({ login, name, role }: CurrentUser): User => ({ login, name, role, today: clock().today });

  app.post(`/api${accessRoutes.logIn.path}`, async (c) => {
    const { login, password } = await readCredentials(c);
    const now = new Date();
    const device = await findDevice(db, login, getCookie(c, DEVICE_COOKIE));
    const user = await logIn(db, { login, address: addressOf(c, trustedProxies), device }, password, now).catch((error: unknown) => {
      if (error instanceof TooMany) c.header('Retry-After', String(error.seconds));
      throw error;
    });
    const token = await openSession(db, user.id, now);
    setCookie(c, SESSION_COOKIE, token, { httpOnly: true, sameSite: 'Strict', secure: secureCookies, path: '/', maxAge: SESSION_HOURS * 3600 });
    if (device === null)
      setCookie(c, DEVICE_COOKIE, await knowDevice(db, user.id, now), {
        httpOnly: true,
        sameSite: 'Strict',
        secure: secureCookies,
        path: '/api/login',
        maxAge: DEVICE_DAYS * 86_400,
      });
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

async function logIn(db: Db, trier: Trier, password: string, at: Date): Promise<CurrentUser> {
  const seconds = await secondsToWait(db, trier, at);
  if (seconds > 0) throw new TooMany(seconds);
  const user = await db.selectFrom('app_user').selectAll().where('login', '=', trier.login).executeTakeFirst();
  const right = await verify(user?.password_hash ?? (await decoy), password);
  if (!user || !right) {
    await noteFailure(db, trier, at);
    throw new Refusal('wrong-log-in', 'Name or password is wrong.');
  }
  await forgetFailures(db, trier);
  return { id: user.id, login: user.login, name: user.name, role: user.role };
}

/** Too many tries: for how long none is looked at. */
class TooMany extends Refusal {
  constructor(readonly seconds: number) {
    super('too-many', `Too many failed attempts; wait ${seconds} ${seconds === 1 ? 'second' : 'seconds'} and try again.`);
  }
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
