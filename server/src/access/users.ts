import { type accessRoutes, type Account } from '@nockwright/contract/access';
import type { BodyOf } from '@nockwright/contract/shape';
import { changedSince, recordEvent } from '../events';
import type { Db } from '../database';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { endSessions, listSessions } from '../sessions';
import { hashNew } from './passwords';

/** Who may log in, by name; who is shut out last. */
export async function listUsers(db: Db): Promise<Account[]> {
  const users = await db.selectFrom('app_user').selectAll().orderBy('name').execute();
  const sessions = await listSessions(
    db,
    users.map((user) => user.id),
  );
  const accounts = users.map((user) => ({
    id: user.id,
    login: user.login,
    name: user.name,
    role: user.role,
    disabled: user.disabled_at !== null,
    secondFactor: user.totp_key !== null,
    mustChangePassword: user.must_change_password,
    sessions: sessions.get(user.id) ?? [],
    version: user.version,
  }));
  return [...accounts.filter((user) => !user.disabled), ...accounts.filter((user) => user.disabled)];
}

export async function readUser(db: Db, id: number): Promise<Account> {
  const user = (await listUsers(db)).find((row) => row.id === id);
  if (!user) throw notFound(`user ${id}`);
  return user;
}

/** Makes a user with a password that somebody else knows: they choose their own at their first log-in. */
export async function createUser(context: CommandContext, { login, name, role, password }: BodyOf<typeof accessRoutes.createUser>): Promise<Account> {
  const { trx } = context;
  const lower = login.toLowerCase();
  if (!/^[a-z0-9][a-z0-9._-]*$/.test(lower)) throw invalid('body.login', `expected letters, digits, dots and hyphens, got ${login}`);
  const password_hash = await hashNew(password, { login: lower, name }, 'body.password');
  const made = await trx
    .insertInto('app_user')
    .values({ login: lower, name, role, password_hash, must_change_password: true })
    .onConflict((conflict) => conflict.column('login').doNothing())
    .returning('id')
    .executeTakeFirst();
  if (!made) throw invalid('body.login', `${lower} is taken`);
  await recordEvent(context, { kind: 'user.created', facts: { name, login: lower, role }, subjects: [{ kind: 'user', key: made.id }] });
  return readUser(trx, made.id);
}

/** Changes a user's name or role, or shuts them out. What changes what they may do ends their sessions; one manager is always left. */
export async function changeUser(context: CommandContext, id: number, wish: BodyOf<typeof accessRoutes.changeUser>): Promise<Account> {
  const { trx, user: by, now } = context;
  const managers = await lockManagers(context);
  const known = await lockUser(context, id);
  if (known.version !== wish.version) throw await changedSince(trx, { kind: 'user', key: id, label: known.name, given: wish.version, current: known.version });
  const role = wish.role ?? known.role;
  const disabled = wish.disabled ?? known.disabled_at !== null;
  const lessens = (role !== known.role && known.role === 'manager') || (disabled && known.disabled_at === null);
  if (lessens && id === by.id) throw new Refusal('conflict', 'You cannot disable or demote yourself: ask another manager.');
  if (lessens && known.role === 'manager' && managers.every((manager) => manager === id)) throw new Refusal('conflict', 'At least one manager must remain.');
  const before = { name: known.name, role: known.role, disabled: known.disabled_at !== null };
  const after = { name: wish.name ?? known.name, role, disabled };
  if (after.name === before.name && role === before.role && disabled === before.disabled) return readUser(trx, id);
  await trx
    .updateTable('app_user')
    .set({ name: after.name, role, disabled_at: disabled ? (known.disabled_at ?? now.instant) : null, version: known.version + 1 })
    .where('id', '=', id)
    .execute();
  if (role !== known.role || disabled) await endSessions(trx, id);
  await recordEvent(context, {
    kind: 'user.changed',
    facts: { login: known.login, before, after },
    subjects: [{ kind: 'user', key: id }],
  });
  return readUser(trx, id);
}

/** Gives a user a new password, which they change at their next log-in. */
export async function resetPassword(context: CommandContext, id: number, password: string): Promise<Account> {
  const { trx } = context;
  const known = await lockUser(context, id);
  const password_hash = await hashNew(password, known, 'body.password');
  await trx
    .updateTable('app_user')
    .set({ password_hash, must_change_password: true, version: known.version + 1 })
    .where('id', '=', id)
    .execute();
  await endSessions(trx, id);
  await recordEvent(context, { kind: 'password.reset', facts: { name: known.name }, subjects: [{ kind: 'user', key: id }] });
  return readUser(trx, id);
}

/** Does without time codes for a user who has lost theirs. */
export async function removeSecondFactor(context: CommandContext, id: number): Promise<Account> {
  const { trx } = context;
  const known = await lockUser(context, id);
  if (known.totp_key === null && known.totp_begun === null) throw new Refusal('conflict', `${known.name} has no second factor.`);
  await trx
    .updateTable('app_user')
    .set({ totp_key: null, totp_begun: null, totp_last_step: null, version: known.version + 1 })
    .where('id', '=', id)
    .execute();
  await endSessions(trx, id);
  await recordEvent(context, { kind: 'second_factor.removed', facts: { name: known.name }, subjects: [{ kind: 'user', key: id }] });
  return readUser(trx, id);
}

export async function endUserSessions(context: CommandContext, id: number, session?: number): Promise<Account> {
  const known = await lockUser(context, id);
  const ended = await endSessions(context.trx, id, session === undefined ? {} : { only: session });
  if (session !== undefined && ended === 0) throw notFound(`session ${session} of ${known.name}`);
  await recordEvent(context, { kind: 'sessions.ended', facts: { name: known.name, sessions: ended }, subjects: [{ kind: 'user', key: id }] });
  return readUser(context.trx, id);
}

/** All managers who may log in, locked: of two who shut each other out one comes second, and is refused. */
async function lockManagers({ trx }: CommandContext): Promise<number[]> {
  const rows = await trx
    .selectFrom('app_user')
    .select('id')
    .where('role', '=', 'manager')
    .where('disabled_at', 'is', null)
    .orderBy('id')
    .forNoKeyUpdate()
    .execute();
  return rows.map((row) => row.id);
}

async function lockUser({ trx }: CommandContext, id: number) {
  const user = await trx.selectFrom('app_user').selectAll().where('id', '=', id).forNoKeyUpdate().executeTakeFirst();
  if (!user) throw notFound(`user ${id}`);
  return user;
}
