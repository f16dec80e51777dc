import { randomUUID } from 'node:crypto';
import { bankRoutes, invoiceRoutes, paymentRoutes, type InvoiceView } from '@nockwright/contract/billing';
import { ledgerRoutes } from '@nockwright/contract/ledger';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
let invoices: readonly InvoiceView[];
beforeEach(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '500');
  invoices = [await billed('10', 1), await billed('20', 1), await billed('30', 2)];
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

async function billed(quantity: string, customer: number): Promise<InvoiceView> {
  const order = await desk.order([['JAR', quantity]], 'ida', customer);
  const shipment = await desk.shipLine(order, 1, quantity);
  const { total } = await desk.call('fay', invoiceRoutes.previewInvoice, { query: { shipments: String(shipment.id) } });
  return desk.call('fay', invoiceRoutes.issueInvoice, { body: { shipments: [shipment.id], total } });
}
const csv = (...rows: readonly string[]) => ['Day;Amount;Payer;Text;IBAN;Id', ...rows].join('\n');
const add = (content: string, name = 'bank.csv') => desk.send('fay', bankRoutes.addBankFile, { body: { name, content } });
const list = (state: 'waiting' | 'booked' | 'set_aside' = 'waiting') => desk.call('fay', bankRoutes.listBankEntries, { query: { state } });
const money = (customer: number) => desk.call('fay', paymentRoutes.readMoney, { params: { customer } });

describe('a bank file', () => {
  test('is taken in once: neither the same file nor a movement of another adds anything', async () => {
    const first = csv('2027-03-08;5.00;A;x;;B1', '2027-03-08;-3.00;Bank;fee;;B2');
    expect((await add(first)).reply).toEqual({ found: 2, added: 2 });
    expect((await add(first)).reply).toEqual({ found: 2, added: 0 });
    expect((await add(csv('2027-03-08;-3.00;Bank;fee;;B2', '2027-03-09;9.00;C;y;;B3'))).reply).toEqual({ found: 2, added: 1 });
    expect((await list()).rows.map((row) => [row.amount, row.direction])).toEqual([
      ['9.00', 'in'],
      ['3.00', 'out'],
      ['5.00', 'in'],
    ]);
  });

  test('of more than a megabyte is taken in whole', async () => {
    const rows = Array.from({ length: 12_000 }, (_, at) => `2027-03-08;${at + 1}.00;Somebody with a long name;${'x'.repeat(60)};;B${at}`);
    expect((await add(csv(...rows))).reply).toEqual({ found: 12_000, added: 12_000 });
  });

  test('that cannot be read adds nothing, and says where it is wrong', async () => {
    const { status, problem } = await add(csv('2027-03-08;5.00;A;x;;B1', 'soon;x;A;x;;B2'));
    expect([status, problem.detail]).toEqual([
      422,
      'bank.csv: line 3: day: expected a day as 2027-03-09, got soon; line 3: amount: expected an amount other than 0, got x',
    ]);
    expect((await add('<Document/>', 'x.xml')).problem.detail).toContain('expected a bank statement');
    expect((await add(csv('2027-03-08;5.00;A;x;;B1').replace('Day', 'Tag'))).status).toBe(422);
    expect((await list()).waiting).toBe(0);
    const stranger = await desk.send('ida', bankRoutes.addBankFile, { body: { name: 'x', content: csv() } });
    expect(stranger.status).toBe(403);
  });
});

