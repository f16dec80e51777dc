import type { UserId } from '@nockwright/core/ids';
import { day, flag, get, history, id, integer, list, moment, note, nullable, object, oneOf, optional, post, put, ROLES, secret, text, type Of } from '../shape';

const role = oneOf('coordinator', 'warehouse', 'finance', 'manager');

/** Who is logged in, and the day the application takes for today. */
export const user = object({
  login: text(),
  name: text(),
  role,
  today: day(),
  /** Who keeps the desk, and what its amounts are in. */
  firm: object({ name: text(80), currency: text(3) }),
  /** Somebody else knows their password: they choose one before anything else. */
  mustChangePassword: flag(),
});
export type User = Of<typeof user>;

/** A browser somebody is logged in with. */
const openSession = object({
  id: id(),
  /** The browser and its system, as it says itself. */
  from: note(200),
  openedAt: moment(),
  seenAt: moment(),
  /** The one that asks. */
  here: flag(),
});
export type OpenSession = Of<typeof openSession>;

const account = object({
  id: id(),
  login: text(),
  name: text(),
  role,
  disabled: flag(),
  secondFactor: flag(),
  mustChangePassword: flag(),
  sessions: list(openSession),
  version: integer(),
});
export type Account = Of<typeof account>;

/** `key`: base32, as it is typed into a program for time codes; `address`: the same as that program reads it. */
const secondFactor = object({ active: flag(), begun: nullable(object({ key: text(), address: text(500) })) });
export type SecondFactor = Of<typeof secondFactor>;

const MANAGER = ['manager'] as const;
const userId = object({ user: id<UserId>() });
const done = object({ done: flag() });

export const accessRoutes = {
  logIn: post('/login', {
    summary: 'Log in; sets the session cookie',
    roles: 'public',
    body: object({ login: text(60), password: secret(), code: optional(note(12)) }),
    reply: user,
  }),
  logOut: post('/logout', { summary: 'Log out; ends the session', roles: ROLES, reply: object({ loggedOut: flag() }) }),
  whoAmI: get('/me', { summary: 'Who is logged in', roles: ROLES, reply: user }),
  changePassword: post('/me/password', {
    summary: 'Change one’s password; every other session of it ends',
    roles: ROLES,
    body: object({ old: secret(), password: secret() }),
    reply: done,
  }),
  ownSessions: get('/me/sessions', { summary: 'One’s own sessions', roles: ROLES, reply: list(openSession) }),
  endOwnSession: post('/me/sessions/{session}/end', {
    summary: 'End one of one’s sessions',
    roles: ROLES,
    params: object({ session: id() }),
    body: object({}),
    reply: list(openSession),
  }),
  readSecondFactor: get('/me/second-factor', { summary: 'Whether the second factor is on', roles: ROLES, reply: secondFactor }),
  beginSecondFactor: post('/me/second-factor', {
    summary: 'Set up the second factor, time codes by RFC 6238; the key is shown until a first code is given',
    roles: ROLES,
    body: object({ password: secret() }),
    reply: done,
  }),
  confirmSecondFactor: post('/me/second-factor/confirm', {
    summary: 'Turn the second factor on with a first code',
    roles: ROLES,
    body: object({ code: text(12) }),
    reply: done,
  }),
  endSecondFactor: post('/me/second-factor/end', { summary: 'Turn the second factor off', roles: ROLES, body: object({ password: secret() }), reply: done }),
  listUsers: get('/users', { summary: 'Who may log in, and where they are', roles: MANAGER, reply: list(account) }),
  createUser: post('/users', {
    summary: 'Create a user; they change the password at their first log-in',
    roles: MANAGER,
    body: object({ login: text(40), name: text(80), role, password: secret() }),
    reply: account,
  }),
  changeUser: put('/users/{user}', {
    summary: 'Edit a user’s name or role, or disable them: their sessions end',
    roles: MANAGER,
    params: userId,
    body: object({ version: integer(), name: optional(text(80)), role: optional(role), disabled: optional(flag()) }),
    reply: account,
  }),
  resetPassword: post('/users/{user}/password', {
    summary: 'Reset a user’s password; they change it at their next log-in, and their sessions end',
    roles: MANAGER,
    params: userId,
    body: object({ password: secret() }),
    reply: account,
  }),
  removeSecondFactor: post('/users/{user}/second-factor/end', {
    summary: 'Remove the second factor of a user who has lost it',
    roles: MANAGER,
    params: userId,
    body: object({}),
    reply: account,
  }),
  endSessions: post('/users/{user}/sessions/end', {
    summary: 'End a user’s sessions: one, or all',
    roles: MANAGER,
    params: userId,
    body: object({ session: optional(id()) }),
    reply: account,
  }),
  userHistory: get('/users/{user}/history', { summary: 'What happened to a user', roles: MANAGER, params: userId, reply: history }),
};
