import { invoiceRoutes, paymentRoutes, type BillableRow, type InvoicePreview, type InvoiceView, type MoneyView } from '@nockwright/contract/billing';
import { of, Subject } from 'rxjs';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { show, testApi } from '../test-screen';
import { BillPage } from './bill-page';
import { CreditForm } from './credit-form';
import { InvoiceList } from './invoice-list';
import { InvoiceSheet } from './invoice-sheet';
import { MoneyPage } from './money-page';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const shipment = (id: number, number: string) => ({
  id,
  number,
  order: 7,
  orderNumber: '20400',
  poNumber: 'PO-1',
  day: '2027-03-08',
  lines: 1,
  freight: '0',
  net: '10.00',
});
const group: BillableRow = {
  customer: 'Wether Hill',
  customerId: 1,
  rule: 'shipment',
  due: true,
  currency: 'EUR',
  net: '20.00',
  since: '2027-03-08',
  shipments: [shipment(11, '20400-1'), shipment(12, '20400-2')],
};
const line = {
  id: 5,
  lineNo: 1,
  kind: 'goods' as const,
  order: 7,
  orderNumber: '20400',
  shipment: '20400-1',
  item: 'JAR',
  theirCode: '',
  text: 'Jar',
  quantity: '3',
  unit: 'DZN',
  price: '4.08',
  amount: '12.24',
  category: 'S' as const,
  percent: '20',
  credited: '0.00',
};
const taxes = [{ category: 'S' as const, percent: '20', reason: '', base: '12.24', tax: '2.45' }];
const preview: InvoicePreview = {
  customer: 'Wether Hill',
  customerId: 1,
  currency: 'EUR',
  dueDay: '2027-04-08',
  payable: 'Please pay 14.69 EUR by Thu 8 Apr.',
  lines: [line],
  taxes,
  net: '12.24',
  tax: '2.45',
  total: '14.69',
};
const invoice: InvoiceView = {
  id: 3,
  kind: 'invoice',
  number: 'I10001',
  customer: 'Wether Hill',
  customerId: 1,
  day: '2027-03-09',
  dueDay: '2027-04-08',
  currency: 'EUR',
  terms: '30 days net',
  payable: 'Please pay 14.69 EUR by Thu 8 Apr.',
  reference: 'RF31I10001',
  net: '12.24',
  tax: '2.45',
  total: '14.69',
  paid: '0.00',
  open: '14.69',
  overdue: false,
  credits: null,
  reason: '',
  notes: [],
  lines: [line],
  taxes,
  settlements: [],
  history: [],
};

/** Where a screen leads is not gone to. */
const stays = () => jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);

