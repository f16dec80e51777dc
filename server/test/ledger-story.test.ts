import { invoiceRoutes, paymentRoutes } from '@nockwright/contract/billing';
import { ledgerRoutes, type EntryRow } from '@nockwright/contract/ledger';
import { stockRoutes } from '@nockwright/contract/items';
import { consignmentRoutes } from '@nockwright/contract/shipping';
import { supplyRoutes } from '@nockwright/contract/supply';
import { minorUnit } from '@nockwright/core/money';
import { sql } from 'kysely';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeEach(async () => {
  desk = await TestDesk.open();
  await desk.db.updateTable('tax_class').set({ percent: '20' }).where('code', '=', 'standard').execute();
  await desk.db.updateTable('firm').set({ tax_number: 'GB123456789', country: 'GB' }).execute();
});
afterEach(async () => {
  // Every story ends with a ledger that balances and agrees with the books it is posted from.
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

async function balances(): Promise<Record<string, string>> {
  const { accounts } = await desk.call('fay', ledgerRoutes.readAccounts, { query: {} });
  return Object.fromEntries(accounts.filter((row) => Number(row.debit) + Number(row.credit) > 0).map((row) => [row.name, row.balance]));
}
const entries = async (query: object = {}): Promise<readonly EntryRow[]> => (await desk.call('fay', ledgerRoutes.listEntries, { query })).entries;
const said = (entry: EntryRow) => entry.lines.map(({ name, debit, credit }) => [name, Number(debit) - Number(credit)]);

/** Buys and receives so many of an item at a cost. */
async function buy(item: string, quantity: string, cost: string): Promise<string> {
  const purchase = await desk.purchase(item, quantity, '2027-03-20');
  await desk.db.updateTable('purchase_line').set({ cost }).where('purchase_id', '=', purchase.id).execute();
  await desk.receive(purchase.id, quantity);
  return purchase.number;
}
async function ship(item: string, quantity: string) {
  const order = await desk.order([[item, quantity]]);
  return desk.shipLine(order, 1, quantity);
}
async function bill(shipment: number) {
  const { total } = await desk.call('fay', invoiceRoutes.previewInvoice, { query: { shipments: String(shipment) } });
  return desk.call('fay', invoiceRoutes.issueInvoice, { body: { shipments: [shipment], total } });
}
const pay = (amount: string, invoice: number, discount = '0', part = amount) =>
  desk.call('fay', paymentRoutes.recordPayment, {
    params: { customer: 1 },
    body: { day: '2027-03-09', method: 'bank', amount, reference: '', settled: [{ invoice, amount: part, discount }] },
  });

describe('the cost of goods', () => {
  test('is a moving average, as the handbook has it: 100 at 10.00, 50 at 13.00, 90 sold, 40 at 12.00, 60 sold', async () => {
    // The figures are the textbook kind: weighted average 11.00 after the second purchase, 60 left at 11.00, 11.40 after the third. No source.
    await buy('JAR', '100', '10');
    await buy('JAR', '50', '13');
    const first = await ship('JAR', '90');
    await buy('JAR', '40', '12');
    const second = await ship('JAR', '60');
    const costOf = async (number: string) => said((await entries({ q: number })).find((row) => row.kind === 'shipment')!);
    expect(await costOf(first.number)).toEqual([
      ['Shipped, not billed', 990],
      ['Stock', -990],
    ]);
    expect(await costOf(second.number)).toEqual([
      ['Shipped, not billed', 684],
      ['Stock', -684],
    ]);
    expect(await balances()).toEqual({ Stock: '456.00', 'Shipped, not billed': '1674.00', 'Received, not invoiced': '-2130.00' });
  });

  test('leaves nothing by rounding: three at 10.00 together leave one by one', async () => {
    await buy('JAR', '3', '3.3333');
    for (let n = 0; n < 3; n++) await ship('JAR', '1');
    expect((await balances())['Stock']).toBe('0.00');
    expect((await balances())['Shipped, not billed']).toBe('10.00');
  });

  test('is by lot for items with lots', async () => {
    await desk.db.updateTable('item').set({ tracks_lots: true }).where('code', '=', 'JAR').execute();
    const at = new Date();
    for (const [lot, cost] of [
      ['A', '2'],
      ['B', '5'],
    ] as const) {
      await desk.db.updateTable('item').set({ cost }).where('code', '=', 'JAR').execute();
      await desk.db.insertInto('stock_movement').values({ at, item: 'JAR', warehouse: 'MAR', quantity: '10', kind: 'opening', reference: lot, lot }).execute();
    }
    await ship('JAR', '12');
    expect((await balances())['Shipped, not billed']).toBe('30.00');
    expect((await balances())['Stock']).toBe('40.00');
  });

  test('comes back as it left where a shipment is undone, whatever was bought meanwhile', async () => {
    await buy('JAR', '10', '4');
    const shipment = await ship('JAR', '6');
    await buy('JAR', '10', '9');
    await desk.call('ida', consignmentRoutes.undoShipment, { params: { consignment: shipment.consignment! }, body: { reason: 'wrong goods' } });
    expect(await balances()).toEqual({ Stock: '130.00', 'Shipped, not billed': '0.00', 'Received, not invoiced': '-130.00' });
  });

  test('goes along on a transfer and stays the same; what is lost on the way is a difference', async () => {
    await buy('JAR', '10', '4');
    const made = await desk.call('ida', supplyRoutes.createTransfer, { body: { from: 'MAR', to: 'QUI', lines: [{ item: 'JAR', quantity: '8' }] } });
    const sent = await desk.call('ida', supplyRoutes.shipTransfer, { params: { transfer: made.id }, body: { version: made.version } });
    expect((await balances())['Goods in transit']).toBe('32.00');
    await desk.call('ida', supplyRoutes.receiveTransfer, {
      params: { transfer: made.id },
      body: { version: sent.version, lines: [{ line: sent.lines[0]!.id, quantity: '5', damaged: '1' }], closeRest: true },
    });
    expect(await balances()).toEqual({ Stock: '32.00', 'Goods in transit': '0.00', 'Stock differences': '8.00', 'Received, not invoiced': '-40.00' });
    const [lost] = await entries({ account: '5010' });
    expect(lost).toMatchObject({ kind: 'transfer_lost', reference: `${made.number}/1`, paper: { kind: 'transfer', key: String(made.id) } });
  });

  test('is not changed by quarantine', async () => {
    await buy('JAR', '10', '4');
    const [place] = await desk.call('ida', stockRoutes.listPlaces, { query: { item: 'JAR' } });
    const all = { params: { place: place!.id }, body: { quantity: '10', status: 'quarantine' as const, cause: 'damaged' as const } };
    await desk.call('ida', stockRoutes.moveGoods, all);
    expect((await balances())['Stock']).toBe('40.00');
  });
});

describe('what is sold', () => {
  test('is posted with its tax and its cost; a discount takes its share of the tax; every entry leads to its paper', async () => {
    await buy('JAR', '100', '0.20');
    const shipment = await ship('JAR', '100');
    await desk.db.updateTable('customer').set({ discount_percent: '2', discount_days: 10 }).where('id', '=', 1).execute();
    const invoice = await bill(shipment.id);
    expect([invoice.net, invoice.tax, invoice.total]).toEqual(['52.00', '10.40', '62.40']);
    const [posted] = await entries({ q: invoice.number });
    expect(posted).toMatchObject({ kind: 'invoice', day: '2027-03-09', paper: { kind: 'invoice', key: String(invoice.id) } });
    expect(said(posted!)).toEqual([
      ['Receivables', 62.4],
      ['Cost of goods sold', 20],
      ['Sales of goods', -52],
      ['Output tax', -10.4],
      ['Shipped, not billed', -20],
    ]);
    await pay('61.15', invoice.id, '1.25');
    // 2 % of 62.40 is 1.25, of which 20 / 120 is tax: 0.21.
    expect(await balances()).toEqual({
      Bank: '61.15',
      Receivables: '0.00',
      Stock: '0.00',
      'Shipped, not billed': '0.00',
      'Received, not invoiced': '-20.00',
      'Output tax': '-10.19',
      'Payments on account': '0.00',
      'Sales of goods': '-52.00',
      'Discounts for early payment': '1.04',
      'Cost of goods sold': '20.00',
    });
    const { payments } = await desk.call('fay', paymentRoutes.readMoney, { params: { customer: 1 } });
    await desk.call('fay', paymentRoutes.reversePayment, { params: { payment: payments[0]!.id }, body: { reason: 'bounced' } });
    expect(await balances()).toMatchObject({ Bank: '0.00', Receivables: '62.40', 'Output tax': '-10.40', 'Discounts for early payment': '0.00' });
    await desk.call('fay', invoiceRoutes.creditInvoice, {
      params: { invoice: invoice.id },
      body: { lines: [{ line: invoice.lines[0]!.id, quantity: '10' }], reason: 'broken' },
    });
    await desk.call('fay', invoiceRoutes.writeOff, { params: { invoice: invoice.id }, body: { amount: '0.16', reason: 'small' } });
    expect(await balances()).toMatchObject({ Receivables: '56.00', 'Output tax': '-9.36', 'Sales of goods': '-46.80', 'Written-off receivables': '0.16' });
  });

  test('can be had as comma-separated values, debit and credit apart', async () => {
    await buy('JAR', '2', '1.5');
    const reply = await desk.request('fay', 'GET', '/api/ledger/export');
    const lines = (await reply.text()).trim().split('\r\n');
    expect(lines[0]).toContain('entry,day,posted,kind,reference,account,name,debit,credit');
    expect(lines.slice(1).map((line) => line.split(',').slice(3, 10).join(' '))).toEqual([
      expect.stringMatching(/^receipt P\d+ 1200 Stock 3.00 0.00 JAR$/),
      expect.stringMatching(/^receipt P\d+ 2010 "?Received/),
    ]);
  });
});

describe('a month', () => {
  test('is closed once, in turn, when it is over; what comes later counts for the month after', async () => {
    const at = new Date('2027-02-10T10:00:00');
    await desk.db.insertInto('stock_movement').values({ at, item: 'JAR', warehouse: 'MAR', quantity: '10', kind: 'opening', reference: 'x' }).execute();
    const close = (month: string, login: 'fay' | 'ida' = 'fay') => desk.send(login, ledgerRoutes.closeMonth, { body: { month } });
    expect((await close('2027-02-01', 'ida')).status).toBe(403);
    expect((await close('2027-02-02')).problem.detail).toContain('expected the first day of a month');
    expect((await close('2027-03-01')).problem.detail).toBe('2027-03 is not over yet.');
    expect((await close('2026-01-01')).problem.detail).toBe('body.month: nothing is posted in 2026-01');
    expect((await close('2027-02-01')).status).toBe(200);
    expect((await close('2027-02-01')).problem.detail).toBe('2027-02 is closed already.');
    await desk.db.insertInto('stock_movement').values({ at, item: 'JAR', warehouse: 'MAR', quantity: '5', kind: 'opening', reference: 'late' }).execute();
    expect((await entries({ q: 'late' }))[0]!.day).toBe('2027-03-01');
    const months = await desk.call('fay', ledgerRoutes.listMonths);
    expect(months.map((row) => [row.month, row.entries, row.closed?.by ?? null])).toEqual([
      ['2027-03-01', 1, null],
      ['2027-02-01', 1, 'fay'],
    ]);
  });

  test('is not closed while something differs', async () => {
    const at = new Date('2027-02-10T10:00:00');
    await desk.db.insertInto('stock_movement').values({ at, item: 'JAR', warehouse: 'MAR', quantity: '10', kind: 'opening', reference: 'x' }).execute();
    await desk.asOwner(`update stock_value set value = value + 1 where item = 'JAR'`);
    const { checks } = await desk.call('fay', ledgerRoutes.reconcile);
    expect(checks.filter((check) => check.different > 0)).toMatchObject([
      { name: 'Stock', different: 1, rows: [{ label: 'JAR at MAR', difference: '-1.00' }] },
    ]);
    const refused = await desk.send('fay', ledgerRoutes.closeMonth, { body: { month: '2027-02-01' } });
    expect([refused.status, refused.problem.detail]).toEqual([409, 'Stock: the ledger and the books differ. Nothing was closed: put that right first.']);
    await desk.asOwner(`update stock_value set value = value - 1 where item = 'JAR'`);
  });
});

describe('the database', () => {
  test('refuses an entry that does not balance, and any change of what is posted, even to the owner', async () => {
    await buy('JAR', '2', '1.5');
    await expect(desk.asOwner(`insert into ledger_line (entry_id, account, amount) select max(id), '1200', 5 from ledger_entry`)).rejects.toThrow(
      'does not balance',
    );
    await expect(desk.asOwner(`update ledger_line set amount = amount * 2`)).rejects.toThrow('not changed');
    await expect(desk.asOwner(`delete from ledger_entry`)).rejects.toThrow();
    for (const query of [
      sql`insert into ledger_entry (day, kind) values (now(), 'opening')`,
      sql`update stock_value set value = 0`,
      sql`delete from ledger_period`,
    ])
      await expect(query.execute(desk.db)).rejects.toThrow('permission denied');
  });

  test('rounds as the application does, whatever the currency', async () => {
    for (const currency of ['EUR', 'GBP', 'JPY', 'KRW', 'ISK', 'BHD', 'KWD', 'OMR', 'TND']) {
      await desk.asOwner(`update firm set currency = '${currency}'`);
      const { rows } = await sql<{ digits: number }>`select money_digits() as digits`.execute(desk.db);
      expect(rows[0]!.digits).toBe(minorUnit(currency));
    }
  });
});
