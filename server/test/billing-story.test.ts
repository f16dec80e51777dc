import { invoiceRoutes, paymentRoutes, type InvoiceView, type MoneyView } from '@nockwright/contract/billing';
import { customerRoutes } from '@nockwright/contract/customers';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { consignmentRoutes, shippingRoutes } from '@nockwright/contract/shipping';
import { misplacedElements } from '@nockwright/core/exchange';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeEach(async () => {
  desk = await TestDesk.open();
  await desk.db.updateTable('tax_class').set({ percent: '20' }).where('code', '=', 'standard').execute();
  await desk.db.updateTable('item').set({ tax_class: 'zero' }).where('code', '=', 'LID').execute();
  await desk.db.updateTable('firm').set({ tax_number: 'GB123456789', country: 'GB' }).execute();
  for (const item of ['JAR', 'LID']) await desk.stockUp(item, '500');
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

type Lines = Parameters<TestDesk['order']>[0];

/** An order of which so much of each line leaves at once. Gives the order and the shipment. */
async function shipped(lines: Lines, share?: readonly string[]): Promise<{ order: OrderView; shipment: number; number: string; consignment: number }> {
  const order = await desk.order(lines);
  return leaves(order, share);
}
async function leaves(order: OrderView, share?: readonly string[]) {
  const pick = await desk.call('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: order.lines.map((line, at) => ({ line: line.id, quantity: share?.[at] ?? line.stockQuantity })) },
  });
  await desk.call('wil', shippingRoutes.ship, { params: { shipment: pick.id }, body: { tracking: `T${pick.id}` } });
  return { order, shipment: pick.id, number: pick.number, consignment: pick.consignment! };
}
const preview = (...shipments: readonly number[]) => desk.call('fay', invoiceRoutes.previewInvoice, { query: { shipments: shipments.join(',') } });
async function bill(...shipments: readonly number[]): Promise<InvoiceView> {
  const { total } = await preview(...shipments);
  return desk.call('fay', invoiceRoutes.issueInvoice, { body: { shipments, total } });
}
const money = (): Promise<MoneyView> => desk.call('fay', paymentRoutes.readMoney, { params: { customer: 1 } });
const pay = (amount: string, settled: readonly (readonly [invoice: number, amount: string, discount?: string])[], more: object = {}) =>
  desk.send('fay', paymentRoutes.recordPayment, {
    params: { customer: 1 },
    body: {
      day: '2027-03-09',
      method: 'bank',
      amount,
      reference: '',
      settled: settled.map(([invoice, part, discount = '0']) => ({ invoice, amount: part, discount })),
      ...more,
    },
  });
const credit = async () => (await desk.call('ida', customerRoutes.readCustomer, { params: { customer: 1 } })).credit;

describe('an invoice', () => {
  test('is over three shipments of two orders: goods in the unit ordered, tax by rate, what is owed follows at once', async () => {
    const first = await shipped(
      [
        ['JAR', '24'],
        ['JAR', '3', 'DZN'],
      ],
      ['24', '12'],
    );
    const rest = await leaves({ ...first.order, lines: first.order.lines.slice(1) }, ['24']);
    const other = await shipped([['LID', '100']]);
    const before = await credit();
    expect(before.shippedNotBilled).not.toBe('0.00');
    const [row] = await desk.call('fay', invoiceRoutes.listBillable, { query: {} });
    expect(row!.shipments.map((one) => one.number)).toEqual([first.number, rest.number, other.number]);
    const seen = await preview(first.shipment, rest.shipment, other.shipment);
    expect(seen.lines.map((line) => [line.shipment, line.text, line.quantity, line.unit, line.amount])).toEqual([
      [first.number, 'JAR of glass', '24', 'EA', '12.48'],
      [first.number, 'JAR of glass', '1', 'DZN', '6.24'],
      [rest.number, 'JAR of glass', '2', 'DZN', '12.48'],
      [other.number, 'LID of glass', '100', 'EA', '52.00'],
    ]);
    const invoice = await bill(first.shipment, rest.shipment, other.shipment);
    expect(invoice).toMatchObject({
      number: 'I1',
      kind: 'invoice',
      net: '83.20',
      tax: '6.24',
      total: '89.44',
      open: '89.44',
      day: '2027-03-09',
      dueDay: '2027-04-08',
    });
    expect(invoice.taxes.map(({ category, percent, base, tax }) => [category, percent, base, tax])).toEqual([
      ['S', '20', '31.20', '6.24'],
      ['Z', '0', '52.00', '0.00'],
    ]);
    const after = await credit();
    expect([after.shippedNotBilled, after.unpaid]).toEqual(['0.00', '89.44']);
    const shown = await desk.read(first.order);
    expect(shown.shipments.map((one) => one.invoice)).toEqual(['I1', 'I1']);
    expect(await desk.call('fay', invoiceRoutes.listBillable, { query: {} })).toEqual([]);
    const again = await desk.send('fay', invoiceRoutes.issueInvoice, { body: { shipments: [first.shipment], total: '1' } });
    expect([again.status, again.problem.detail]).toEqual([
      409,
      'Some of these shipments have not left, or are billed already. Nothing was issued: look again.',
    ]);
    const undone = await desk.send('ida', consignmentRoutes.undoShipment, { params: { consignment: first.consignment }, body: { reason: 'x' } });
    expect(undone.problem.detail).toContain('is billed already');
  });

  test('is issued at the total that was seen, for one customer, by who may; a warehouse sees none', async () => {
    const { shipment } = await shipped([['JAR', '10']]);
    const send = (login: 'fay' | 'ida', body: { shipments: readonly number[]; total: string }) => desk.send(login, invoiceRoutes.issueInvoice, { body });
    expect((await send('fay', { shipments: [shipment], total: '5.20' })).problem.detail).toBe(
      'This invoice comes to 6.24 by now, not 5.20. Nothing was issued: look again, then decide.',
    );
    expect((await send('ida', { shipments: [shipment], total: '6.24' })).status).toBe(403);
    expect((await desk.send('wil', invoiceRoutes.listInvoices, { query: {} })).status).toBe(403);
    expect((await send('fay', { shipments: [shipment], total: '6.24' })).status).toBe(200);
    // What was refused took no number.
    const next = await shipped([['JAR', '1']]);
    expect((await bill(next.shipment)).number).toBe('I2');
  });

  test('says the freight of each shipment, and no tax where the customer pays none', async () => {
    await desk.db.updateTable('customer').set({ freight_rule: 'flat', freight_flat: '9.5' }).where('id', '=', 1).execute();
    await desk.db.updateTable('customer').set({ tax_exemption: 'Charity, certificate 12' }).where('id', '=', 1).execute();
    const { shipment } = await shipped([['JAR', '10']]);
    const invoice = await bill(shipment);
    expect(invoice.lines.map((line) => [line.kind, line.amount, line.category])).toEqual([
      ['goods', '5.20', 'E'],
      ['freight', '9.50', 'E'],
    ]);
    expect([invoice.tax, invoice.total]).toEqual(['0.00', '14.70']);
  });

  test('is drawn, is written as UBL, and goes out by mail with its paper', async () => {
    const { shipment } = await shipped([['JAR', '10']]);
    const { id } = await bill(shipment);
    const pdf = await desk.request('fay', 'GET', `/api/invoices/${id}/paper`);
    expect([
      pdf.headers.get('content-disposition'),
      Buffer.from(await pdf.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ]).toEqual(['inline; filename="invoice-i1.pdf"', '%PDF-']);
    const xml = await (await desk.request('fay', 'GET', `/api/invoices/${id}/ubl`)).text();
    expect(misplacedElements(xml)).toEqual([]);
    expect(xml).toContain('<cbc:PayableAmount currencyID="EUR">6.24</cbc:PayableAmount>');
    const mail = await desk.db.selectFrom('mail').selectAll().where('invoice_id', '=', id).executeTakeFirst();
    expect([mail?.subject, mail?.document_id !== null]).toEqual([expect.stringMatching(/^Invoice I1 from /), true]);
  });

  test('does not change once it is issued, whoever tries', async () => {
    const { shipment } = await shipped([['JAR', '10']]);
    const { id, lines } = await bill(shipment);
    await expect(desk.db.updateTable('invoice').set({ amount: '1' }).where('id', '=', id).execute()).rejects.toThrow(/permission denied/);
    await expect(desk.db.updateTable('invoice_line').set({ amount: '1' }).where('invoice_id', '=', id).execute()).rejects.toThrow(/permission denied/);
    await expect(desk.db.deleteFrom('settlement').execute()).rejects.toThrow(/permission denied/);
    const line = {
      invoice_id: id,
      line_no: 9,
      kind: 'goods' as const,
      text: 'x',
      quantity: '1',
      unit: 'EA',
      price: '9',
      category: 'S' as const,
      percent: '20',
    };
    await expect(
      desk.db
        .insertInto('invoice_line')
        .values({ ...line, amount: '5.21', credits_id: lines[0]!.id })
        .execute(),
    ).rejects.toThrow(/more is credited than was billed/);
  });
});

test('a run bills who is due by their rule, one after the other, and nobody twice; numbers have no gap', async () => {
  await desk.db.updateTable('customer').set({ billing_rule: 'monthly' }).where('id', '=', 2).execute();
  const one = await shipped([['JAR', '1']]);
  await shipped([['JAR', '2']]);
  const next = () => desk.call('fay', invoiceRoutes.billNext, { body: {} });
  expect(await next()).toMatchObject({ invoice: { number: 'I1', customer: 'Wether Hill' }, left: 0 });
  expect(await next()).toEqual({ invoice: null, left: 0 });
  await desk.db.updateTable('customer').set({ billing_rule: 'value', billing_value: '3' }).where('id', '=', 1).execute();
  await shipped([['JAR', '5']]);
  expect(await next()).toEqual({ invoice: null, left: 0 });
  await shipped([['JAR', '5']]);
  expect(await next()).toMatchObject({ invoice: { number: 'I2' } });
  const { shipments } = await desk.read(one.order);
  expect(shipments[0]!.invoice).toBe('I1');
});

test('many clerks bill at once: every shipment once, every number once and without a gap', async () => {
  const all = await Promise.all(Array.from({ length: 12 }, () => shipped([['JAR', '1']])));
  const tries = all.flatMap(({ shipment }) => [shipment, shipment]);
  const answers = await Promise.all(tries.map((shipment) => desk.send('fay', invoiceRoutes.issueInvoice, { body: { shipments: [shipment], total: '0.62' } })));
  expect(answers.filter(({ status }) => status === 200)).toHaveLength(12);
  const rows = await desk.db.selectFrom('invoice').select('number').where('issued_at', 'is not', null).execute();
  expect(rows.map((row) => row.number).sort()).toEqual(Array.from({ length: 12 }, (_, at) => `I${at + 1}`).sort());
});

describe('a credit note', () => {
  test('corrects lines in whole, in part or by price, never above what was billed; the invoice is settled by it', async () => {
    const { shipment } = await shipped([
      ['JAR', '10'],
      ['LID', '10'],
    ]);
    const invoice = await bill(shipment);
    expect(invoice.total).toBe('11.44');
    const [jars, lids] = invoice.lines;
    const correct = (lines: readonly { line: number; quantity: string; perUnit?: string }[]) =>
      desk.send('fay', invoiceRoutes.creditInvoice, { params: { invoice: invoice.id }, body: { lines, reason: 'price agreed on the telephone' } });
    const note = await correct([{ line: jars!.id, quantity: '10', perUnit: '0.02' }]);
    expect(note.reply).toMatchObject({ kind: 'credit_note', number: 'CN1', net: '0.20', tax: '0.04', total: '0.24', open: '0.00', credits: { number: 'I1' } });
    const left = await desk.call('fay', invoiceRoutes.readInvoice, { params: { invoice: invoice.id } });
    expect([left.open, left.notes.map((one) => one.number), left.lines[0]!.credited]).toEqual(['11.20', ['CN1'], '0.20']);
    const above = await correct([{ line: jars!.id, quantity: '10' }]);
    expect(above.problem.errors).toEqual([{ field: 'body.lines[0].quantity', message: '5.20 is more than the 5 left of line 1' }]);
    expect((await correct([{ line: lids!.id, quantity: '11' }])).status).toBe(422);
    expect((await correct([{ line: lids!.id, quantity: '10' }])).reply).toMatchObject({ number: 'CN2', tax: '0.00', total: '5.20' });
    const twice = await Promise.all([correct([{ line: jars!.id, quantity: '6' }]), correct([{ line: jars!.id, quantity: '6' }])]);
    expect(twice.map(({ status }) => status).sort()).toEqual([200, 422]);
  });

  test('of what is paid already stays to their credit, and settles the next invoice', async () => {
    const first = await bill((await shipped([['JAR', '10']])).shipment);
    expect((await pay('6.24', [[first.id, '6.24']])).status).toBe(200);
    await desk.call('fay', invoiceRoutes.creditInvoice, {
      params: { invoice: first.id },
      body: { lines: [{ line: first.lines[0]!.id, quantity: '10' }], reason: 'came back' },
    });
    expect((await money()).balance).toBe('-6.24');
    const second = await bill((await shipped([['JAR', '20']])).shipment);
    const { credits } = await money();
    const after = await desk.call('fay', paymentRoutes.applyCredit, {
      params: { invoice: credits[0]!.id },
      body: { settled: [{ invoice: second.id, amount: '6.24', discount: '0' }] },
    });
    expect([after.balance, after.credits, after.invoices[0]!.open]).toEqual(['6.24', [], '6.24']);
  });
});

describe('a payment', () => {
  test('one for two invoices, one over, one short: what is left stays on account, the rest stays open', async () => {
    const [a, b] = [await bill((await shipped([['JAR', '10']])).shipment), await bill((await shipped([['JAR', '20']])).shipment)];
    const proposed = await desk.call('fay', paymentRoutes.proposePayment, { params: { customer: 1 }, query: { amount: '12.48' } });
    expect(proposed.settled).toEqual([{ invoice: b.id, amount: '12.48', discount: '0.00' }]);
    expect(
      (
        await pay('10', [
          [a.id, '6.24'],
          [b.id, '3.76'],
        ])
      ).reply,
    ).toMatchObject({ balance: '8.72', onAccount: '0.00' });
    const over = await pay('20', [[b.id, '8.72']]);
    expect(over.reply).toMatchObject({ balance: '-11.28', onAccount: '11.28', invoices: [] });
    expect((await credit()).unpaid).toBe('-11.28');
    const c = await bill((await shipped([['JAR', '30']])).shipment);
    const { payments } = await money();
    const used = await desk.call('fay', paymentRoutes.applyPayment, {
      params: { payment: payments[0]!.id },
      body: { settled: [{ invoice: c.id, amount: '11.28', discount: '0' }] },
    });
    expect([used.onAccount, used.invoices[0]!.open]).toEqual(['0.00', '7.44']);
    const above = await desk.send('fay', paymentRoutes.applyPayment, {
      params: { payment: payments[0]!.id },
      body: { settled: [{ invoice: c.id, amount: '1', discount: '0' }] },
    });
    expect(above.status).toBe(422);
  });

  test('takes the discount in time, and not above what it is', async () => {
    const set = await desk.call('fay', paymentRoutes.setBilling, {
      params: { customer: 1 },
      body: {
        version: (await money()).terms.version,
        billingRule: 'shipment',
        billingValue: null,
        termsKind: 'net',
        termsDays: 30,
        discountPercent: '2',
        discountDays: 10,
        taxNumber: '',
        taxExemption: '',
      },
    });
    expect(set.terms.discountPercent).toBe('2');
    const invoice = await bill((await shipped([['JAR', '100']])).shipment);
    expect([invoice.total, invoice.terms, invoice.payable]).toEqual([
      '62.40',
      '30 days net, 2 % within 10 days',
      'Please pay 62.40 EUR by Thu 8 Apr, or 61.15 EUR by Fri 19 Mar (2 % discount).',
    ]);
    expect((await pay('61.15', [[invoice.id, '61.15', '1.26']], {})).status).toBe(422);
    expect((await pay('61.15', [[invoice.id, '61.15', '1.25']], {})).reply).toMatchObject({ balance: '0.00', invoices: [] });
    const shown = await desk.call('fay', invoiceRoutes.readInvoice, { params: { invoice: invoice.id } });
    expect(shown.settlements.map(({ kind, amount }) => [kind, amount])).toEqual([
      ['payment', '61.15'],
      ['discount', '1.25'],
    ]);
  });

  test('that did not come in after all is reversed: its invoices are open again, with their discount; small rests are written off', async () => {
    const invoice = await bill((await shipped([['JAR', '10']])).shipment);
    await pay('6.20', [[invoice.id, '6.20']]);
    const off = await desk.call('fay', invoiceRoutes.writeOff, { params: { invoice: invoice.id }, body: { amount: '0.04', reason: 'bank charges' } });
    expect(off.open).toBe('0.00');
    const { payments } = await money();
    const back = await desk.call('fay', paymentRoutes.reversePayment, { params: { payment: payments[0]!.id }, body: { reason: 'bounced' } });
    expect([back.balance, back.payments[0]!.reversed, back.onAccount]).toEqual(['6.20', 'bounced', '0.00']);
    const twice = await desk.send('fay', paymentRoutes.reversePayment, { params: { payment: payments[0]!.id }, body: { reason: 'bounced' } });
    expect(twice.status).toBe(409);
  });

  test('recorded by two at once for one invoice: nothing is paid twice', async () => {
    const invoice = await bill((await shipped([['JAR', '10']])).shipment);
    const answers = await Promise.all([pay('6.24', [[invoice.id, '6.24']]), pay('6.24', [[invoice.id, '6.24']])]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
    expect((await money()).balance).toBe('0.00');
  });
});

test('an order that is billed is done with; one whose shipment is not is not', async () => {
  const { order, shipment } = await shipped([['JAR', '10']]);
  const progress = async () => (await desk.call('ida', orderRoutes.listOrders, { query: { state: 'all' } })).rows.find((row) => row.id === order.id)!.progress;
  expect(await progress()).toBe('shipped');
  await bill(shipment);
  expect(await progress()).toBe('billed');
});

describe('a deposit', () => {
  test('stays for its order, and the invoices of that order take it; what is left pays the next', async () => {
    const order = await desk.order([['JAR', '100']]);
    const other = await shipped([['JAR', '10']]);
    const wrong = await pay('20', [], { order: '99999' });
    expect(wrong.problem.detail).toBe('body.order: this customer has no order 99999');
    await pay('40', [], { order: order.number });
    const elsewhere = await bill(other.shipment);
    expect(elsewhere.open).toBe(elsewhere.total);
    expect((await money()).payments[0]).toMatchObject({ onAccount: '40.00', order: { id: order.id, number: order.number } });
    const first = await bill((await leaves(order, ['60'])).shipment);
    expect([first.total, first.open]).toEqual(['37.44', '0.00']);
    const rest = await bill((await leaves(await desk.read(order), ['40'])).shipment);
    expect([rest.total, rest.open]).toEqual(['24.96', '22.40']);
    expect((await money()).onAccount).toBe('0.00');
  });
});

test('a statement of account is a paper; days sales outstanding go by what the ledger had', async () => {
  const { shipment } = await shipped([['JAR', '100']]);
  const invoice = await bill(shipment);
  const reply = await desk.request('ida', 'GET', '/api/customers/1/statement');
  expect([
    reply.status,
    Buffer.from(await reply.arrayBuffer())
      .subarray(0, 5)
      .toString(),
  ]).toEqual([200, '%PDF-']);
  expect((await desk.request('wil', 'GET', '/api/customers/1/statement')).status).toBe(403);
  expect((await desk.call('fay', invoiceRoutes.listInvoices, { query: {} })).outstanding).toEqual({ now: '90', before: null });
  await pay('31.20', [[invoice.id, '31.20']]);
  expect((await desk.call('fay', invoiceRoutes.listInvoices, { query: { state: 'all' } })).outstanding.now).toBe('45');
});

test('who is held for credit stands beside what they owe, so that a payment can let the order go', async () => {
  await desk.db.updateTable('customer').set({ credit_limit: '20' }).where('id', '=', 1).execute();
  const draft = await desk.draft([['JAR', '100']]);
  const held = await desk.release(draft);
  expect(held.holds.map((hold) => hold.kind)).toEqual(['credit']);
  expect((await money()).held).toMatchObject([{ id: held.id }]);
});