describe('movements', () => {
  test('that are sure are booked by one act, once; a doubtful one waits with whose it may be', async () => {
    await add(
      csv(
        `2027-03-08;5.20;Somebody;paid ${invoices[0]!.number};GB82WEST12345698765432;B1`,
        `2027-03-08;10.40;x;${invoices[1]!.reference};;B2`,
        `2027-03-08;15.60;y;${invoices[2]!.number};;B3`,
        '2027-03-08;10.40;Somebody else;thank you;;B4',
      ),
    );
    expect((await list()).sure).toBe(3);
    // One for each customer at a time: where the next goes hangs on it.
    expect(await desk.call('fay', bankRoutes.bookSureEntries, { body: {} })).toEqual({ booked: 2, left: 1 });
    expect(await desk.call('fay', bankRoutes.bookSureEntries, { body: {} })).toEqual({ booked: 1, left: 0 });
    expect(await desk.call('fay', bankRoutes.bookSureEntries, { body: {} })).toEqual({ booked: 0, left: 0 });
    expect((await money(1)).invoices).toEqual([]);
    expect((await money(2)).balance).toBe('0.00');
    const { rows } = await list();
    expect(rows.map((row) => [row.amount, row.proposals])).toEqual([['10.40', []]]);
  });

  test('a doubtful one is booked as a person says, in part on account, and its account is known from then on', async () => {
    await add(csv('2027-03-08;7.00;A stranger;;GB82WEST12345698765432;B1', '2027-03-08;15.60;;;GB82WEST12345698765432;B2'));
    const [second, first] = (await list()).rows;
    expect(first!.proposals).toEqual([]);
    const body = { customer: 2, settled: [{ invoice: invoices[2]!.id, amount: '16.00', discount: '0' }] };
    const wrong = await desk.send('fay', bankRoutes.bookBankEntry, { params: { entry: first!.id }, body });
    expect(wrong.problem.detail).toContain('body.settled[0].amount');
    await desk.call('fay', bankRoutes.bookBankEntry, { params: { entry: first!.id }, body: { customer: 2, settled: [] } });
    expect(await money(2)).toMatchObject({ onAccount: '7.00', balance: '8.60' });
    const known = (await list()).rows.find((row) => row.id === second!.id)!;
    expect(known.proposals).toMatchObject([{ customer: 2, sure: true, why: [{ kind: 'account' }, { kind: 'amount' }] }]);
    const twice = await desk.send('fay', bankRoutes.bookBankEntry, { params: { entry: first!.id }, body: { customer: 2, settled: [] } });
    expect([twice.status, twice.problem.detail]).toEqual([409, 'This movement is booked already.']);
  });

  test('two clerks book one movement: one has it', async () => {
    await add(csv('2027-03-08;5.20;x;;;B1'));
    const [row] = (await list()).rows;
    const book = (login: 'fay' | 'mona', customer: number) =>
      desk.send(login, bankRoutes.bookBankEntry, { params: { entry: row!.id }, body: { customer, settled: [] } });
    const both = await Promise.all([book('fay', 1), book('mona', 2)]);
    expect(both.map((one) => one.status).sort()).toEqual([200, 409]);
    expect((await desk.db.selectFrom('payment').select('id').execute()).length).toBe(1);
  });

  test('what is no payment is set aside with why, and taken up again; what went out is never booked', async () => {
    await add(csv('2027-03-08;-3.00;Bank;fee;;B2'));
    const [row] = (await list()).rows;
    const params = { entry: row!.id };
    expect((await desk.send('fay', bankRoutes.bookBankEntry, { params, body: { customer: 1, settled: [] } })).problem.detail).toContain('This went out');
    expect(await desk.call('fay', bankRoutes.setBankEntryAside, { params, body: { why: 'bank fee' } })).toEqual({ waiting: 0 });
    expect((await list('set_aside')).rows[0]).toMatchObject({ why: 'bank fee' });
    expect((await desk.send('fay', bankRoutes.setBankEntryAside, { params, body: { why: 'x' } })).status).toBe(409);
    expect(await desk.call('fay', bankRoutes.takeBankEntryUp, { params, body: {} })).toEqual({ waiting: 1 });
  });

  test('booked for the wrong customer: the payment is reversed, and the movement waits again; a chargeback does not, and costs', async () => {
    await add(csv(`2027-03-08;5.20;x;${invoices[0]!.number};;B1`, `2027-03-08;15.60;x;${invoices[2]!.number};;B2`));
    await desk.call('fay', bankRoutes.bookSureEntries, { body: {} });
    const reverse = async (customer: number, more: object) =>
      desk.call('fay', paymentRoutes.reversePayment, {
        params: { payment: (await money(customer)).payments[0]!.id },
        body: { reason: 'wrong', ...more },
      });
    await reverse(1, {});
    await reverse(2, { chargeback: true, fee: '4.50' });
    expect((await list()).rows.map((row) => row.amount)).toEqual(['5.20']);
    expect((await money(2)).balance).toBe('15.60');
    const { accounts } = await desk.call('fay', ledgerRoutes.readAccounts, { query: {} });
    expect(accounts.filter((row) => ['Bank', 'Bank charges'].includes(row.name)).map((row) => row.balance)).toEqual(['-4.50', '4.50']);
  });
});

