import { orderRoutes } from '@nockwright/contract/orders';
import { sql } from 'kysely';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '10');
});
afterAll(() => desk.close());

/** What PostgreSQL itself answers, with the application's own rights. */
const refused = async (query: ReturnType<typeof sql>) =>
  query.execute(desk.db).then(
    () => 'done',
    (error: { constraint?: string; message: string }) => error.constraint ?? error.message,
  );

describe('the database guards itself, whatever the application does', () => {
  test('more than on hand and inbound cannot be promised', async () => {
    const order = await desk.order([['JAR', '10']]);
    const line = order.lines[0]!.id;
    expect(await refused(sql`insert into line_promise (line_id, day, quantity) values (${line}, '2027-04-01', 1)`)).toBe('stock_not_oversold');
    expect(await refused(sql`update line_promise set quantity = 11 where line_id = ${line}`)).toBe('stock_not_oversold');
    expect(
      await refused(sql`insert into stock_movement (at, item, warehouse, quantity, kind, reference) values (now(), 'JAR', 'MAR', -1, 'shipment', 'x')`),
    ).toBe('stock_not_oversold');
  });

  test('goods cannot be set aside twice', async () => {
    const [line] = await desk.db.selectFrom('order_line').select(['id', 'order_id']).execute();
    const { id } = await desk.db
      .insertInto('shipment')
      .values({ number: 'X1', order_id: line!.order_id, warehouse: 'MAR', purchase_id: null, state: 'picking', carrier_service: 'GROUND', shipped_day: null })
      .returning('id')
      .executeTakeFirstOrThrow();
    expect(await refused(sql`insert into shipment_line (shipment_id, order_line_id, quantity) values (${id}, ${line!.id}, 11)`)).toBe('stock_not_picked_twice');
  });

  test('no more can be shipped or cancelled than was ordered, nor received than was bought', async () => {
    expect(await refused(sql`update order_line set shipped = 6, cancelled = 5`)).toBe('line_not_exceeded');
    const purchase = await desk.purchase('LID', '5', '2027-03-20');
    expect(await refused(sql`update purchase_line set received = 6 where id = ${purchase.line}`)).toBe('purchase_not_exceeded');
  });

  test('what happened can neither be changed nor taken back', async () => {
    expect(await refused(sql`update event set what = 'nothing'`)).toContain('permission denied');
    expect(await refused(sql`delete from event`)).toContain('permission denied');
    expect(await refused(sql`delete from stock_movement`)).toContain('permission denied');
    expect(await refused(sql`drop table event`)).toContain('must be owner');
  });
});

describe('a request sent again', () => {
  test('is answered again and not done again', async () => {
    const key = crypto.randomUUID();
    const [first, second] = await Promise.all([1, 2].map(() => desk.send('ida', orderRoutes.createOrder, { body: { customer: 1 }, key })));
    expect([first!.status, second!.status]).toEqual([200, 200]);
    expect(second!.reply).toEqual(first!.reply);
    const { count } = await desk.db
      .selectFrom('sales_order')
      .select(({ fn }) => fn.countAll().as('count'))
      .where('id', '>', first!.reply.id)
      .executeTakeFirstOrThrow();
    expect(Number(count)).toBe(0);
  });

  test('with the key of another request is refused', async () => {
    const key = crypto.randomUUID();
    await desk.call('ida', orderRoutes.createOrder, { body: { customer: 1 }, key });
    const other = await desk.send('ida', orderRoutes.createOrder, { body: { customer: 2 }, key });
    expect([other.status, other.problem.errors?.[0]?.field]).toEqual([422, 'header.Idempotency-Key']);
  });

  test('that was refused is tried anew', async () => {
    const key = crypto.randomUUID();
    const draft = await desk.draft([['LID', '999']]);
    const body = { item: 'LID', quantity: '1' };
    expect((await desk.send('ida', orderRoutes.addLine, { params: { order: draft.id + 1000 }, body, key })).status).toBe(404);
    expect((await desk.send('ida', orderRoutes.addLine, { params: { order: draft.id }, body, key })).status).toBe(200);
  });
});

describe('two people at once', () => {
  test('who changes what someone else has changed is told, and nothing of it is done', async () => {
    const draft = await desk.draft([]);
    const change = (login: 'ida' | 'sam', poNumber: string) =>
      desk.send(login, orderRoutes.changeOrder, { params: { order: draft.id }, body: { version: draft.version, poNumber } });
    expect((await change('ida', 'A-1')).status).toBe(200);
    const second = await change('sam', 'B-2');
    expect([second.status, second.problem.errors?.[0]?.field]).toEqual([409, 'body.version']);
    expect((await desk.read(draft)).poNumber).toBe('A-1');
  });

  test('a draft released by one cannot be changed or released by the other', async () => {
    await desk.stockUp('BOX', '5');
    const draft = await desk.draft([['BOX', '1']]);
    await desk.release(draft);
    const late = await desk.send('sam', orderRoutes.addLine, { params: { order: draft.id }, body: { item: 'BOX', quantity: '1' } });
    expect([late.status, late.problem.detail]).toEqual([409, expect.stringContaining('only a draft')]);
  });
});

test('what others change is heard, by topic, once it is committed', async () => {
  await desk.feed.open();
  const heard: string[] = [];
  const arrived = new Promise<void>((resolve) => {
    desk.feed.subscribe((topics) => {
      heard.push(...topics);
      if (heard.includes('item:TUB')) resolve();
    });
  });
  await desk.stockUp('TUB', '5');
  const order = await desk.order([['TUB', '5']]);
  await arrived;
  expect(heard).toEqual(expect.arrayContaining([`order:${order.id}`, 'item:TUB', 'customer:1']));
});

test('of two who change parts of an order at once, the second shows in the list what the first has done', async () => {
  await desk.stockUp('TUB', '20');
  const { id, lines } = await desk.draft([['TUB', '4']]);
  let held: Promise<unknown> | undefined;
  await desk.db.transaction().execute(async (first) => {
    await first.updateTable('order_line').set({ stock_quantity: '6', quantity: '6' }).where('id', '=', lines[0]!.id).execute();
    const hold = { order_id: id, kind: 'customer' as const, why: 'colour', facts: '[]', placed_at: new Date(), placed_by: 1 };
    held = desk.db.insertInto('order_hold').values(hold).execute();
    while ((await sql`select from pg_locks where not granted`.execute(desk.db)).rows.length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
  });
  await held;
  const row = await desk.db.selectFrom('order_standing').select(['amount', 'held']).where('order_id', '=', id).executeTakeFirstOrThrow();
  expect(row).toEqual({ amount: '3.12', held: true });
});
