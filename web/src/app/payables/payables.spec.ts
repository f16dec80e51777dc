import { payableRoutes, type SupplierInvoiceView } from '@nockwright/contract/payables';
import { supplyRoutes } from '@nockwright/contract/supply';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { show, testApi } from '../test-screen';
import { EnterInvoice } from './enter-invoice';
import { findingInWords } from './finding-words';
import { SupplierInvoiceList } from './supplier-invoice-list';
import { SupplierInvoiceSheet } from './supplier-invoice-sheet';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const invoice: SupplierInvoiceView = {
  id: 4,
  version: 2,
  supplier: 'SUP',
  name: 'Appleyard',
  number: 'S-1',
  day: '2027-03-08',
  dueDay: '2027-04-07',
  currency: 'EUR',
  net: '24.00',
  freight: '0.00',
  tax: '0.00',
  total: '24.00',
  state: 'held',
  file: '',
  reason: '',
  paidDay: null,
  findings: [{ kind: 'price', lineNo: 1, item: 'JAR', by: '4.00', cost: '2', price: '2.4' }],
  acceptable: true,
  lines: [
    {
      lineNo: 1,
      purchase: 7,
      purchaseNumber: 'P7',
      item: 'JAR',
      description: 'Jar',
      unit: 'EA',
      quantity: '10',
      price: '2.4',
      amount: '24.00',
      cost: '2',
      received: '10',
      invoiced: '0',
    },
  ],
};

describe('a supplier’s invoice', () => {
  const screen = (more: Partial<SupplierInvoiceView> = {}) => {
    const made = testApi();
    made.answers(
      [payableRoutes.readSupplierInvoice, { ...invoice, ...more }],
      [payableRoutes.acceptSupplierInvoice, { ...invoice, state: 'accepted', reason: 'agreed' }],
      [payableRoutes.refuseSupplierInvoice, { ...invoice, state: 'refused', reason: 'too dear' }],
      [payableRoutes.paySupplierInvoice, { ...invoice, state: 'paid', paidDay: '2027-03-09' }],
    );
    return { ...made, page: show(SupplierInvoiceSheet, { id: 4 }, made.providers, 'finance') };
  };

  it('shows what differs; accepting it takes a reason, and the version that was seen', () => {
    const { page, lastBody } = screen();
    expect(page.text).toContain('Line 1, JAR: 2.40 each, ordered at 2.00: 4.00 EUR more.');
    page.press('Enter', document.body, { ctrlKey: true });
    page.type('Why', 'agreed');
    page.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ reason: 'agreed', version: 2 });
    expect(page.text).toContain('to pay');
  });

  it('for more than came is not accepted, but refused with why', () => {
    const { page, lastBody } = screen({ acceptable: false, findings: [{ kind: 'quantity', lineNo: 1, item: 'JAR', by: '3' }] });
    expect(page.text).toContain('3 more than came');
    page.press('Enter', document.body, { ctrlKey: true });
    expect(page.text).not.toContain('Accept the difference');
    page.press('x');
    page.type('Why', 'too dear');
    page.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ reason: 'too dear', version: 2 });
  });

  it('that is accepted is paid by the main key', () => {
    const { page, lastBody } = screen({ state: 'accepted', findings: [], acceptable: false });
    page.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ version: 2, day: '2027-03-09' });
    expect(page.text).toContain('paid');
  });
});

it('what came stands there as it was ordered; what is typed otherwise is sent', () => {
  const made = testApi();
  const row = { line: 9, purchase: 7, purchaseNumber: 'P7', item: 'JAR', description: 'Jar', unit: 'EA', quantity: '10', cost: '2' };
  made.answers(
    [supplyRoutes.listSuppliers, []],
    [payableRoutes.listInvoiceable, [row, { ...row, line: 10, item: 'LID' }]],
    [payableRoutes.enterSupplierInvoice, invoice],
  );
  const page = show(EnterInvoice, { supplier: 'SUP' }, made.providers, 'finance');
  page.press('Enter', document.body, { ctrlKey: true });
  expect(page.text).toContain('Number: missing.');
  page.type('Their invoice number', 'S-1');
  page.type('Price: JAR of P7', '2.4');
  page.type('Invoiced: LID of P7', '0');
  expect(page.text).toContain('24.00 EUR');
  const navigate = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
  page.press('Enter', document.body, { ctrlKey: true });
  expect(navigate).toHaveBeenCalledWith(['/supply/invoices', 4]);
  expect(made.lastBody()).toMatchObject({ supplier: 'SUP', number: 'S-1', total: '24.00', lines: [{ line: 9, quantity: '10', price: '2.4' }] });
});

it('the list says what waits, and what is to be paid', () => {
  const { answers, providers } = testApi();
  const row = { id: 4, supplier: 'SUP', name: 'Appleyard', number: 'S-1', day: '2027-03-08', dueDay: '2027-04-07', total: '24.00', state: 'held', differs: 1 };
  answers([payableRoutes.listSupplierInvoices, { rows: [row], more: false, owed: '149.00', currency: 'EUR' }]);
  const page = show(SupplierInvoiceList, {}, providers, 'finance');
  jest.advanceTimersByTime(200);
  page.settle();
  expect(page.text).toContain('1 difference');
  expect(page.text).toContain('149.00 EUR');
});

it.each([
  [{ kind: 'freight', by: '2.00' }, 'Freight: 2.00 EUR more than agreed.'],
  [{ kind: 'total', by: '1.00' }, 'Its parts come to 1.00 EUR less than its total.'],
  [{ kind: 'total', by: '-1.00' }, 'Its parts come to 1.00 EUR more than its total.'],
] as const)('%j is said in words', (finding, words) => {
  expect(findingInWords(finding, 'EUR')).toBe(words);
});
