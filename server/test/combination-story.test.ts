import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import type { CombinationView } from '@nockwright/contract/shortages';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('LID', '4');
  await desk.stockUp('JAR', '30', 'QUI');
  await desk.stockUp('LID', '30', 'QUI');
  await desk.stockUp('BOX', '200', 'QUI');
});
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(() => desk.close());

const combinations = (order: OrderView) => desk.call('ida', orderRoutes.readCombinations, { params: { order: order.id } });
const choicesOf = ({ rows }: CombinationView) =>
  rows.flatMap(({ line, route, asks }) =>
    route === null || asks
      ? []
      : [
          {
            line,
            parts: route.parts.map(({ kind, quantity, supplier, warehouse, item }) => ({
              kind,
              quantity,
              ...(supplier ? { supplier } : {}),
              ...(warehouse ? { warehouse } : {}),
              ...(item ? { item } : {}),
            })),
          },
        ],
  );
const take = (order: OrderView, version: number, row: CombinationView) =>
  desk.send('ida', orderRoutes.routeOrder, { params: { order: order.id }, body: { version, complete: row.complete, choices: choicesOf(row) } });

test('every short line of a draft gets its option in one act, and the order comes to what was shown', async () => {
  const draft = await desk.draft([
    ['JAR', '10'],
    ['LID', '10'],
  ]);
  const { version, rows } = await combinations(draft);
  const [first] = rows;
  expect(first!.rows.map((row) => [row.lineNo, row.quantity, row.route!.parts.map((part) => part.kind)])).toEqual([
    [1, '10', ['transfer']],
    // Four of the ten lie here.
    [2, '6', ['transfer']],
  ]);
  const taken = await take(draft, version, first!);
  expect(taken.status).toBe(200);
  const routed = await desk.read(draft);
  expect(routed.lines.map((line) => line.routes.map((route) => [route.kind, route.quantity]))).toEqual([[['transfer', '10']], [['transfer', '6']]]);
  expect([routed.wholeDay, routed.shipments.length]).toEqual([first!.lastDay, 0]);
  // What has its option is asked about no more.
  expect((await combinations(routed)).rows).toEqual([]);
  const released = await desk.release(routed);
  expect([released.state, released.wholeDay]).toEqual(['released', first!.lastDay]);
});

test('all on one day makes the draft ship complete, and it leaves in as many shipments as was shown', async () => {
  const draft = await desk.draft([
    ['JAR', '4'],
    ['BOX', '4'],
  ]);
  const { version, rows } = await combinations(draft);
  const one = rows.find((row) => row.complete)!;
  expect(one).toMatchObject({ name: 'one_day', shipments: 1 });
  await take(draft, version, one);
  const routed = await desk.read(draft);
  expect([routed.shipComplete, routed.wholeDay]).toEqual([true, one.lastDay]);
});

test('who sends it for what no longer stands, or twice, is told; nothing is half done', async () => {
  const draft = await desk.draft([
    ['BOX', '10'],
    ['BOX', '20'],
  ]);
  const { version, rows } = await combinations(draft);
  await desk.call('ida', orderRoutes.changeLine, { params: { order: draft.id, line: draft.lines[0]!.id }, body: { version, quantity: '11' } });
  expect((await take(draft, version, rows[0]!)).status).toBe(409);
  const now = await combinations(draft);
  const both = await Promise.all([take(draft, now.version, now.rows[0]!), take(draft, now.version, now.rows[0]!)]);
  expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  const routed = await desk.read(draft);
  expect(routed.lines.map((line) => line.routes.map((route) => route.quantity))).toEqual([['11'], ['20']]);
});

test('a choice that cannot be is named by its place and its line; none of the others is done', async () => {
  const draft = await desk.draft([
    ['BOX', '5'],
    ['BOX', '6'],
  ]);
  const choices = draft.lines.map((line, at) => ({
    line: line.id,
    parts: [{ kind: 'transfer' as const, warehouse: at === 0 ? 'QUI' : 'ABB', quantity: '5' }],
  }));
  const params = { order: draft.id };
  const wrong = await desk.send('ida', orderRoutes.routeOrder, { params, body: { version: draft.version, choices } });
  expect([wrong.status, wrong.problem.errors![0]!.field]).toEqual([422, 'body.choices[1].parts[0].kind']);
  expect(wrong.problem.errors![0]!.message).toMatch(/^line 2: /);
  const strange = await desk.send('ida', orderRoutes.routeOrder, { params, body: { version: draft.version, choices: [{ ...choices[0]!, line: 999_999 }] } });
  expect(strange.problem.errors![0]!.field).toBe('body.choices[0].line');
  const twice = await desk.send('ida', orderRoutes.routeOrder, { params, body: { version: draft.version, choices: [choices[0]!, choices[0]!] } });
  expect(twice.problem.errors![0]!.field).toBe('body.choices[1].line');
  expect((await desk.read(draft)).lines.every((line) => line.routes.length === 0)).toBe(true);
});

test('the short lines of a released order are routed in one act, with what it makes', async () => {
  let draft = await desk.draft([
    ['BOX', '7'],
    ['BOX', '8'],
  ]);
  draft = await desk.route(draft, 1, 'backorder', '7');
  draft = await desk.route(draft, 2, 'backorder', '8');
  const order = await desk.release(draft);
  const { version, rows } = await combinations(order);
  expect(rows.some((row) => row.complete)).toBe(false);
  expect((await take(order, version, rows[0]!)).status).toBe(200);
  const routed = await desk.read(order);
  expect(routed.lines.map((line) => line.waiting)).toEqual(['0', '0']);
  const documents = new Set(routed.lines.flatMap((line) => line.routes.map((route) => route.document?.number)));
  expect(documents.size).toBe(1);
});

test('it takes as many statements for thirty lines as for two', async () => {
  const counted = async (lines: number) => {
    const draft = await desk.draft(Array.from({ length: lines }, () => ['BOX', '1'] as const));
    const before = desk.statements.length;
    const { version, rows } = await combinations(draft);
    const read = desk.statements.length - before;
    await take(draft, version, rows[0]!);
    return { read: lines > 6 ? 'beside' : read, taken: desk.statements.length - before - read };
  };
  await counted(2);
  const [two, thirty] = [await counted(2), await counted(30)];
  expect(thirty.taken).toBe(two.taken);
  expect(two.taken).toBeLessThanOrEqual(45);
});
