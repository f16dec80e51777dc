import { allRoutes } from '@nockwright/contract/api';
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

test('after too many failures even the right password has to wait', async () => {
  for (let attempt = 0; attempt < 8; attempt++) expect((await desk.logIn('fay', 'wrong')).status).toBe(401);
  expect((await desk.logIn('fay')).status).toBe(429);
  // Others are not shut out by it.
  expect((await desk.logIn('mona')).status).toBe(200);
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
