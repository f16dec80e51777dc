import { accessRoutes, type Account } from '@nockwright/contract/access';
import { TOTP, Secret } from 'otpauth';
import { delayAfter } from '../src/access/log-in-delay';
import { stepOf } from '../src/access/second-factor';
import { PASSWORD } from './standing';
import { TestDesk } from './test-desk';
import { said } from './said';

let desk: TestDesk;
beforeEach(async () => (desk = await TestDesk.open()));
afterEach(() => desk.close());

const OWN = 'a password of my own';
const users = () => desk.call('mona', accessRoutes.listUsers);
const userOf = async (login: string) => (await users()).find((user) => user.login === login)!;
const change = (account: Account, wish: object, by: 'mona' | 'ida' = 'mona') =>
  desk.send(by, accessRoutes.changeUser, { params: { user: account.id }, body: { version: account.version, ...wish } });

/** Logs in by hand; gives the status and the cookie. */
async function logIn(login: string, password: string, code?: string) {
  const response = await desk.app.request('/api/login', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'User-Agent': 'Firefox on the dock' },
    body: JSON.stringify({ login, password, ...(code === undefined ? {} : { code }) }),
  });
  const cookie =
    response.headers
      .getSetCookie()
      .find((one) => one.startsWith('__Host-'))
      ?.split(';')[0] ?? '';
  return { status: response.status, cookie, problem: (await response.json()) as { type?: string; detail?: string; mustChangePassword?: boolean } };
}