describe('what is to bill', () => {
  const screen = (role = 'finance') => {
    const made = testApi();
    made.answers([invoiceRoutes.listBillable, [group]], [invoiceRoutes.previewInvoice, preview], [invoiceRoutes.issueInvoice, invoice]);
    return { ...made, page: show(BillPage, {}, made.providers, role) };
  };
  const asked = (api: { call: jest.Mock }, route: unknown) => api.call.mock.calls.filter((call) => call[0] === route).map((call: unknown[]) => call[1]);

  it('shows the invoice over all that waits of a customer; chosen ones alone are on it, and it is issued at the total that is shown', () => {
    const { api, page } = screen();
    page.element.querySelector<HTMLElement>('tbody tr')!.focus();
    page.settle();
    expect(asked(api, invoiceRoutes.previewInvoice)).toEqual([{ query: { shipments: '11,12' } }]);
    expect(page.text).toContain('20 % tax on 12.24');
    page.press(' ', page.element.querySelectorAll('tbody tr')[1]!);
    expect(asked(api, invoiceRoutes.previewInvoice).at(-1)).toEqual({ query: { shipments: '12' } });
    const gone = stays();
    page.press('Enter', document.body, { ctrlKey: true });
    expect(asked(api, invoiceRoutes.issueInvoice)).toEqual([{ body: { shipments: [12], total: '14.69' } }]);
    expect(gone).toHaveBeenCalledWith(['/invoices', 3]);
  });

  it('a run goes from customer to customer until it is stopped', () => {
    const { api, page } = screen();
    const replies = [new Subject<object>(), new Subject<object>()];
    let at = 0;
    api.call.mockImplementation((route: unknown) => (route === invoiceRoutes.billNext ? replies[at++]! : of([])));
    page.press('b');
    replies[0]!.next({ invoice: { id: 1, number: 'I10001', customer: 'Wether Hill', total: '1' }, left: 4 });
    page.settle();
    expect(page.text).toContain('1 invoice issued, 4 to go.');
    page.press('b');
    replies[1]!.next({ invoice: { id: 2, number: 'I10002', customer: 'Garrick', total: '1' }, left: 3 });
    page.settle();
    expect(page.text).toContain('Stopped');
    expect(at).toBe(2);
  });

  it('a coordinator sees it and issues nothing', () => {
    const { api, page } = screen('coordinator');
    page.element.querySelector<HTMLElement>('tbody tr')!.focus();
    page.press('Enter', document.body, { ctrlKey: true });
    expect(asked(api, invoiceRoutes.issueInvoice)).toEqual([]);
    expect(() => page.button('Issue invoice')).toThrow();
  });
});

it('an invoice shows its lines and what they come to; a credit is asked for line by line', () => {
  const { api, providers, answers, lastBody } = testApi();
  answers([invoiceRoutes.readInvoice, invoice], [invoiceRoutes.creditInvoice, { ...invoice, id: 4, kind: 'credit_note' }]);
  const page = show(InvoiceSheet, { id: 3 }, providers, 'finance');
  expect(page.text).toContain('3 dozen');
  expect(page.text).toContain('Please pay 14.69 EUR');
  page.press('c');
  page.click('Issue credit note');
  expect(page.text).toContain('Type how many of which line are credited.');
  page.type('Credited quantity: line 1, JAR', '1');
  page.type('Less for one: line 1, JAR', 'x');
  page.type('Why', 'price agreed');
  page.click('Issue credit note');
  expect(page.text).toContain('Line 1, JAR: expected a quantity and an amount');
  page.type('Less for one: line 1, JAR', '0.5');
  stays();
  page.click('Issue credit note');
  expect(lastBody()).toEqual({ lines: [{ line: 5, quantity: '1', perUnit: '0.5' }], reason: 'price agreed' });
  expect(api.call).toHaveBeenCalled();
});

it('a credit that is refused is told, and can be sent again', () => {
  const { api, providers } = testApi();
  const reply = new Subject<InvoiceView>();
  api.call.mockReturnValue(reply);
  const form = show(CreditForm, { invoice }, providers);
  form.type('Credited quantity: line 1, JAR', '9');
  form.type('Why', 'x');
  form.click('Issue credit note');
  form.press('Enter', document.body, { ctrlKey: true });
  expect(api.call).toHaveBeenCalledTimes(1);
  reply.error(new Error('9 is more than the 3 billed on line 1'));
  form.settle();
  expect(form.text).toContain('9 is more than the 3 billed');
  expect(form.button('Issue credit note').disabled).toBe(false);
});

it('invoices are listed with what is open and overdue; a credit note counts below nothing', () => {
  const { providers, answers } = testApi();
  const row = {
    id: 3,
    kind: 'invoice',
    number: 'I10001',
    customer: 'Wether Hill',
    customerId: 1,
    day: '2027-03-09',
    dueDay: '2027-03-01',
    currency: 'EUR',
    total: '14.69',
    open: '14.69',
    overdue: true,
  };
  const note = { ...row, id: 4, kind: 'credit_note', number: 'CN1', total: '2.00', open: '2.00', overdue: false };
  answers([
    invoiceRoutes.listInvoices,
    { rows: [note, row], more: false, open: '12.69', overdue: '14.69', currency: 'EUR', outstanding: { now: '41.2', before: '38.0' } },
  ]);
  const page = show(InvoiceList, {}, providers, 'finance');
  expect(page.text).toContain('Open 12.69 EUR, overdue 14.69 EUR');
  expect(page.text).toContain('Days sales outstanding 41.2, 38.0 a month ago');
  expect(page.text).toContain('−2.00');
  expect(page.text).toContain('overdue');
});

