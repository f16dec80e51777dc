import { readFileSync, writeFileSync } from 'node:fs';
import { API } from '@nockwright/contract/api';
import { ROLES, SEES, type AnyRoute, type Role } from '@nockwright/contract/shape';
import { accessTable } from '../src/access/access-table';
import { USERS } from './standing';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '100');
});
afterAll(() => desk.close());

const loginOf = (role: Role) => USERS.find(([, of]) => of === role)![0];
const routes = Object.entries(API).flatMap(([area, all]) =>
  Object.entries(all as unknown as Record<string, AnyRoute>).map(([name, route]) => ({ area, name, route })),
);

test.each(ROLES)('a %s may ask just what the contract says', async (role) => {
  const wrong: string[] = [];
  for (const { name, route } of routes) {
    // What ends the session or never ends comes elsewhere.
    if (route.roles === 'public' || name === 'logOut' || name === 'live') continue;
    const path = `/api${route.path.replace(/\{\w+\}/g, '999999')}`;
    const response = await desk.request(loginOf(role), route.method, path, route.method === 'GET' ? undefined : {});
    if ((response.status === 403) === route.roles.includes(role)) wrong.push(`${route.method} ${route.path}: ${response.status}`);
    if (response.status >= 500) wrong.push(`${route.method} ${route.path}: ${response.status}`);
  }
  expect(wrong).toEqual([]);
});

/** Figures that stand nowhere else: whoever finds one has found a cost, a margin or an account. */
const COST = '77.1234';
const LIMIT = '98765.43';

test('who picks and receives finds no cost, no margin and no account in anything they may read; the office does', async () => {
  await desk.db.updateTable('item').set({ cost: COST, list_price: '100' }).execute();
  await desk.db.updateTable('supplier_item').set({ cost: COST }).execute();
  await desk.db.updateTable('customer').set({ credit_limit: LIMIT }).execute();
  const short = await desk.draft([
    ['JAR', '5'],
    ['BOX', '40'],
  ]);
  const order = await desk.release(await desk.route(short, 2, 'special_order', '40', 'SUP'));
  const purchase = await desk.purchase('JAR', '30', '2027-03-19');
  const held = await desk.draft([['JAR', '2000']]);
  const pick = await desk.call('wil', API.shipping.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity: '2' }] },
  });

  const params: Record<string, unknown> = {
    order: order.id,
    line: order.lines[0]!.id,
    item: 'JAR',
    purchase: purchase.id,
    warehouse: 'MAR',
    shipment: pick.id,
  };
  const queries: Record<string, string> = {
    findItems: '?search=jar',
    find: '?q=jar',
    readQueue: '?warehouse=MAR',
    previewReceipt: `?lines=${purchase.line}:5`,
  };
  const read = async (role: Role) => {
    const found: { name: string; text: string }[] = [];
    for (const { name, route } of routes) {
      if (route.method !== 'GET' || route.roles === 'public' || !route.roles.includes(role) || name === 'live') continue;
      const path = `/api${route.path.replace(/\{(\w+)\}/g, (_, part: string) => String(params[part] ?? 1))}${queries[name] ?? ''}`;
      const response = await desk.request(loginOf(role), 'GET', path);
      if (response.status === 200) found.push({ name, text: await response.text() });
    }
    found.push({ name: 'readOrder, held', text: await (await desk.request(loginOf(role), 'GET', `/api/orders/${held.id}`)).text() });
    return found;
  };
  const seen = await read('warehouse');
  // Enough of it was really read.
  expect(
    ['readOrder', 'listOrders', 'readItem', 'readPurchase', 'listPurchases', 'listExpected', 'readBoard', 'listPlaces', 'find'].filter(
      (name) => !seen.some((one) => one.name === name),
    ),
  ).toEqual([]);
  const secret = /77\.1234|98765\.43|3084\.9|"marginPercent":"|"floor":"/;
  expect(
    seen
      .filter(({ text }) => secret.test(text))
      .map(({ name, text }) => `${name}: …${text.slice(Math.max(0, text.search(secret) - 60), text.search(secret) + 40)}…`),
  ).toEqual([]);

  const office = await read('coordinator');
  expect(office.filter(({ text }) => text.includes(COST)).map(({ name }) => name)).toEqual(expect.arrayContaining(['readOrder', 'readItem', 'readPurchase']));
  expect(office.some(({ text }) => text.includes(LIMIT))).toBe(true);
});

test('every field that is called cost, margin, credit or floor is sealed wherever the warehouse may read', () => {
  const open: string[] = [];
  const walk = (value: unknown, path: string[], visit: (path: string[]) => void): void => {
    const { keys = {}, items = [], matches = [] } = value as { keys?: object; items?: unknown[]; matches?: { schema?: unknown }[] };
    visit(path);
    for (const [name, inner] of Object.entries(keys)) walk(inner, [...path, name], visit);
    for (const inner of items) walk(inner, [...path, '*'], visit);
    for (const { schema } of matches) if (schema) walk(schema, path, visit);
  };
  for (const { name, route } of routes) {
    if (!route.reply || route.roles === 'public' || !route.roles.includes('warehouse')) continue;
    const { schema, seals } = route.reply;
    const isSealed = (path: string[]) => seals.some((seal) => seal.path.every((step, at) => step === path[at]));
    walk(schema.describe(), [], (path) => {
      if (/cost|margin|credit|^floor$|landed/i.test(path.at(-1) ?? '') && !isSealed(path)) open.push(`${name}: ${path.join('.')}`);
    });
  }
  expect(open).toEqual([]);
  expect(API.orders.readOrder.reply!.seals.map(({ path }) => path.join('.'))).toEqual(
    expect.arrayContaining(['customer.credit', 'lines.*.marginPercent', 'holds']),
  );
  expect(SEES.warehouse).toEqual([]);
});

test('docs/access.md says what the contract says', () => {
  const file = new URL('../../docs/access.md', import.meta.url);
  const page = readFileSync(file, 'utf8');
  // NOCK_WRITE_DOCS=yes writes the tables anew.
  if (process.env['NOCK_WRITE_DOCS']) writeFileSync(file, page.replace(/(?<=ignore-start -->\n\n)[^]*(?=\n<!-- prettier-ignore-end)/, accessTable()));
  expect(readFileSync(file, 'utf8')).toContain(accessTable());
});
