import { accessRoutes, type Account } from '@nockwright/contract/access';
import { ROLES, type BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../api';
import { fieldsOf, recordOf, type RecordSpec, type Choice } from '../paper';

type Body = BodyOf<typeof accessRoutes.createUser>;

const LOGIN = fieldsOf<Body>([{ name: 'login', label: 'Login name', most: 40 }]);
const ACCOUNT = fieldsOf<Body>([
  { name: 'name', label: 'Full name', most: 80 },
  { name: 'role', label: 'Role', kind: 'choice', choices: ROLES.map((role): Choice => [role, role]) },
]);
const PASSWORD = fieldsOf<Body>([{ name: 'password', label: 'Password, at least 12 characters', called: 'Password', kind: 'password' }]);

/** A new user (`user` null), or another name, role or password for one there is. */
export function userRecord(api: Api, user: Account | null, kind: 'account' | 'password'): RecordSpec<Account> {
  const setsPassword = user === null || kind === 'password';
  return recordOf<Body, Account>({
    heading: user === null ? 'New user' : kind === 'password' ? `Reset password: ${user.name}` : user.name,
    act: user ? 'Save user' : 'Create user',
    name: 'user',
    subject: `${user?.id ?? 'new'} ${kind}`,
    fields: [...(user === null ? LOGIN : []), ...(kind === 'password' ? [] : ACCOUNT), ...(setsPassword ? PASSWORD : [])],
    value: user ?? { role: 'coordinator' },
    route: user === null ? accessRoutes.createUser : kind === 'password' ? accessRoutes.resetPassword : accessRoutes.changeUser,
    ...(setsPassword ? { hint: 'The user must change it at the next log-in.' } : {}),
    ...(user ? { version: user.version } : {}),
    send: (body, version) => {
      if (user === null) return api.call(accessRoutes.createUser, { body });
      const params = { user: user.id };
      return kind === 'password'
        ? api.call(accessRoutes.resetPassword, { params, body })
        : api.call(accessRoutes.changeUser, { params, body: { ...body, version } });
    },
  });
}
