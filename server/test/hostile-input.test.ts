import { allRoutes } from '@nockwright/contract/api';
import type { AnyRoute, Problem, Shape } from '@nockwright/contract/shape';
import fc from 'fast-check';
import { sql } from 'kysely';
import { brokenInvariants } from './invariants';
import { RawBody, TestDesk } from './test-desk';

/**
 * Every route, with wrong input of every kind made from its own contract: it must answer 4xx with the fields at fault,
 * never 500, and change nothing.
 */

let desk: TestDesk;
let places: Record<string, string>;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '50');
  const order = await desk.order([['JAR', '5']]);
  const purchase = await desk.purchase('JAR', '50', '2027-03-20');
  places = {
    order: String(order.id),
    line: String(order.lines[0]!.id),
    purchase: String(purchase.id),
    customer: '1',
    invoice: '1',
    payable: '1',
    entry: '1',
    payment: '1',
    item: 'JAR',
    shipment: '1',
    consignment: '1',
    part: '1',
    carton: '1',
    carrier: 'HARROW',
    route: '1',
    run: '1',
    consent: '1',
    transfer: '1',
    assembly: '1',
    call: '1',
    hold: '1',
    task: '1',
    lot: 'L1',
    quote: '1',
    mail: '1',
    paper: '1',
    file: '1',
    reminder: '1',
    view: '1',
    contract: '1',
    list: 'LIST',
    warehouse: 'MAR',
    place: '1',
    supplier: 'SUP',
    message: '1',
    user: '4',
    session: '1',
  };
});
afterAll(() => desk.close());

const TABLES = [
  'item',
  'supplier',
  'supplier_item',
  'supplier_item_break',
  'supplier_closed_day',
  'exchange_message',
  'despatch_notice',
  'desk_setting',
  'bin',
  'item_home',
  'item_lot',
  'stock_place',
  'customer',
  'customer_note',
  'mail',
  'order_file',
  'saved_view',
  'ship_to',
  'contract',
  'contract_line',
  'order_hold',
  'price_break',
  'sales_order',
  'order_line',
  'line_promise',
  'line_route',
  'purchase_order',
  'purchase_line',
  'shipment',
  'shipment_line',
  'consignment',
  'pick_part',
  'carton',
  'carton_content',
  'consignment_label',
  'stock',
  'stock_movement',
  'event',
  'document',
  'number_series',
  'idempotency',
  'invoice',
  'invoice_line',
  'payment',
  'settlement',
  'refund',
  'bank_file',
  'bank_entry',
  'supplier_invoice',
  'supplier_invoice_line',
  'ledger_entry',
  'ledger_line',
  'ledger_period',
  'stock_value',
  'tax_class',
];

/** As it was when it was last looked at: what one test leaves the next begins with. */
let last: string | null = null;

/** Everything that trade depends on, as one fingerprint. */
async function fingerprint(): Promise<string> {
  const parts = TABLES.map(
    (table) => sql`select ${table} as name, md5(coalesce(string_agg(t::text, ',' order by t::text), '')) as digest from ${sql.table(table)} t`,
  );
  const { rows } = await sql<{ name: string; digest: string }>`${sql.join(parts, sql` union all `)}`.execute(desk.db);
  return rows.map((row) => `${row.name} ${row.digest}`).join('\n');
}

/** Several at once, as a hostile client sends them. */
async function inBatches<T>(all: readonly T[], act: (one: T) => Promise<void>): Promise<void> {
  for (let at = 0; at < all.length; at += BATCH) await Promise.all(all.slice(at, at + BATCH).map(act));
}

const BATCH = 12;

const NOT_OF_ANY_TYPE: readonly unknown[] = [
  null,
  true,
  -1,
  1.5,
  1e308,
  '',
  'x'.repeat(5000),
  'a\u0000b',
  "'; drop table stock; --",
  [],
  [null],
  {},
  { $ne: 1 },
  '2027-02-30',
  '0',
  '-1',
  '1e3',
  'NaN',
  2 ** 53,
];

interface JsonSchema {
  readonly properties?: Record<string, JsonSchema>;
  readonly required?: readonly string[];
  readonly items?: JsonSchema;
}

const schemaOf = (shape: Shape<unknown>) =>
  (shape.schema as unknown as { '~standard': { jsonSchema: { input: (options: object) => JsonSchema } } })['~standard'].jsonSchema.input({
    target: 'draft-2020-12',
  });
const isValid = (shape: Shape<unknown>, value: unknown) => shape.schema.validate(value, { convert: false }).error === undefined;

