import { ledgerRoutes } from '@nockwright/contract/ledger';
import { payableRoutes, type SupplierInvoiceView } from '@nockwright/contract/payables';
import { supplyRoutes } from '@nockwright/contract/supply';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
let line: number;
let number: string;
beforeEach(async () => {
  desk = await TestDesk.open();
  ({ line, number } = await received('100', '100', '2'));
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

/** Buys so many jars at a cost, of which so many come. */
async function received(ordered: string, came: string, cost: string) {
  const purchase = await desk.purchase('JAR', ordered, '2027-03-20');
  await desk.db.updateTable('purchase_line').set({ cost }).where('purchase_id', '=', purchase.id).execute();
  if (Number(came) > 0) await desk.receive(purchase.id, came);
  return purchase;
}
const enter = (quantity: string, price: string, more: object = {}) =>
  desk.send('fay', payableRoutes.enterSupplierInvoice, {
    body: {
      supplier: 'SUP',
      number: 'S-1',
      day: '2027-03-08',
      dueDay: '2027-04-07',
      freight: '0',
      tax: '0',
      total: String(Number(quantity) * Number(price)),
      lines: [{ line, quantity, price }],
      ...more,
    },
  });
const accept = (invoice: SupplierInvoiceView, reason = 'agreed by telephone', login: 'fay' | 'ida' = 'fay') =>
  desk.send(login, payableRoutes.acceptSupplierInvoice, { params: { payable: invoice.id }, body: { version: invoice.version, reason } });
async function balances(): Promise<Record<string, string>> {
  const { accounts } = await desk.call('fay', ledgerRoutes.readAccounts, { query: {} });
  return Object.fromEntries(accounts.filter((row) => Number(row.debit) + Number(row.credit) > 0).map((row) => [row.name, row.balance]));
}

describe('a supplier’s invoice', () => {
  test('that matches is accepted at once, and takes the place of what was owed for the goods', async () => {
    const [open] = await desk.call('fay', payableRoutes.listInvoiceable, { params: { supplier: 'SUP' } });
    expect(open).toMatchObject({ line, purchaseNumber: number, quantity: '100', cost: '2' });
    const { reply } = await enter('60', '2', { tax: '24', freight: '5', total: '149' });
    expect(reply).toMatchObject({ state: 'accepted', findings: [], net: '120.00' });
    expect(await balances()).toEqual({
      Stock: '200.00',
      'Received, not invoiced': '-80.00',
      'Input tax': '24.00',
      'Inbound freight': '5.00',
      Payables: '-149.00',
    });
    expect((await desk.call('fay', payableRoutes.listInvoiceable, { params: { supplier: 'SUP' } }))[0]!.quantity).toBe('40');
    const paid = await desk.call('fay', payableRoutes.paySupplierInvoice, {
      params: { payable: reply.id },
      body: { version: reply.version, day: '2027-03-09' },
    });
    expect(paid).toMatchObject({ state: 'paid', paidDay: '2027-03-09' });
    expect(await balances()).toMatchObject({ Payables: '0.00', Bank: '-149.00' });
    const [entry] = (await desk.call('fay', ledgerRoutes.listEntries, { query: { q: 'S-1' } })).entries;
    expect(entry).toMatchObject({ kind: 'supplier_paid', paper: { kind: 'supplier_invoice', key: String(reply.id) } });
  });

  test('at another price waits for a person; accepted, the goods on hand cost more, and what has gone is a difference', async () => {
    const order = await desk.order([['JAR', '75']]);
    await desk.shipLine(order, 1, '75');
    const { reply: held } = await enter('100', '2.4');
    expect(held).toMatchObject({ state: 'held', acceptable: true, findings: [{ kind: 'price', by: '40.00', cost: '2', price: '2.4' }] });
    expect((await accept(held, '')).problem.errors).toEqual([{ field: 'body.reason', message: 'say why the difference is taken' }]);
    expect((await accept(held, 'x', 'ida')).status).toBe(403);
    const { reply } = await accept(held);
    expect(reply).toMatchObject({ state: 'accepted', reason: 'agreed by telephone' });
    // A quarter is on hand: 10.00 of the 40.00.
    expect(await balances()).toMatchObject({ Stock: '60.00', 'Purchase price differences': '30.00', Payables: '-240.00', 'Received, not invoiced': '0.00' });
    expect((await accept(held)).status).toBe(409);
  });

  test('for more than came waits until it has come', async () => {
    const other = await received('50', '30', '2');
    line = other.line;
    const { reply: held } = await enter('50', '2');
    expect(held).toMatchObject({ state: 'held', acceptable: false, findings: [{ kind: 'quantity', by: '20' }] });
    expect((await accept(held)).problem.detail).toBe('20 of JAR have not come: accept it once they have, or refuse it.');
    await desk.receive(other.id, '20');
    const now = await desk.call('fay', payableRoutes.readSupplierInvoice, { params: { payable: held.id } });
    expect(now).toMatchObject({ findings: [], acceptable: true });
    expect((await accept(now, '')).reply.state).toBe('accepted');
  });

  test('is entered once: not twice by number, not for lines of others; refused, its number is free again', async () => {
    await enter('10', '2');
    expect((await enter('10', '2', { number: 's-1' })).problem.detail).toContain('invoice s-1 of');
    expect((await enter('10', '2', { number: 'S-2', lines: [{ line: 9999, quantity: '1', price: '1' }] })).problem.detail).toContain(
      'has no purchase line 9999',
    );
    const twice = [
      { line, quantity: '1', price: '1' },
      { line, quantity: '1', price: '1' },
    ];
    expect((await enter('10', '2', { number: 'S-2', lines: twice })).problem.detail).toContain('stands twice');
    expect((await enter('10', '2', { number: 'S-2', dueDay: '2027-03-01' })).problem.detail).toContain('body.dueDay');
    const { reply: held } = await enter('10', '3', { number: 'S-3' });
    const refuse = { params: { payable: held.id }, body: { version: held.version, reason: 'wrong price' } };
    expect((await desk.send('fay', payableRoutes.refuseSupplierInvoice, refuse)).reply.state).toBe('refused');
    expect((await enter('10', '2', { number: 'S-3' })).reply.state).toBe('accepted');
    expect((await enter('10', '2', { number: 'S-4', total: '21' })).reply).toMatchObject({ findings: [{ kind: 'total', by: '1.00' }], acceptable: false });
  });

  test('two clerks enter the same invoice in the same second: one has it', async () => {
    const both = await Promise.all([enter('100', '2'), enter('100', '2')]);
    expect(both.map((one) => one.status).sort()).toEqual([200, 422]);
  });

  test('of a drop shipment is matched with what left for the customer', async () => {
    const order = await desk.release(await desk.take(await desk.draft([['BOX', '8']]), 1, { kind: 'drop_ship', supplier: 'SUP', quantity: '8' }));
    const made = await desk.readPurchase(order.lines[0]!.routes[0]!.document!.id);
    const view = await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: made.id }, body: { version: made.version } });
    await desk.call('ida', supplyRoutes.confirmDespatch, {
      params: { purchase: view.id },
      body: { version: view.version, tracking: 'T', lines: [{ line: view.lines[0]!.id, quantity: '8' }] },
    });
    line = view.lines[0]!.id;
    const { reply } = await enter('8', view.lines[0]!.cost!);
    expect(reply).toMatchObject({ state: 'accepted', findings: [] });
    expect((await balances())['Received, not invoiced']).toBe('-200.00');
  });
});

