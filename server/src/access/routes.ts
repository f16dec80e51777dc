import { accessRoutes, type User } from '@nockwright/contract/access';
import type { Context, Hono } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import type { Db } from '../database';
import { readHistory } from '../events';
import { loadFirm } from '../firm';
import type { CurrentUser, Services } from '../http/context';
import { addressOf } from '../http/client-address';
import { mountCommand, mountQuery } from '../http/mount';
import { invalid, Refusal } from '../http/refusal';
import { closeSession, currentUser, openSession, SESSION_HOURS, sessionCookie, sessionHash } from '../sessions';
import { deviceCookie, DEVICE_DAYS, findDevice, knowDevice } from './known-device';
import { forgetFailures, noteFailure, secondsToWait, type Trier } from './log-in-delay';
import { beginSecondFactor, changePassword, confirmSecondFactor, endOwnSession, endSecondFactor, ownSessions, readSecondFactor } from './own-account';
import { isRight } from './passwords';
import { stepOf } from './second-factor';
import { changeUser, createUser, endUserSessions, listUsers, readUser, removeSecondFactor, resetPassword } from './users';

/** Of what a browser says of itself, so much is kept. */
const MOST_DEVICE = 200;

export function mountAccess(app: Hono, services: Services): void {
  const { db, secureCookies } = services;
  mountLogIn(app, services);
  app.post(`/api${accessRoutes.logOut.path}`, async (c) => {
    await currentUser(c, services, accessRoutes.logOut.roles);
    await closeSession(db, sessionHash(c, secureCookies));
    deleteCookie(c, sessionCookie(secureCookies), { path: '/', secure: secureCookies });
    return c.json({ loggedOut: true });
  });
  mountQuery(app, services, accessRoutes.whoAmI, async ({ db, user, now }) => {
    const { must_change_password } = await db.selectFrom('app_user').select('must_change_password').where('id', '=', user.id).executeTakeFirstOrThrow();
    return toUser(user, must_change_password, now.today, await loadFirm(db));
  });

  mountCommand(app, services, accessRoutes.changePassword, (context, { body }) => changePassword(context, context.session, body.old, body.password));
  mountQuery(app, services, accessRoutes.ownSessions, ({ db, user, session }) => ownSessions(db, user.id, session));
  mountCommand(app, services, accessRoutes.endOwnSession, (context, { params }) => endOwnSession(context, context.session, params.session));
  mountQuery(app, services, accessRoutes.readSecondFactor, ({ db, user }) => readSecondFactor(db, user));
  mountCommand(app, services, accessRoutes.beginSecondFactor, (context, { body }) => beginSecondFactor(context, body.password));
  mountCommand(app, services, accessRoutes.confirmSecondFactor, (context, { body }) => confirmSecondFactor(context, body.code));
  mountCommand(app, services, accessRoutes.endSecondFactor, (context, { body }) => endSecondFactor(context, body.password));

  mountQuery(app, services, accessRoutes.listUsers, ({ db }) => listUsers(db));
  mountCommand(app, services, accessRoutes.createUser, (context, { body }) => createUser(context, body));
  mountCommand(app, services, accessRoutes.changeUser, (context, { params, body }) => changeUser(context, params.user, body));
  mountCommand(app, services, accessRoutes.resetPassword, (context, { params, body }) => resetPassword(context, params.user, body.password));
  mountCommand(app, services, accessRoutes.removeSecondFactor, (context, { params }) => removeSecondFactor(context, params.user));
  mountCommand(app, services, accessRoutes.endSessions, (context, { params, body }) => endUserSessions(context, params.user, body.session));
  mountQuery(app, services, accessRoutes.userHistory, async ({ db }, { params }) => {
    await readUser(db, params.user);
    return readHistory(db, 'user', params.user);
  });
}

function toUser({ login, name, role }: CurrentUser, mustChangePassword: boolean, today: string, firm: User['firm']): User {
  return { login, name, role, today, firm: { name: firm.name, currency: firm.currency }, mustChangePassword };
}

function mountLogIn(app: Hono, services: Services): void {
  const { db, clock, secureCookies, trustedProxies } = services;
  app.post(`/api${accessRoutes.logIn.path}`, async (c) => {
    const { login, password, code } = await readCredentials(c);
    const now = new Date();
    const device = await findDevice(db, login, getCookie(c, deviceCookie(secureCookies)));
    const { user, mustChangePassword } = await logIn(db, { login, address: addressOf(c, trustedProxies), device }, password, code, now).catch(
      (error: unknown) => {
        if (error instanceof TooMany) c.header('Retry-After', String(error.seconds));
        throw error;
      },
    );
    const token = await openSession(db, user.id, now, (c.req.header('User-Agent') ?? '').slice(0, MOST_DEVICE));
    setCookie(c, sessionCookie(secureCookies), token, { httpOnly: true, sameSite: 'Strict', secure: secureCookies, path: '/', maxAge: SESSION_HOURS * 3600 });
    if (device === null)
      setCookie(c, deviceCookie(secureCookies), await knowDevice(db, user.id, now), {
        httpOnly: true,
        sameSite: 'Strict',
        secure: secureCookies,
        path: '/api/login',
        maxAge: DEVICE_DAYS * 86_400,
      });
    return c.json(toUser(user, mustChangePassword, clock().today, await loadFirm(db)));
  });
}

async function logIn(
  db: Db,
  trier: Trier,
  password: string,
  code: string,
  at: Date,
): Promise<{ readonly user: CurrentUser; readonly mustChangePassword: boolean }> {
  const seconds = await secondsToWait(db, trier, at);
  if (seconds > 0) throw new TooMany(seconds);
  const user = await db.selectFrom('app_user').selectAll().where('login', '=', trier.login).where('disabled_at', 'is', null).executeTakeFirst();
  const wrong = async (refusal: Refusal) => {
    await noteFailure(db, trier, at);
    return refusal;
  };
  if (!(await isRight(user?.password_hash, password)) || !user) throw await wrong(new Refusal('wrong-log-in', 'Name or password is wrong.'));
  // Asking for the code is no failure: they know the password, and have not given one yet.
  if (user.totp_key !== null && code === '') throw new Refusal('code-needed', 'Enter the six-digit code from your authenticator app.');
  if (user.totp_key !== null && !(await takeCode(db, { ...user, totp_key: user.totp_key }, code, at)))
    throw await wrong(new Refusal('code-needed', 'The code is wrong or was used already. Wait for the next code.'));
  await forgetFailures(db, trier);
  return { user: { id: user.id, login: user.login, name: user.name, role: user.role }, mustChangePassword: user.must_change_password };
}

/** Whether a code is the one of now. It counts once: of two who send it at the same time one is too late. */
async function takeCode(
  db: Db,
  user: { readonly id: number; readonly totp_key: string; readonly totp_last_step: number | null },
  code: string,
  at: Date,
): Promise<boolean> {
  const step = stepOf(user.totp_key, code, at.getTime(), user.totp_last_step);
  if (step === null) return false;
  const { numUpdatedRows } = await db
    .updateTable('app_user')
    .set({ totp_last_step: step })
    .where('id', '=', user.id)
    .where(({ or, eb }) => or([eb('totp_last_step', 'is', null), eb('totp_last_step', '<', step)]))
    .executeTakeFirstOrThrow();
  return numUpdatedRows === 1n;
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
  const { login, password, code = '' } = value as { login: string; password: string; code?: string };
  if (!login) throw invalid('body.login', 'missing');
  return { login: login.toLowerCase(), password, code };
}
