import { invoiceRoutes } from '@nockwright/contract/billing';
import { counterRoutes, type BasketView } from '@nockwright/contract/counter';
import { orderRoutes } from '@nockwright/contract/orders';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  const cash = await desk.db
    .insertInto('customer')
    .values({
      number: 'CASH',
      name: 'Cash sale',
      contact: '',
      phone: '',
      email: '',
      street: '',
      postcode: '',
      town: 'Marrowby',
      country: 'GB',
      delivery_rule: 'parts',
      warehouse: 'MAR',
      carrier_service: 'GROUND',
      price_list: null,
      terms_days: 0,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await desk.db
    .insertInto('ship_to')
    .values({ customer_id: cash.id, name: 'Counter', street: '', postcode: 'AB1 2CD', town: 'Marrowby', country: 'GB' })
    .execute();
  await desk.db.insertInto('desk_setting').values({ name: 'floor_margin', value: '12' }).execute();
  await desk.db.updateTable('item').set({ gtin: '05901234123457' }).where('code', '=', 'JAR').execute();
  await desk.db.updateTable('item').set({ tracks_lots: true, tracks_expiry: true, gtin: '09501101530003' }).where('code', '=', 'BOX').execute();
  await desk.db
    .insertInto('item_lot')
    .values([
      { item: 'BOX', lot: 'BAD', expires: '2027-03-01' },
      { item: 'BOX', lot: 'GOOD', expires: '2027-12-31' },
    ])
    .execute();
  for (const [item, quantity, lot] of [
    ['JAR', '10', ''],
    ['BOX', '4', 'BAD'],
    ['BOX', '4', 'GOOD'],
  ] as const)
    await desk.db
      .insertInto('stock_movement')
      .values({ at: new Date(), item, warehouse: 'MAR', quantity, kind: 'receipt', reference: 'test', bin: '', lot })
      .execute();
});
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(() => desk.close());

/** How jars stand on the shelf. */
const shelf = () =>
  desk.db
    .selectFrom('stock')
    .select(({ fn }) => ['on_hand', 'set_aside', 'allocated', 'committed'].map((column) => fn<string>('trim_scale', [column as 'on_hand']).as(column)))
    .where('item', '=', 'JAR')
    .where('warehouse', '=', 'MAR')
    .executeTakeFirstOrThrow();
const start = (customer: number | null = null) => desk.call('wil', counterRoutes.startBasket, { body: { warehouse: 'MAR', customer } });
const scan = async ({ order }: BasketView, text: string, count = '1', back = false) =>
  desk.call('wil', counterRoutes.scanBasket, { params: { order }, body: { scan: text, count, back } });
const pay = ({ order, version }: BasketView, body: object) =>
  desk.send('wil', counterRoutes.payBasket, { params: { order }, body: { version, method: 'cash', ...body } as never });

test('scans count, hold the goods at once, and are taken back by scanning; a bad lot is refused', async () => {
  const basket = await start();
  expect((await scan(basket, '5901234123457')).words).toBe('1 JAR in the basket.');
  const twice = await scan(basket, 'jar', '2');
  expect(twice.basket.lines.map((line) => [line.item, line.quantity])).toEqual([['JAR', '3']]);
  expect(await shelf()).toMatchObject({ on_hand: '10', set_aside: '3' });
  expect(await scan(basket, '(01)09501101530003(10)BAD')).toMatchObject({ ok: false, words: 'Lot BAD of BOX expired Mon 1 Mar. Put it into quarantine.' });
  expect(await scan(basket, '09501101530003')).toMatchObject({ ok: false, words: 'BOX is kept by lot. Scan the label with the lot.' });
  expect((await scan(basket, '(01)09501101530003(10)GOOD')).basket.lines[1]).toMatchObject({ item: 'BOX', lots: ['GOOD'] });
  expect((await scan(basket, 'jar', '1', true)).basket.lines[0]).toMatchObject({ quantity: '2' });
  expect(await scan(basket, 'lid', '1', true)).toMatchObject({ ok: false, words: 'LID is not in the basket.' });
  const dropped = await desk.call('wil', counterRoutes.dropBasket, { params: { order: basket.order }, body: {} });
  expect(dropped.state).toBe('dropped');
  expect(await shelf()).toMatchObject({ on_hand: '10', set_aside: '0' });
});

