import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { supplyRoutes, type PurchaseView } from '@nockwright/contract/supply';
import { throwError } from 'rxjs';
import { testMover } from '../ripple/test-mover';
import { show, testApi } from '../test-screen';
import { PurchaseList } from './purchase-list';
import { PurchaseSheet } from './purchase-sheet';
import { testPurchaseLine } from './test-purchase-line';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const owed = { order: 7, number: '20007', lineNo: 1, customer: 'Wether Hill', quantity: '12', day: '2027-03-15', bound: true };
const line = testPurchaseLine({ closed: '20', damaged: '5', open: '80', owed: [owed] });
const stock: PurchaseView = {
  id: 27,
  number: 'P7627',
  supplier: { code: 'TARNBECK', name: 'Tarnbeck Glass', email: 'orders@tarnbeck.example' },
  kind: 'stock',
  state: 'sent',
  version: 4,
  warehouse: 'MAR',
  shipTo: 'Marrowby, 1 Dock Road',
  currency: 'EUR',
  order: null,
  createdDay: '2027-03-02',
  note: '',
  value: '31.00',
  lines: [line, { ...line, id: 72, lineNo: 2, item: 'LID-063-GD', open: '40', closed: '0', damaged: '0', owed: [], lifts: true }],
  notices: [],
  papers: [],
  mails: [],
  messages: [],
};
const drop: PurchaseView = {
  ...stock,
  kind: 'drop_ship',
  warehouse: null,
  order: { id: 94, number: '20380' },
  lines: [{ ...line, availableDay: null, expectedDay: '2027-03-26', toldDay: '2027-03-12', owed: [] }],
};

function open(purchase: PurchaseView = stock, role = 'coordinator') {
  const test = testApi();
  const ripple = { availableDay: null, ripple: { later: [testMover()], earlier: [], offers: [] } };
  test.answers(
    [supplyRoutes.readPurchase, purchase],
    [
      supplyRoutes.purchaseHistory,
      [
        {
          id: 1,
          at: '2027-03-02T09:00:00.000Z',
          who: 'Ida Perrin',
          kind: 'purchase.sent',
          facts: { number: 'P7627', mailed: true, filed: false },
          what: null,
          why: '',
          cause: null,
        },
      ],
    ],
    [supplyRoutes.acknowledge, { ...purchase, state: 'acknowledged' }],
    [supplyRoutes.sendPurchase, { ...purchase, state: 'sent' }],
    [supplyRoutes.confirmDespatch, { ...purchase, state: 'closed', lines: [] }],
    [supplyRoutes.previewClose, ripple],
    [supplyRoutes.previewCancel, ripple],
  );
  const screen = show(PurchaseSheet, { id: '27' }, test.providers, role);
  const sent = (route: unknown) => test.api.call.mock.calls.filter(([called]) => called === route).map(([, input]) => input as { body: unknown });
  return { ...test, screen, sent };
}

describe('the sheet of a purchase', () => {
  it('says what is awaited, owed, at risk, closed and received damaged, and what happened', () => {
    const { screen } = open();
    expect(screen.text).toContain('80 20 closed5 received damaged');
    expect(screen.text).toContain('12 to 20007/1 Wether Hill, Mon 15 Mar, bought for it at risk');
    expect(screen.text).toContain('to stock: meets their minimum and lot');
    expect(screen.text).toContain('sent purchase P7627 by mail');
    expect(screen.text).not.toContain('the customer was told');
  });

  it('shows another line when it is looked at', () => {
    const { screen } = open();
    screen.element.querySelectorAll<HTMLElement>('tbody tr')[1]!.dispatchEvent(new Event('focus'));
    screen.settle();
    expect(screen.text).toContain('Line 2: LID-063-GD');
    expect(screen.text).toContain('Nothing is promised from it.');
  });

  it('is confirmed as ordered by key, and cannot be twice', () => {
    const { screen, sent } = open();
    screen.press('o');
    expect(sent(supplyRoutes.acknowledge)).toEqual([{ params: { purchase: 27 }, body: { version: 4 } }]);
    expect(screen.text).not.toContain('Mark as confirmed');
    screen.press('o');
    expect(sent(supplyRoutes.acknowledge)).toHaveLength(1);
  });

  it('says what was refused, and keeps what was open', () => {
    const { screen, api } = open();
    api.call.mockReturnValue(throwError(() => new Error('Sam Oduya changed it: now version 5.')));
    screen.press('o');
    expect(screen.text).toContain('Sam Oduya changed it');
    expect(screen.text).toContain('Mark as confirmed');
  });

  it('opens the ends of a line and of the whole by key, one at a time', () => {
    const { screen } = open();
    screen.press('x');
    expect(screen.text).toContain('Line 1, JAR-340-HX: close the remainder');
    screen.press('k');
    expect(screen.text).not.toContain('close the remainder');
    expect(screen.text).toContain('Cancel purchase order and route the shortages');
  });

  it('leads to the dock for goods that come to us', () => {
    const { screen } = open();
    const go = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(go).toHaveBeenCalledWith(['/receiving', 27]);
  });

  it('a draft is sent by key', () => {
    const { screen, sent } = open({ ...stock, state: 'draft' });
    expect(screen.text).not.toContain('Mark as confirmed');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(sent(supplyRoutes.sendPurchase)).toEqual([{ params: { purchase: 27 }, body: { version: 4 } }]);
    expect(screen.text).toContain('Mark as confirmed');
  });

  it('a draft that is being changed is not sent meanwhile', () => {
    const { screen, sent } = open({ ...stock, state: 'draft' });
    screen.press('e');
    expect(screen.text).toContain('The draft is being changed.');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(sent(supplyRoutes.sendPurchase)).toEqual([]);
  });

  it('who may not buy looks and changes nothing', () => {
    const { screen, sent } = open(stock, 'warehouse');
    for (const key of ['o', 'd', 'x', 'k', 'e']) screen.press(key);
    expect(sent(supplyRoutes.acknowledge)).toEqual([]);
    expect(screen.text).not.toContain('Change day, quantity, cost');
    expect(screen.text).toContain('Receive');
  });

  it('says so where it cannot be read', () => {
    const { api, providers } = testApi();
    api.call.mockReturnValue(throwError(() => new Error('There is no purchase order 27.')));
    expect(show(PurchaseSheet, { id: '27' }, providers).text).toBe('There is no purchase order 27.');
  });
});