/** Something the shape allows: the least of every field. */
function sample(schema: JsonSchema & { type?: string | string[]; enum?: unknown[]; pattern?: string; minItems?: number }): unknown {
  if (schema.enum) return schema.enum[0];
  const type = Array.isArray(schema.type) ? schema.type[0] : schema.type;
  if (type === 'object')
    return Object.fromEntries(
      Object.entries(schema.properties ?? {})
        .filter(([name]) => schema.required?.includes(name))
        .map(([name, part]) => [name, sample(part)]),
    );
  if (type === 'array') return Array.from({ length: schema.minItems ?? 0 }, () => sample(schema.items ?? {}));
  if (type === 'integer' || type === 'number') return 1;
  if (type === 'boolean') return true;
  if (schema.pattern?.includes('d{3}-')) return '2027-03-20';
  return '1';
}

/** The sample with one thing wrong in it, everywhere and in every way. */
function* spoiled(shape: Shape<unknown>): Generator<unknown> {
  const good = sample(schemaOf(shape));
  yield* ['text', 7, null, [], true];
  if (typeof good !== 'object' || good === null) return;
  for (const name of Object.keys(good)) {
    const { [name]: _, ...without } = good as Record<string, unknown>;
    yield without;
  }
  yield { ...good, unheard_of: 1 };
  for (const name of Object.keys(schemaOf(shape).properties ?? {})) for (const value of NOT_OF_ANY_TYPE) yield { ...good, [name]: value };
}

const routes = allRoutes().map(({ name, route }) => [name, route] as const);
const address = (route: AnyRoute, more: Record<string, string> = {}) =>
  `/api${route.path.replace(/\{(\w+)\}/g, (_, part: string) => more[part] ?? places[part]!)}`;

test.each(routes.filter(([, route]) => route.body))('%s refuses a body that is wrong, with the fields at fault', async (name, route) => {
  if (name === 'logIn') return expect((await desk.request(null, 'POST', address(route), { login: 1 })).status).toBe(422);
  const before = (last ??= await fingerprint());
  await inBatches([...spoiled(route.body!)], async (body) => {
    if (isValid(route.body!, body)) return;
    const response = await desk.request('mona', route.method, address(route), body ?? null);
    const problem = (await response.json()) as Problem;
    expect([JSON.stringify(body), response.status]).toEqual([JSON.stringify(body), 422]);
    for (const { field } of problem.errors ?? [{ field: '' }]) expect(field).toMatch(/^body/);
  });
  last = await fingerprint();
  expect(last).toBe(before);
});

test.each(routes.filter(([, route]) => route.body))('%s refuses what is no JSON', async (_, route) => {
  for (const body of ['', '{', 'null,', '\u0000']) {
    const response = await desk.request('mona', route.method, address(route), new RawBody(body === '' ? ' ' : body));
    expect([400, 422]).toContain(response.status);
  }
  const plain = await desk.request('mona', route.method, address(route), new RawBody('{}'), undefined, { 'Content-Type': 'text/plain' });
  expect([400, 422]).toContain(plain.status);
});

test.each(routes.filter(([, route]) => route.path.includes('{')))('%s refuses ids that are none', async (_, route) => {
  const before = (last ??= await fingerprint());
  for (const part of [...route.path.matchAll(/\{(\w+)\}/g)].map((match) => match[1]!)) {
    await inBatches(['0', '-1', '1.5', 'abc!', '99999999999', '%00', '%27%20or%201=1', '1e5', ' '], async (value) => {
      const response = await desk.request('mona', route.method, address(route, { [part]: value }), route.body ? sample(schemaOf(route.body)) : undefined);
      expect([value, Math.floor(response.status / 100)]).toEqual([value, 4]);
    });
  }
  last = await fingerprint();
  expect(last).toBe(before);
});

test.each(routes.filter(([, route]) => route.method === 'GET' && Object.keys(schemaOf(route.query).properties ?? {}).length > 0))(
  '%s refuses queries that are wrong',
  async (_, route) => {
    for (const name of Object.keys(schemaOf(route.query).properties!)) {
      await inBatches(NOT_OF_ANY_TYPE, async (value) => {
        const text = typeof value === 'string' ? value : JSON.stringify(value);
        const response = await desk.request('mona', 'GET', `${address(route)}?${new URLSearchParams({ [name]: text }).toString()}`);
        expect(response.status).toBeLessThan(500);
      });
    }
    expect((await desk.request('mona', 'GET', `${address(route)}?unheard_of=1`)).status).toBe(422);
  },
);

