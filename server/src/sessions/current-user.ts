import type { Role } from '@nockwright/contract/shape';
import type { Context } from 'hono';
import { getCookie } from 'hono/cookie';
import type { CurrentUser, Services } from '../http/context';
import { Refusal } from '../http/refusal';
import { findSession, SESSION_COOKIE } from './sessions';

const NOBODY: CurrentUser = { id: 0, login: '', name: 'nobody', role: 'coordinator' };

/** Who sends the request. Refuses who is not logged in or whose role may not. */
export async function currentUser(c: Context, services: Pick<Services, 'db'>, roles: readonly Role[] | 'public'): Promise<CurrentUser> {
  if (roles === 'public') return NOBODY;
  const token = getCookie(c, SESSION_COOKIE);
  // Sessions end by the wall clock, also where the application's day is fixed.
  const user = token ? await findSession(services.db, token, new Date()) : null;
  if (!user) throw new Refusal('not-logged-in', 'You are not logged in, or your session has ended.');
  if (!roles.includes(user.role)) throw new Refusal('not-allowed', `This needs the role ${roles.join(' or ')}; yours is ${user.role}.`);
  return user;
}
