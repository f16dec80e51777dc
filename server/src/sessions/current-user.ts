import type { Role } from '@nockwright/contract/shape';
import type { Context } from 'hono';
import type { CurrentUser, Services } from '../http/context';
import { Refusal } from '../http/refusal';
import { findSession, sessionHash } from './sessions';

const NOBODY: CurrentUser = { id: 0, login: '', name: 'nobody', role: 'coordinator' };

/** What somebody may do whose password another knows: choose one of their own, or leave. */
const BEFORE_A_PASSWORD = new Set(['/api/me', '/api/me/password', '/api/logout']);

/** Who sends the request. Refuses who is not logged in, whose role may not, or who has to choose a password first. */
export async function currentUser(c: Context, services: Pick<Services, 'db' | 'secureCookies'>, roles: readonly Role[] | 'public'): Promise<CurrentUser> {
  if (roles === 'public') return NOBODY;
  // Sessions end by the wall clock, also where the application's day is fixed.
  const found = await findSession(services.db, sessionHash(c, services.secureCookies), new Date());
  if (!found) throw new Refusal('not-logged-in', 'You are not logged in, or your session has ended.');
  const { mustChangePassword, ...user } = found;
  if (mustChangePassword && !BEFORE_A_PASSWORD.has(c.req.path)) throw new Refusal('password-due', 'Change your password first.');
  if (!roles.includes(user.role)) throw new Refusal('not-allowed', `This needs the role ${roles.join(' or ')}; yours is ${user.role}.`);
  return user;
}
