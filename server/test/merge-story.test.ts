import { orderRoutes } from '@nockwright/contract/orders';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
});
afterAll(() => desk.close());

const begin = async () => {
  const draft = await desk.draft([
    ['JAR', '10'],
    ['LID', '5'],
  ]);
  const change = (who: 'ida' | 'mona', body: object) =>
    desk.send(who, orderRoutes.changeOrder, { params: { order: draft.id }, body: { version: draft.version, ...body } });
  const changeLine = (who: 'ida' | 'mona', body: object) =>
    desk.send(who, orderRoutes.changeLine, { params: { order: draft.id, line: draft.lines[0]!.id }, body: { version: draft.version, ...body } });
  return { draft, change, changeLine };
};

test('two who change other fields of one draft both have theirs', async () => {
  const { draft, change, changeLine } = await begin();
  expect((await change('mona', { seen: { note: '' }, note: 'leave at the gate' })).status).toBe(200);
  expect((await change('ida', { seen: { poNumber: '' }, poNumber: 'A-1' })).status).toBe(200);
  expect((await changeLine('mona', { seen: { note: '' }, note: 'blue' })).status).toBe(200);
  expect((await changeLine('ida', { seen: { quantity: '10', unit: 'EA' }, quantity: '12' })).status).toBe(200);
  const order = await desk.read(draft);
  expect(order).toMatchObject({ poNumber: 'A-1', note: 'leave at the gate' });
  expect(order.lines[0]).toMatchObject({ quantity: '12', note: 'blue' });
});

test('where both change a field, the second is told whose stands there, and nothing is changed', async () => {
  const { draft, changeLine, change } = await begin();
  await changeLine('mona', { seen: { quantity: '10', unit: 'EA' }, quantity: '7' });
  const { status, problem } = await changeLine('ida', { seen: { quantity: '10', unit: 'EA' }, quantity: '12' });
  expect(status).toBe(409);
  expect(problem.detail).toContain('changed quantity while you typed');
  expect(problem.errors).toEqual([{ field: 'body.quantity', message: 'you have 12, it is now 7', theirs: '7', who: expect.any(String) as string }]);
  expect((await desk.read(draft)).lines[0]!.quantity).toBe('7');
  // Nor does it help to know the newest version: it was shown while the field was being typed in.
  const { version } = await desk.read(draft);
  expect((await changeLine('ida', { version, seen: { quantity: '10', unit: 'EA' }, quantity: '12' })).status).toBe(409);
  // Having seen theirs, mine goes in its place.
  expect((await changeLine('ida', { seen: { quantity: '7', unit: 'EA' }, quantity: '12' })).status).toBe(200);
  // Without what was seen nothing is merged.
  expect((await change('ida', { poNumber: 'B' })).status).toBe(409);
  // What both want alike is no dispute.
  await change('mona', { seen: { poNumber: '' }, poNumber: 'C' });
  expect((await change('ida', { seen: { poNumber: '' }, poNumber: 'C' })).status).toBe(200);
});

test('lines that are read of a mail go behind what others added meanwhile; the order number is compared with what was seen', async () => {
  const { draft, change } = await begin();
  await change('mona', { seen: { poNumber: '' }, poNumber: 'M-1' });
  const add = (body: object) =>
    desk.send('ida', orderRoutes.addLines, {
      params: { order: draft.id },
      body: { version: draft.version, lines: [{ item: 'BOX', quantity: '1' }], ...body },
    });
  expect((await add({ seen: { poNumber: '' } })).status).toBe(200);
  const refused = await add({ seen: { poNumber: '' }, poNumber: 'I-2' });
  expect([refused.status, refused.problem.errors?.[0]]).toMatchObject([409, { field: 'body.poNumber', theirs: 'M-1' }]);
  expect((await desk.read(draft)).lines).toHaveLength(3);
});