test('two counters cannot sell one piece, and neither sells what a customer was promised', async () => {
  const order = await desk.order([['JAR', '6']]);
  const [one, two] = [await start(), await start()];
  const answers = await Promise.all([scan(one, 'jar', '3'), scan(two, 'jar', '3')]);
  expect(answers.filter((answer) => answer.ok)).toHaveLength(1);
  expect(answers.find((answer) => !answer.ok)!.words).toBe('Only 1 JAR are free. The others are promised to customers.');
  for (const basket of [one, two]) await desk.call('wil', counterRoutes.dropBasket, { params: { order: basket.order }, body: {} });
  await desk.call('ida', orderRoutes.cancelOrder, {
    params: { order: order.id },
    body: { version: order.version, reason: 'other', purchases: 'keep' },
  });
});

test('what is held is sold, even where a customer of a better class has begun to wait for it meanwhile', async () => {
  const basket = await start();
  const { basket: held } = await scan(basket, 'jar', '3');
  await desk.db.updateTable('customer').set({ priority: 1 }).where('number', '=', 'C2').execute();
  const draft = await desk.draft([['JAR', '10']], 'ida', 2);
  const waits = await desk.release(await desk.route(draft, 1, 'backorder', draft.lines[0]!.uncovered));
  expect(waits.lines[0]!.waiting).not.toBe('0');
  const paid = await pay(held, { method: 'card' });
  expect([paid.status, paid.problem.detail]).toEqual([200, undefined]);
  await desk.call('ida', orderRoutes.cancelOrder, { params: { order: waits.id }, body: { version: waits.version, reason: 'other', purchases: 'keep' } });
  await desk.stockUp('JAR', '3');
});