describe('money given back', () => {
  const refund = (body: object, customer = 1) =>
    desk.send('fay', paymentRoutes.refundCustomer, { params: { customer }, body: { amount: '1', method: 'bank' as const, reason: 'asked', ...body } });

  test('is of what is on account, never more; a payment that is given back is not reversed', async () => {
    expect((await refund({})).problem.detail).toContain('nothing of this customer is on account');
    await desk.call('fay', paymentRoutes.recordPayment, {
      params: { customer: 1 },
      body: { day: '2027-03-09', method: 'bank', amount: '10', reference: '', settled: [] },
    });
    expect((await refund({ amount: '10.01' })).problem.detail).toBe('body.amount: 10.01 is more than the 10 that can be given back');
    const { reply } = await refund({ amount: '4' });
    expect(reply).toMatchObject({ onAccount: '6.00', refunds: [{ amount: '4.00', of: 'what was on account' }] });
    const reversed = await desk.send('fay', paymentRoutes.reversePayment, { params: { payment: reply.payments[0]!.id }, body: { reason: 'x' } });
    expect([reversed.status, reversed.problem.detail]).toEqual([409, 'A part of this payment was given back: it cannot be reversed.']);
  });

  test('is of a credit note that is not used up', async () => {
    const invoice = invoices[0]!;
    await desk.call('fay', paymentRoutes.recordPayment, {
      params: { customer: 1 },
      body: { day: '2027-03-09', method: 'bank', amount: '5.20', reference: '', settled: [{ invoice: invoice.id, amount: '5.20', discount: '0' }] },
    });
    const note = await desk.call('fay', invoiceRoutes.creditInvoice, {
      params: { invoice: invoice.id },
      body: { lines: [{ line: invoice.lines[0]!.id, quantity: '2' }], reason: 'broken' },
    });
    expect((await refund({ amount: '1.04', credit: note.id }, 2)).problem.detail).toContain('has no credit note');
    const { reply } = await refund({ amount: '1.04', credit: note.id });
    expect([reply.credits, reply.refunds]).toMatchObject([[], [{ of: `credit note ${note.number}` }]]);
    expect((await refund({ amount: '0.01', credit: note.id })).status).toBe(422);
  });
});

test('200 clerks issue invoices at once: numbers have neither gap nor double, and the ledger balances', async () => {
  const shipments: number[] = [];
  for (let n = 0; n < 40; n++) {
    const order = await desk.order([['JAR', '5']]);
    for (let part = 0; part < 5; part++) shipments.push((await desk.shipLine(order, 1, '1')).id);
  }
  const { total } = await desk.call('fay', invoiceRoutes.previewInvoice, { query: { shipments: String(shipments[0]) } });
  // Who waits too long for a connection is told to send it again, with the same key: as the page does.
  const issue = async (shipment: number) => {
    const key = randomUUID();
    for (;;) {
      const answer = await desk.send('fay', invoiceRoutes.issueInvoice, { body: { shipments: [shipment], total }, key });
      if (answer.status !== 503) return answer;
    }
  };
  // Each is asked for by one clerk, and every tenth by two.
  const asked = [...shipments, ...shipments.filter((_, at) => at % 10 === 0)];
  const answers = await Promise.all(asked.map(issue));
  const issued = answers.filter((one) => one.status === 200).map((one) => Number(one.reply.number.slice(1)));
  expect(issued.length).toBe(200);
  expect(answers.filter((one) => one.status !== 200).every((one) => one.status === 409)).toBe(true);
  const first = Math.min(...issued);
  expect([...issued].sort((a, b) => a - b)).toEqual(Array.from({ length: 200 }, (_, at) => first + at));
});
