import { day, flag, get, object, oneOf, post, ROLES, secret, text, type Of } from '../shape';

/** Who is logged in, and the day the application takes for today. */
export const user = object({ login: text(), name: text(), role: oneOf('coordinator', 'warehouse', 'finance', 'manager'), today: day() });
export type User = Of<typeof user>;

export const accessRoutes = {
  logIn: post('/login', { summary: 'Log in; sets the session cookie', roles: 'public', body: object({ login: text(60), password: secret() }), reply: user }),
  logOut: post('/logout', { roles: ROLES, summary: 'Log out; ends the session', reply: object({ loggedOut: flag() }) }),
  whoAmI: get('/me', { roles: ROLES, summary: 'Who is logged in', reply: user }),
};