test('paid in cash: the goods leave, change is given, nothing is owed, and there is a receipt', async () => {
  const basket = await start();
  const { basket: filled } = await scan(basket, 'jar', '3');
  const total = filled.total;
  const short = await pay(filled, { given: '1' });
  expect([short.status, short.problem.errors![0]!.field]).toEqual([422, 'body.given']);
  const paid = await pay(filled, { given: '10' });
  expect(paid.reply).toMatchObject({ state: 'paid', payment: { method: 'cash', amount: total, given: '10.00' } });
  expect(Number(paid.reply.payment!.change)).toBeCloseTo(10 - Number(total), 2);
  expect(await shelf()).toMatchObject({ on_hand: '7', set_aside: '0', allocated: '0', committed: '0' });
  const shipment = await desk.db.selectFrom('shipment').select(['state', 'invoice_id']).where('order_id', '=', basket.order).executeTakeFirstOrThrow();
  expect(shipment).toEqual({ state: 'shipped', invoice_id: expect.any(Number) as number });
  const receipt = await desk.request('wil', 'GET', `/api/counter/${basket.order}/receipt`);
  expect(Buffer.from(await receipt.arrayBuffer()).toString('latin1')).toMatch(/^%PDF-[^]*MediaBox \[0 0 226.8/);
  // Paid twice: the answer is that it is paid.
  expect((await pay(paid.reply, { given: '10' })).status).toBe(409);
});

test('a card that is declined leaves all as it was; on account within the limit, a cash sale never', async () => {
  const basket = await start(1);
  const { basket: filled } = await scan(basket, 'jar', '1');
  const { line } = filled.lines[0]!;
  const priced = await desk.call('wil', counterRoutes.priceBasket, { params: { order: basket.order }, body: { line, price: '1.05', reason: 'counter' } });
  expect(priced.total).toBe('1.05');
  const declined = await pay(priced, { method: 'card' });
  expect([declined.status, declined.problem.detail]).toEqual([409, 'The card was not charged: the bank declines the card. Take another card, or cash.']);
  expect(await shelf()).toMatchObject({ on_hand: '7', set_aside: '1' });
  const account = await pay(await desk.call('wil', counterRoutes.readBasket, { params: { order: basket.order } }), { method: 'account' });
  expect(account.reply).toMatchObject({ state: 'paid', payment: { method: 'account' } });
  const cash = await start();
  const refused = await pay((await scan(cash, 'jar', '1')).basket, { method: 'account' });
  expect([refused.status, refused.problem.detail]).toEqual([409, 'A cash sale has no account. Take cash or a card.']);
  await desk.call('wil', counterRoutes.dropBasket, { params: { order: cash.order }, body: {} });
});

test('a price below the floor is refused at the counter', async () => {
  const basket = await start();
  const { basket: filled } = await scan(basket, 'jar', '1');
  const refused = await desk.send('wil', counterRoutes.priceBasket, {
    params: { order: basket.order },
    body: { line: filled.lines[0]!.line, price: '0.10', reason: 'friend' },
  });
  expect([refused.status, refused.problem.detail]).toEqual([409, expect.stringContaining('below the floor')]);
  await desk.call('wil', counterRoutes.dropBasket, { params: { order: basket.order }, body: {} });
});

test('the receipt of a sale is mailed once it is paid', async () => {
  await desk.stockUp('LID', '1');
  const basket = await start();
  const mail = (email: string) => desk.send('wil', counterRoutes.mailReceipt, { params: { order: basket.order }, body: { email } });
  await scan(basket, 'lid');
  expect((await mail('nora@wether.example')).problem.detail).toBe('There is a receipt once the basket is paid.');
  const view = await desk.call('wil', counterRoutes.readBasket, { params: { order: basket.order } });
  expect((await pay(view, { given: '1' })).status).toBe(200);
  expect((await mail('nobody')).problem.errors).toEqual([{ field: 'body.email', message: 'expected an address as name@place.example, got "nobody"' }]);
  const { number } = (await mail('nora@wether.example')).reply;
  await mail('desk@wether.example');
  const sent = await desk.db
    .selectFrom('mail')
    .innerJoin('mail_file', 'mail_file.mail_id', 'mail.id')
    .innerJoin('order_file', 'order_file.id', 'mail_file.file_id')
    .select(['recipients', 'subject', 'order_file.id', 'order_file.name', 'content'])
    .where('mail.order_id', '=', basket.order)
    .orderBy('mail.id')
    .execute();
  expect(sent.map(({ recipients, name }) => [recipients, name])).toEqual([
    [['nora@wether.example'], `receipt-${number}.pdf`],
    [['desk@wether.example'], `receipt-${number}.pdf`],
  ]);
  // Kept once.
  expect(new Set(sent.map((row) => row.id)).size).toBe(1);
  expect(sent[0]!.content.subarray(0, 5).toString()).toBe('%PDF-');
});

test('what is paid at the counter is taxed and billed at once, by an invoice with a number of its own, and settled', async () => {
  await desk.db.updateTable('tax_class').set({ percent: '20' }).where('code', '=', 'standard').execute();
  const basket = await start();
  const { basket: filled } = await scan(basket, 'jar', '3');
  expect([filled.net, filled.taxes, filled.total]).toEqual(['1.56', [{ percent: '20', tax: '0.31' }], '1.87']);
  expect((await desk.call('wil', counterRoutes.listBaskets, { query: {} }))[0]!.total).toBe('1.87');
  const short = await pay(filled, { given: '1.86' });
  expect([short.status, short.problem.errors![0]!.field]).toEqual([422, 'body.given']);
  const { reply: paid } = await pay(filled, { given: '1.87' });
  expect(paid).toMatchObject({ total: '1.87', payment: { amount: '1.87', change: '0' } });
  const row = await desk.db.selectFrom('invoice').selectAll().where('number', '=', paid.invoice!).executeTakeFirstOrThrow();
  expect(row).toMatchObject({ net: '1.56', tax: '0.31', amount: '1.87', paid: '1.87' });
  const { lines } = await desk.call('fay', invoiceRoutes.readInvoice, { params: { invoice: row.id } });
  expect(lines.map((line) => [line.item, line.quantity, line.amount])).toEqual([['JAR', '3', '1.56']]);
  // The receipt is the paper: nobody gets another one by mail.
  expect(await desk.db.selectFrom('mail').select('id').where('invoice_id', '=', row.id).execute()).toEqual([]);
  await desk.db.updateTable('tax_class').set({ percent: '0' }).where('code', '=', 'standard').execute();
});