describe('an invoice as UBL', () => {
  const ubl = (purchase: string, price = '2.00', more = '') => `<?xml version="1.0" encoding="UTF-8"?>
<Invoice xmlns="urn:oasis:names:specification:ubl:schema:xsd:Invoice-2" xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
<cbc:ID>S-9</cbc:ID><cbc:IssueDate>2027-03-08</cbc:IssueDate><cbc:DueDate>2027-04-07</cbc:DueDate><cbc:DocumentCurrencyCode>EUR</cbc:DocumentCurrencyCode>
<cac:OrderReference><cbc:ID>${purchase}</cbc:ID></cac:OrderReference>
<cac:TaxTotal><cbc:TaxAmount currencyID="EUR">4.00</cbc:TaxAmount></cac:TaxTotal>
<cac:LegalMonetaryTotal><cbc:LineExtensionAmount currencyID="EUR">20.00</cbc:LineExtensionAmount><cbc:PayableAmount currencyID="EUR">24.00</cbc:PayableAmount></cac:LegalMonetaryTotal>
<cac:InvoiceLine><cbc:ID>1</cbc:ID><cbc:InvoicedQuantity unitCode="EA">10</cbc:InvoicedQuantity><cbc:LineExtensionAmount currencyID="EUR">20.00</cbc:LineExtensionAmount>
<cac:OrderLineReference><cbc:LineID>1</cbc:LineID></cac:OrderLineReference><cac:Item><cbc:Name>Jar</cbc:Name></cac:Item><cac:Price><cbc:PriceAmount currencyID="EUR">${price}</cbc:PriceAmount></cac:Price></cac:InvoiceLine>${more}</Invoice>`;
  const add = (content: string) => desk.send('fay', payableRoutes.addSupplierInvoiceFile, { body: { name: 'invoice.xml', content } });

  test('is read, matched and accepted like one that was typed', async () => {
    const { reply, problem } = await add(ubl(number));
    expect(problem.detail).toBeUndefined();
    expect(reply).toMatchObject({
      number: 'S-9',
      state: 'accepted',
      file: 'invoice.xml',
      total: '24.00',
      lines: [{ item: 'JAR', quantity: '10', price: '2' }],
    });
    expect((await add(ubl(number))).problem.detail).toContain('is entered already');
  });

  test.each([
    ['P0', '2.00', 'invoice.xml: line 1: purchase order P0 has no line for it'],
    ['', '2.00', 'line 1: OrderReference: expected the number of a purchase order'],
    ['P1', 'dear', 'line 1: PriceAmount: expected an amount, got dear'],
  ])('is refused by line and element: purchase %p at %s', async (purchase, price, fault) => {
    const { status, problem } = await add(ubl(purchase, price));
    expect(status).toBe(422);
    expect(problem.detail).toContain(fault);
    expect(await desk.db.selectFrom('supplier_invoice').select('id').execute()).toEqual([]);
  });
});