describe('the sheet of a drop shipment', () => {
  it('says what its customer was told where that is another day', () => {
    const { screen } = open(drop);
    expect(screen.text).toContain('the customer was told Fri 12 Mar');
    expect(screen.text).toContain('Ships fororder 20380');
  });

  it('confirms what left by the supplier’s notice, all that is awaited unless it is typed over', () => {
    const { screen, sent } = open(drop);
    screen.press('Enter', document.body, { ctrlKey: true });
    const left = screen.field('Quantity of JAR-340-HX');
    expect(left.value).toBe('80');
    left.value = '0';
    left.dispatchEvent(new Event('input'));
    screen.settle();
    screen.click('Confirm the notice');
    expect(screen.text).toContain('Type how many left.');
    left.value = '30';
    left.dispatchEvent(new Event('input'));
    screen.settle();
    screen.type("Tracking number of the supplier's shipment", ' TRK-9 ');
    screen.click('Confirm the notice');
    expect(sent(supplyRoutes.confirmDespatch)).toEqual([
      { params: { purchase: 27 }, body: { version: 4, tracking: 'TRK-9', lines: [{ line: 71, quantity: '30' }] } },
    ]);
  });

  it('Escape leaves the notice, nothing is sent', () => {
    const { screen, sent } = open(drop);
    screen.press('Enter', document.body, { ctrlKey: true });
    screen.press('Escape');
    expect(screen.text).not.toContain('Confirm the notice Ctrl');
    expect(sent(supplyRoutes.confirmDespatch)).toEqual([]);
  });
});

describe('the list of purchases', () => {
  const row = {
    id: 27,
    number: 'P7627',
    supplier: 'Tarnbeck Glass',
    kind: 'stock' as const,
    state: 'sent' as const,
    warehouse: 'MAR',
    order: null,
    expectedDay: '2027-03-05',
    lines: 2,
    openLines: 1,
    value: '31.00',
    overdue: true,
    toLook: true,
  };

  it('says what is overdue, whose answer is to be looked at, and whose customer a drop shipment goes to', () => {
    const { providers, answers } = testApi();
    answers([
      supplyRoutes.listPurchases,
      [row, { ...row, id: 28, number: 'P7628', kind: 'drop_ship', warehouse: null, order: '20380', overdue: false, toLook: false }],
    ]);
    const screen = show(PurchaseList, {}, providers);
    const go = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    const rows = [...screen.element.querySelectorAll('tbody tr')];
    expect(rows.map((one) => [one.textContent.includes('overdue'), one.textContent.includes('review the response')])).toEqual([
      [true, true],
      [false, false],
    ]);
    expect(rows[1]!.textContent).toContain('the customer of order 20380');
    screen.press('Enter', rows[1]!);
    expect(go).toHaveBeenCalledWith(['/supply', 28]);
  });

  it('has nothing to make for who may not buy, and says so where nothing matches', () => {
    const { providers, answers } = testApi();
    answers([supplyRoutes.listPurchases, []]);
    const screen = show(PurchaseList, { q: 'nope' }, providers, 'warehouse');
    expect(screen.text).toContain('No purchase order matches.');
    expect(screen.text).not.toContain('New purchase');
  });
});
