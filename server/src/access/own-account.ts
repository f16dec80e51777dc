import type { OpenSession, SecondFactor } from '@nockwright/contract/access';
import { recordEvent } from '../events';
import type { Db } from '../database';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { endSessions, listSessions } from '../sessions';
import { hashNew, isRight } from './passwords';
import { keyAddress, newKey, stepOf } from './second-factor';

const DONE = { done: true } as const;

/** Changes one's password. Every other session of it ends: whoever knew the old one is out. `here`: the hash of the session that asks. */
export async function changePassword(context: CommandContext, here: string, old: string, password: string) {
  const { trx, user } = context;
  const known = await lockOwn(context);
  await mustKnow(known.password_hash, old, 'body.old');
  if (old === password) throw invalid('body.password', 'expected a password other than the current one');
  const password_hash = await hashNew(password, user, 'body.password');
  await trx
    .updateTable('app_user')
    .set({ password_hash, must_change_password: false, version: known.version + 1 })
    .where('id', '=', user.id)
    .execute();
  await endSessions(trx, user.id, { but: here });
  await recordEvent(context, { kind: 'password.changed', facts: {}, subjects: [{ kind: 'user', key: user.id }] });
  return DONE;
}

export async function ownSessions(db: Db, user: number, here: string): Promise<OpenSession[]> {
  return (await listSessions(db, [user], here)).get(user) ?? [];
}

export async function endOwnSession(context: CommandContext, here: string, session: number): Promise<OpenSession[]> {
  const { trx, user } = context;
  if ((await endSessions(trx, user.id, { only: session })) === 0) throw notFound(`session ${session} of yours`);
  await recordEvent(context, { kind: 'session.ended', facts: {}, subjects: [{ kind: 'user', key: user.id }] });
  return ownSessions(trx, user.id, here);
}

export async function readSecondFactor(db: Db, user: { readonly id: number; readonly login: string }): Promise<SecondFactor> {
  const { totp_key, totp_begun } = await db.selectFrom('app_user').select(['totp_key', 'totp_begun']).where('id', '=', user.id).executeTakeFirstOrThrow();
  return { active: totp_key !== null, begun: totp_begun === null ? null : { key: totp_begun, address: keyAddress(totp_begun, user.login) } };
}

/** Makes a key for time codes. It counts when a first code of it has been given. */
export async function beginSecondFactor(context: CommandContext, password: string) {
  const known = await lockOwn(context);
  await mustKnow(known.password_hash, password, 'body.password');
  if (known.totp_key !== null) throw new Refusal('conflict', 'The second factor is on already.');
  await context.trx.updateTable('app_user').set({ totp_begun: newKey() }).where('id', '=', known.id).execute();
  return DONE;
}

export async function confirmSecondFactor(context: CommandContext, code: string) {
  const { trx, user } = context;
  const known = await lockOwn(context);
  if (known.totp_begun === null) throw new Refusal('conflict', 'Set up the second factor first.');
  const step = stepOf(known.totp_begun, code, Date.now(), null);
  if (step === null) throw invalid('body.code', 'wrong code: enter the one the app shows now');
  await trx
    .updateTable('app_user')
    .set({ totp_key: known.totp_begun, totp_begun: null, totp_last_step: step, version: known.version + 1 })
    .where('id', '=', known.id)
    .execute();
  await recordEvent(context, { kind: 'second_factor.on', facts: {}, subjects: [{ kind: 'user', key: user.id }] });
  return DONE;
}

export async function endSecondFactor(context: CommandContext, password: string) {
  const { trx, user } = context;
  const known = await lockOwn(context);
  await mustKnow(known.password_hash, password, 'body.password');
  if (known.totp_key === null && known.totp_begun === null) throw new Refusal('conflict', 'The second factor is off.');
  await trx
    .updateTable('app_user')
    .set({ totp_key: null, totp_begun: null, totp_last_step: null, version: known.version + 1 })
    .where('id', '=', known.id)
    .execute();
  await recordEvent(context, { kind: 'second_factor.off', facts: {}, subjects: [{ kind: 'user', key: user.id }] });
  return DONE;
}

async function mustKnow(kept: string, password: string, field: string): Promise<void> {
  if (!(await isRight(kept, password))) throw invalid(field, 'wrong password');
}

function lockOwn({ trx, user }: CommandContext) {
  return trx.selectFrom('app_user').selectAll().where('id', '=', user.id).forNoKeyUpdate().executeTakeFirstOrThrow();
}