describe('what a customer owes', () => {
  const open = (id: number, number: string, amount: string) => ({
    id,
    number,
    day: '2027-03-01',
    dueDay: '2027-03-31',
    total: amount,
    open: amount,
    overdue: false,
    discount: '0.00',
    discountUntil: null,
  });
  const money: MoneyView = {
    customerId: 1,
    number: 'C1',
    name: 'Wether Hill',
    currency: 'EUR',
    balance: '80.00',
    onAccount: '0.00',
    ages: [{ name: 'Not due', amount: '80.00' }],
    invoices: [open(3, 'I10001', '50.00'), open(4, 'I10002', '30.00')],
    credits: [{ id: 9, number: 'CN1', day: '2027-03-02', open: '5.00' }],
    payments: [],
    refunds: [],
    held: [{ id: 7, number: '20400', since: '2027-03-05', total: '90.00' }],
    terms: {
      version: 2,
      billingRule: 'shipment',
      billingValue: null,
      termsKind: 'net',
      termsDays: 30,
      discountPercent: '0',
      discountDays: 0,
      taxNumber: '',
      taxExemption: '',
    },
  };
  const screen = () => {
    const made = testApi();
    made.answers(
      [paymentRoutes.readMoney, money],
      [paymentRoutes.proposePayment, { settled: [{ invoice: 3, amount: '50.00', discount: '0.00' }], onAccount: '0.00' }],
      [paymentRoutes.recordPayment, { ...money, balance: '30.00' }],
      [paymentRoutes.applyCredit, money],
    );
    return { ...made, page: show(MoneyPage, { id: 1 }, made.providers, 'finance') };
  };

  it('a payment is proposed to the invoice it fits; said by hand it stays so, and no more goes than there is', () => {
    const { page, lastBody } = screen();
    page.press('p');
    page.press('Enter', document.body, { ctrlKey: true });
    expect(page.text).toContain('Amount: expected an amount above 0.');
    page.type('Amount in EUR', '60');
    expect(page.field('Paid now: I10001').value).toBe('50.00');
    expect(page.text).toContain('10.00 EUR stays on account.');
    page.type('Paid now: I10002', '20');
    page.press('Enter', document.body, { ctrlKey: true });
    expect(page.text).toContain('10.00 more goes to invoices than there is.');
    page.type('Paid now: I10002', '10');
    page.type('Amount in EUR', '60.00');
    page.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({
      day: '2027-03-09',
      method: 'bank',
      amount: '60.00',
      reference: '',
      settled: [
        { invoice: 3, amount: '50.00', discount: '0.00' },
        { invoice: 4, amount: '10', discount: '0' },
      ],
    });
    expect(page.text).toContain('Payment recorded.');
  });

  it('a credit note is used where the sheet says', () => {
    const { page, lastBody } = screen();
    page.click('Use CN1');
    page.type('Paid now: I10001', '5');
    page.click('Settle invoices');
    expect(lastBody()).toEqual({ settled: [{ invoice: 3, amount: '5', discount: '0' }] });
  });

  it('how they are billed is changed by the fields of the contract', () => {
    const { page } = screen();
    page.press('e');
    expect(page.text).toContain('How Wether Hill is billed');
    page.type('Days', '999');
    page.click('Save billing');
    expect(page.text).toContain('Days: expected 180 or less.');
  });
});
