import { allRoutes } from '@nockwright/contract/api';
import { delayAfter } from '../src/access/log-in-delay';
import { clientAddress } from '../src/http/client-address';
import { PASSWORD } from './standing';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
});
afterAll(() => desk.close());

test('a log-in gives a cookie that scripts cannot read and other sites cannot send', async () => {
  const response = await desk.logIn('ida');
  expect(response.status).toBe(200);
  const cookie = response.headers.get('Set-Cookie')!;
  for (const part of ['HttpOnly', 'SameSite=Strict', 'Secure', 'Path=/']) expect(cookie).toContain(part);
  // The database keeps only its hash.
  const token = cookie.split(';')[0]!.split('=')[1]!;
  expect(await desk.db.selectFrom('session').select('token_hash').where('token_hash', '=', token).execute()).toEqual([]);
});

test('a wrong password and an unknown name are answered alike', async () => {
  const [wrong, unknown] = [await desk.logIn('ida', 'wrong'), await desk.logIn('nobody', 'wrong')];
  expect([wrong.status, unknown.status]).toEqual([401, 401]);
  // Only the number of the request differs.
  const said = async (reply: Response) => ({ ...((await reply.json()) as object), instance: '' });
  expect(await said(wrong)).toEqual(await said(unknown));
});

describe('after too many failures', () => {
  const from = (login: string, password: string | undefined, cookie = '') =>
    desk.app.request('/api/login', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', ...(cookie ? { Cookie: cookie } : {}) },
      body: JSON.stringify({ login, password: password ?? PASSWORD }),
    });
  afterEach(() => desk.db.deleteFrom('failed_log_in').execute());

  test('even the right password has to wait, longer each time; a browser they use does not', async () => {
    const device = (await from('fay', undefined)).headers
      .getSetCookie()
      .find((cookie) => cookie.startsWith('__Secure-nock_device'))!
      .split(';')[0]!;
    for (let attempt = 0; attempt < 5; attempt++) expect((await from('fay', 'wrong')).status).toBe(401);
    const late = await from('fay', undefined);
    expect([late.status, late.headers.get('Retry-After')]).toEqual([429, '1']);
    // Whoever does wrong with a name somewhere shuts its owner out nowhere.
    expect((await from('fay', undefined, device)).status).toBe(200);
    // Nor does another user profit from it, or suffer.
    expect((await from('mona', undefined)).status).toBe(200);
    expect((await from('fay', undefined, device.replace(/.$/, 'x'))).status).toBe(429);
  });

  test('names that nobody has slow strangers at that address, and no browser that is known', async () => {
    const device = (await from('sam', undefined)).headers
      .getSetCookie()
      .find((cookie) => cookie.startsWith('__Secure-nock_device'))!
      .split(';')[0]!;
    for (let attempt = 0; attempt < 20; attempt++) expect((await from(`nobody${attempt}`, 'wrong')).status).toBe(401);
    expect((await from('mona', undefined)).status).toBe(429);
    expect((await from('sam', undefined, device)).status).toBe(200);
  });

  test.each([
    [4, 0],
    [5, 1],
    [6, 2],
    [9, 16],
    [60, 300],
  ])('of %i failures, five of them free, the wait is %i seconds', (failures, seconds) => {
    expect(delayAfter(failures, 5)).toBe(seconds);
  });

  test.each([
    ['203.0.113.9', '198.51.100.7', [], '203.0.113.9'],
    ['10.0.0.1', '198.51.100.7, 10.0.0.2', ['10.0.0.1', '10.0.0.2'], '198.51.100.7'],
    // What a stranger wrote in front stays in front.
    ['10.0.0.1', '192.0.2.1, 198.51.100.7', ['10.0.0.1'], '198.51.100.7'],
    ['10.0.0.1', undefined, ['10.0.0.1'], '10.0.0.1'],
  ])('connected from %s with %s, trusting %j: %s', (connected, forwarded, trusted, address) => {
    expect(clientAddress(connected, forwarded, trusted)).toBe(address);
  });
});

test('a session that has ended, or was logged out, opens nothing', async () => {
  const cookie = (await desk.logIn('sam')).headers.get('Set-Cookie')!.split(';')[0]!;
  const me = () => desk.app.request('/api/me', { headers: { Cookie: cookie } });
  expect((await me()).status).toBe(200);
  await desk.app.request('/api/logout', { method: 'POST', headers: { Cookie: cookie } });
  expect((await me()).status).toBe(401);
  await desk.request('sam', 'GET', '/api/me');
  await desk.db
    .updateTable('session')
    .set({ expires_at: new Date(Date.now() - 1000) })
    .execute();
  expect((await desk.request('sam', 'GET', '/api/me')).status).toBe(401);
});

test('a change from another site is refused, whatever its content type', async () => {
  const response = await desk.request(null, 'POST', '/api/login', { login: 'ida', password: 'x' }, undefined, {
    Origin: 'https://elsewhere.example',
    Host: '127.0.0.1',
  });
  expect(response.status).toBe(403);
});

const guarded = allRoutes().filter(({ route }) => route.roles !== 'public');

test.each(guarded.map(({ name, route }) => [name, route] as const))('%s needs a log-in', async (_, route) => {
  const path = `/api${route.path.replace(/\{\w+\}/g, '1')}`;
  const response = await desk.request(null, route.method, path, route.body ? {} : undefined);
  expect([response.status, response.headers.get('Content-Type')]).toEqual([401, 'application/problem+json']);
});

test.each(guarded.filter(({ route }) => !route.roles.includes('finance')).map(({ name, route }) => [name, route] as const))(
  '%s is not for finance',
  async (_, route) => {
    // A session of its own: the log-in above is shut out for a while.
    await desk.db.deleteFrom('failed_log_in').execute();
    const response = await desk.request('fay', route.method, `/api${route.path.replace(/\{\w+\}/g, '1')}`, route.body ? {} : undefined);
    expect(response.status).toBe(403);
  },
);

test('pages may run only our own scripts and be framed by nobody', async () => {
  const policy = (await desk.app.request('/api/health')).headers.get('Content-Security-Policy')!;
  expect(policy).toContain("default-src 'none'");
  expect(policy).toContain("script-src 'self'");
  expect(policy).toContain("frame-ancestors 'none'");
  expect(policy).not.toContain('unsafe');
});