async function ask(cookie: string, path: string, body?: object) {
  const response = await desk.app.request(`/api${path}`, {
    method: body ? 'POST' : 'GET',
    headers: { Cookie: cookie, 'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID() },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  return { status: response.status, reply: (await response.json()) as { type?: string; errors?: { field: string }[] } };
}

test('a manager makes a user, who chooses a password of their own before anything else', async () => {
  const made = await desk.call('mona', accessRoutes.createUser, {
    body: { login: 'Nell', name: 'Nell Harrow', role: 'warehouse', password: 'given by mona 1' },
  });
  expect(made).toMatchObject({ login: 'nell', role: 'warehouse', disabled: false, mustChangePassword: true, sessions: [] });
  const { cookie, problem } = await logIn('NELL', 'given by mona 1');
  expect(problem.mustChangePassword).toBe(true);
  expect((await ask(cookie, '/me')).status).toBe(200);
  const due = await ask(cookie, '/shipping');
  expect([due.status, due.reply.type]).toEqual([403, '/problems/password-due']);
  for (const [old, password, field] of [
    ['wrong', OWN, 'body.old'],
    ['given by mona 1', 'short', 'body.password'],
    ['given by mona 1', 'aaaaaaaaaaaaaaaa', 'body.password'],
    ['given by mona 1', 'nell harrow nell', 'body.password'],
    ['given by mona 1', 'given by mona 1', 'body.password'],
    ['given by mona 1', 'x1y2z'.repeat(30), 'body.password'],
  ]) {
    const { status, reply } = await ask(cookie, '/me/password', { old, password });
    expect([password, status, reply.errors?.[0]?.field]).toEqual([password, 422, field]);
  }
  expect((await ask(cookie, '/me/password', { old: 'given by mona 1', password: OWN })).status).toBe(200);
  expect((await ask(cookie, '/shipping')).status).toBe(200);
  expect((await logIn('nell', 'given by mona 1')).status).toBe(401);
  expect((await logIn('nell', OWN)).problem.mustChangePassword).toBe(false);
  // A name is given once, in whatever letters.
  const again = await desk.send('mona', accessRoutes.createUser, { body: { login: 'NELL', name: 'Another', role: 'finance', password: OWN } });
  expect([again.status, again.problem.errors]).toEqual([422, [{ field: 'body.login', message: 'nell is taken' }]]);
});

test('who is shut out is out at once, and comes in again when they are let in', async () => {
  const sam = await logIn('sam', PASSWORD);
  const account = await userOf('sam');
  expect(account.sessions).toMatchObject([{ from: 'Firefox on the dock' }]);
  const { reply } = await change(account, { disabled: true });
  expect(reply).toMatchObject({ disabled: true, sessions: [] });
  expect((await ask(sam.cookie, '/orders')).status).toBe(401);
  // The answer tells nobody that there is such a user.
  const [shut, nobody] = [await logIn('sam', PASSWORD), await logIn('nobody', PASSWORD)];
  expect([shut.status, shut.problem.detail]).toEqual([nobody.status, nobody.problem.detail]);
  expect((await change(reply, { disabled: false })).status).toBe(200);
  expect((await logIn('sam', PASSWORD)).status).toBe(200);
  expect((await desk.call('mona', accessRoutes.userHistory, { params: { user: account.id } })).map(said)).toEqual(['enabled sam (sam)', 'disabled sam (sam)']);
});

test('another role counts at once; nobody takes their own rights, and a manager is always left', async () => {
  const ida = await logIn('ida', PASSWORD);
  expect((await ask(ida.cookie, '/contracts')).status).toBe(200);
  const { reply } = await change(await userOf('ida'), { role: 'warehouse' });
  expect((await ask(ida.cookie, '/contracts')).status).toBe(401);
  expect((await ask((await logIn('ida', PASSWORD)).cookie, '/contracts')).status).toBe(403);

  const mona = await userOf('mona');
  for (const wish of [{ disabled: true }, { role: 'coordinator' }]) expect((await change(mona, wish)).status).toBe(409);
  // An old look at a user changes nothing.
  expect((await change({ ...reply, version: reply.version - 1 }, { name: 'Ida P.' })).status).toBe(409);
  // Two managers who shut each other out at the same time: one of them stays.
  await change(await userOf('ida'), { role: 'manager' });
  await desk.request('ida', 'GET', '/api/me');
  const [one, two] = [await userOf('ida'), await userOf('mona')];
  const both = await Promise.all([change(one, { disabled: true }), change(two, { disabled: true }, 'ida')]);
  expect(both.filter(({ status }) => status === 200)).toHaveLength(1);
  expect((await desk.db.selectFrom('app_user').select('id').where('role', '=', 'manager').where('disabled_at', 'is', null).execute()).length).toBe(1);
});

test('a new password by the manager ends every session, and one’s own every other; each can be ended alone', async () => {
  const [first, second] = [await logIn('sam', PASSWORD), await logIn('sam', PASSWORD)];
  const own = (await ask(first.cookie, '/me/sessions')).reply as unknown as { id: number; here: boolean }[];
  expect(own.map((row) => row.here).sort()).toEqual([false, true]);
  // Nobody ends another’s.
  const fay = await logIn('fay', PASSWORD);
  expect((await ask(fay.cookie, `/me/sessions/${own[0]!.id}/end`, {})).status).toBe(404);
  expect((await ask(first.cookie, '/me/password', { old: PASSWORD, password: OWN })).status).toBe(200);
  expect([(await ask(first.cookie, '/me')).status, (await ask(second.cookie, '/me')).status]).toEqual([200, 401]);
  const third = await logIn('sam', OWN);
  const other = ((await ask(third.cookie, '/me/sessions')).reply as unknown as { id: number; here: boolean }[]).find((row) => !row.here)!;
  expect((await ask(third.cookie, `/me/sessions/${other.id}/end`, {})).status).toBe(200);
  expect([(await ask(first.cookie, '/me')).status, (await ask(third.cookie, '/me')).status]).toEqual([401, 200]);

  const sam = await userOf('sam');
  await desk.call('mona', accessRoutes.resetPassword, { params: { user: sam.id }, body: { password: 'given by mona 2' } });
  expect((await ask(third.cookie, '/me')).status).toBe(401);
  expect((await logIn('sam', 'given by mona 2')).problem.mustChangePassword).toBe(true);
  const left = await desk.call('mona', accessRoutes.endSessions, { params: { user: sam.id }, body: {} });
  expect(left.sessions).toEqual([]);
});

test('what is kept of a request with a password cannot be guessed from: it holds nothing of it', async () => {
  const hashes = async () =>
    (await desk.db.selectFrom('idempotency').select(['request_hash', 'reply']).execute()).map((row) => [row.request_hash, JSON.stringify(row.reply)]);
  const sam = await userOf('sam');
  const reset = (password: string) => desk.call('mona', accessRoutes.resetPassword, { params: { user: sam.id }, body: { password } });
  await reset('given by mona 1');
  await reset('given by mona 2');
  const kept = await hashes();
  expect(new Set(kept.map(([hash]) => hash)).size).toBe(1);
  expect(JSON.stringify(kept)).not.toContain('given by');
});

describe('time codes', () => {
  // RFC 6238, appendix B, SHA-1, of the key `12345678901234567890`; the six digits are the last six of the eight there.
  test.each([
    [59, '287082'],
    [1111111109, '081804'],
    [1111111111, '050471'],
    [1234567890, '005924'],
    [2000000000, '279037'],
    [20000000000, '353130'],
  ])('at second %i of 1970 the code is %s', (seconds, code) => {
    const key = Secret.fromLatin1('12345678901234567890').base32;
    const step = Math.floor(seconds / 30);
    expect(stepOf(key, code, seconds * 1000, null)).toBe(step);
    // Source: RFC 6238, section 5.2: a code counts once, and for one step of delay.
    expect(stepOf(key, code, seconds * 1000, step)).toBeNull();
    expect(stepOf(key, code, (seconds + 30) * 1000, null)).toBe(step);
    expect(stepOf(key, code, (seconds + 90) * 1000, null)).toBeNull();
    expect(stepOf(key, `${code.slice(0, 3)} ${code.slice(3)}`, seconds * 1000, null)).toBe(step);
    for (const wrong of ['', code.slice(1), `${code}1`, 'abcdef']) expect(stepOf(key, wrong, seconds * 1000, null)).toBeNull();
  });

  test('are asked for once a first one was given, count once, and a manager takes them off', async () => {
    const sam = await logIn('sam', PASSWORD);
    expect((await ask(sam.cookie, '/me/second-factor/confirm', { code: '123456' })).status).toBe(409);
    expect((await ask(sam.cookie, '/me/second-factor', { password: 'wrong' })).status).toBe(422);
    await ask(sam.cookie, '/me/second-factor', { password: PASSWORD });
    const { begun } = (await ask(sam.cookie, '/me/second-factor')).reply as unknown as { begun: { key: string; address: string } };
    expect(begun.address).toBe(`otpauth://totp/Nockwright:sam?issuer=Nockwright&secret=${begun.key}&algorithm=SHA1&digits=6&period=30`);
    // Before the first code nothing is asked.
    expect((await logIn('sam', PASSWORD)).status).toBe(200);
    const codeAt = (shift: number) => new TOTP({ secret: Secret.fromBase32(begun.key) }).generate({ timestamp: Date.now() + shift * 1000 });
    expect((await ask(sam.cookie, '/me/second-factor/confirm', { code: '000000' })).status).toBe(422);
    const first = codeAt(0);
    expect((await ask(sam.cookie, '/me/second-factor/confirm', { code: first })).status).toBe(200);
    expect((await ask(sam.cookie, '/me/second-factor')).reply).toEqual({ active: true, begun: null });

    const without = await logIn('sam', PASSWORD);
    expect([without.status, without.problem.type, without.cookie]).toEqual([401, '/problems/code-needed', '']);
    expect((await logIn('sam', 'wrong', codeAt(30))).problem.type).toBe('/problems/wrong-log-in');
    // The code that began it is used up; the next one counts, for one of two who send it.
    expect((await logIn('sam', PASSWORD, first)).status).toBe(401);
    await desk.db.deleteFrom('failed_log_in').execute();
    const next = codeAt(30);
    const two = await Promise.all([logIn('sam', PASSWORD, next), logIn('sam', PASSWORD, next)]);
    expect(two.map(({ status }) => status).sort()).toEqual([200, 401]);
    // Wrong codes are slowed as wrong passwords are.
    for (let tries = 0; tries < 5; tries++) await logIn('sam', PASSWORD, '000000');
    expect([delayAfter(5, 5), (await logIn('sam', PASSWORD, '000000')).status]).toEqual([1, 429]);
    await desk.db.deleteFrom('failed_log_in').execute();

    const account = await userOf('sam');
    expect(account.secondFactor).toBe(true);
    await desk.call('mona', accessRoutes.removeSecondFactor, { params: { user: account.id } });
    expect((await logIn('sam', PASSWORD)).status).toBe(200);
  });
});

test('over TLS the cookie is of the whole host and of no other; without, it has a name that promises nothing', async () => {
  const response = await desk.logIn('ida');
  const [session, device] = response.headers.getSetCookie();
  expect(session).toMatch(/^__Host-nock_session=/);
  for (const part of ['HttpOnly', 'SameSite=Strict', 'Secure', 'Path=/']) expect(session).toContain(part);
  expect(session).not.toMatch(/domain/i);
  expect(device).toMatch(/^__Secure-nock_device=.*Secure/);
});