test('whatever fits the contract but makes no sense is refused, never an accident', async () => {
  const anyPlace = fc.record({
    order: fc.integer({ min: 1, max: 60 }),
    line: fc.integer({ min: 1, max: 60 }),
    purchase: fc.integer({ min: 1, max: 10 }),
    shipment: fc.integer({ min: 1, max: 10 }),
    route: fc.integer({ min: 1, max: 10 }),
    customer: fc.integer({ min: 1, max: 4 }),
    invoice: fc.integer({ min: 1, max: 4 }),
    payment: fc.integer({ min: 1, max: 4 }),
    payable: fc.integer({ min: 1, max: 4 }),
    entry: fc.integer({ min: 1, max: 4 }),
    item: fc.constantFrom('JAR', 'LID', 'OLD', 'NONE'),
  });
  const quantity = fc.constantFrom('1', '5', '0.5', '999999999.9999', '0.0001', '24');
  const body = fc.record({
    version: fc.integer({ min: 0, max: 9 }),
    customer: fc.integer({ min: 1, max: 4 }),
    item: fc.constantFrom('JAR', 'LID', 'OLD', 'NONE'),
    unit: fc.constantFrom('EA', 'DZN', 'XTY', 'KGM'),
    quantity,
    requestedDay: fc.constantFrom('2027-03-08', '2027-03-09', '2999-12-31', '2000-01-01'),
    expectedDay: fc.constantFrom('2027-03-08', '2027-03-15', '2999-12-31'),
    warehouse: fc.constantFrom('MAR', 'QUI', 'NONE'),
    supplier: fc.constantFrom('SUP', 'SLOW', 'NONE'),
    kind: fc.constantFrom('backorder', 'special_order', 'drop_ship'),
    order: fc.integer({ min: 1, max: 60 }),
    line: fc.integer({ min: 1, max: 60 }),
    shipTo: fc.integer({ min: 1, max: 4 }),
    reason: fc.constantFrom('other', 'too_late'),
    purchases: fc.constantFrom('keep', 'cancel'),
    tracking: fc.constant(''),
    seen: fc.constant([]),
    lines: fc.array(fc.record({ line: fc.integer({ min: 1, max: 60 }), item: fc.constantFrom('JAR', 'LID', 'NONE'), quantity }), {
      minLength: 1,
      maxLength: 3,
    }),
  });
  const changes = routes.filter(([name, route]) => route.method !== 'GET' && name !== 'logIn' && name !== 'logOut');
  await fc.assert(
    fc.asyncProperty(fc.constantFrom(...changes), anyPlace, body, async ([, route], place, values) => {
      const known = Object.keys(route.body ? (schemaOf(route.body).properties ?? {}) : {});
      const sent = fittingTo(Object.fromEntries(known.filter((field) => field in values).map((field) => [field, values[field as keyof typeof values]])), route);
      const response = await desk.request(
        'mona',
        route.method,
        address(route, Object.fromEntries(Object.entries(place).map(([part, value]) => [part, String(value)]))),
        route.body ? sent : undefined,
      );
      expect([200, 404, 409, 422]).toContain(response.status);
    }),
    { numRuns: 600 },
  );
  expect(await brokenInvariants(desk.db)).toEqual([]);
});

/** Takes from the lines of a body what its route does not know. */
function fittingTo(body: Record<string, unknown>, route: AnyRoute): Record<string, unknown> {
  const fields = Object.keys((route.body && schemaOf(route.body).properties?.['lines']?.items?.properties) ?? {});
  if (!Array.isArray(body['lines'])) return body;
  return {
    ...body,
    lines: body['lines'].map((line: Record<string, unknown>) => Object.fromEntries(Object.entries(line).filter(([field]) => fields.includes(field)))),
  };
}

describe('what was made to keep the server busy is refused before anybody looks into it', () => {
  const send = (path: string, text: string) => desk.request('ida', 'POST', path, new RawBody(text));
  const lines = () => `/api/orders/${places['order']}/lines/many`;
  const problemOf = async (reply: Response) => (await reply.json()) as Problem;

  test('a log-in that is longer than any name and password', async () => {
    const many = Object.fromEntries(Array.from({ length: 2_000 }, (_, at) => [`field${at}`, at]));
    const reply = await desk.app.request('/api/login', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(many) });
    expect(reply.status).toBe(413);
  });

  test('more lines than an order has, none of which is looked at', async () => {
    const reply = await send(lines(), JSON.stringify({ version: 1, lines: Array.from({ length: 70_000 }, () => ({})) }));
    const { errors } = await problemOf(reply);
    expect([reply.status, errors?.length, errors?.[0]?.field]).toEqual([422, 1, 'body.lines']);
  });

  test('many faults, of which twenty are told', async () => {
    const reply = await send(lines(), JSON.stringify({ version: 1, lines: Array.from({ length: 100 }, () => ({})) }));
    expect([reply.status, (await problemOf(reply)).errors?.length]).toEqual([422, 20]);
  });

  test.each([
    ['depth', '['.repeat(40_000) + ']'.repeat(40_000)],
    ['values', JSON.stringify({ a: Array.from({ length: 200_000 }, () => 1) })],
    ['fields', JSON.stringify(Object.fromEntries(Array.from({ length: 100 }, (_, at) => [`f${at}`, 1])))],
    ['half of a surrogate pair', '{"customer": "\\ud800"}'],
    ['a character that is none', '{"customer": "a\\u0000b"}'],
  ])('%s', async (_, text) => {
    const reply = await send('/api/orders', text);
    expect([400, 422]).toContain(reply.status);
  });
});
