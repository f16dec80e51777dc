import { signal } from '@angular/core';
import type { RippleView } from '@nockwright/contract/promise';
import type { SupplyRipple } from '@nockwright/contract/supply';
import { of, Subject, type Observable } from 'rxjs';
import { testMover } from '../ripple/test-mover';
import { show } from '../test-screen';
import { CancelPurchase } from './cancel-purchase';
import { LineChange } from './line-change';
import { PurchaseStore } from './purchase-store';
import { testPurchaseLine } from './test-purchase-line';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

function storeWith(ripple: RippleView) {
  return {
    fault: signal(''),
    busy: signal(false),
    purchase: signal({ version: 3 }),
    previewCancel: jest.fn(() => of({ availableDay: null, ripple })),
    previewReschedule: jest.fn((): Observable<SupplyRipple> => of({ availableDay: null, ripple })),
    cancel: jest.fn(),
    reschedule: jest.fn(),
  };
}

const NOBODY: RippleView = { later: [], earlier: [], offers: [] };

it('says whom the cancellation of a purchase moves, and does it as was seen, with who and why', () => {
  const store = storeWith({ later: [testMover()], earlier: [], offers: [] });
  const screen = show(CancelPurchase, {}, [{ provide: PurchaseStore, useValue: store }]);
  expect(screen.button('Cancel purchase order, move 1 promise')).toBeTruthy();
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(store.cancel).not.toHaveBeenCalled();
  expect(screen.text).toContain('Why? The history keeps it.');
  screen.type('Why', 'found cheaper');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(store.cancel).toHaveBeenCalledWith(
    'us',
    'found cheaper',
    { seen: [{ line: 31, after: [{ day: '2027-03-16', quantity: '2' }] }], accept: [] },
    expect.any(Function),
  );
});

it('another cost alone moves nobody, and says what it makes of the margin on what is owed', () => {
  const store = storeWith(NOBODY);
  const move = { order: 7, number: '20007', lineNo: 2, customer: 'Wether Hill', quantity: '60', before: '36.5', after: '30.8', lost: '1.80', currency: 'EUR' };
  const better = { ...move, number: '20008', quantity: '10', after: '-3.0', lost: '-1.20' };
  store.previewReschedule.mockReturnValue(of({ availableDay: null, ripple: NOBODY, margins: [move, better] }));
  const line = testPurchaseLine();
  const screen = show(LineChange, { line, kind: 'reschedule' }, [{ provide: PurchaseStore, useValue: store }]);
  screen.type('Cost each', 'dear');
  expect(screen.text).toContain('expected a cost with at most four decimals');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(store.reschedule).not.toHaveBeenCalled();
  screen.type('Cost each', '0.36');
  expect(store.previewReschedule).toHaveBeenLastCalledWith(71, { day: '2027-03-15', open: '100', cost: '0.36' }, []);
  expect(screen.text).toContain('20007/2 Wether Hill on 60: 36.5 % → 30.8 %, 1.80 EUR less');
  expect(screen.text).toContain('on 10: 36.5 % → -3.0 %, 1.20 EUR more');
  // What costs more and what is sold below its cost stand out, each in its own way.
  expect([...screen.element.querySelectorAll('nock-margin-moves b')].map((each) => each.className)).toEqual(['late', 'loss']);
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(store.reschedule).toHaveBeenCalledWith(71, { cost: '0.36', decision: { seen: [], accept: [] } }, expect.any(Function));
});

it('a cost is not recorded before its margins were seen, though it moves nobody', () => {
  const store = storeWith(NOBODY);
  const answer = new Subject<SupplyRipple>();
  store.previewReschedule.mockReturnValue(answer);
  const screen = show(LineChange, { line: testPurchaseLine(), kind: 'reschedule' }, [{ provide: PurchaseStore, useValue: store }]);
  screen.type('Cost each', '0.36');
  screen.press('Enter', document.body, { ctrlKey: true });
  const margins = [
    { order: 7, number: '20007', lineNo: 2, customer: 'Wether Hill', quantity: '60', before: '36.5', after: '30.8', lost: '1.80', currency: 'EUR' },
  ];
  answer.next({ availableDay: null, ripple: NOBODY, margins });
  screen.settle();
  expect(store.reschedule).not.toHaveBeenCalled();
  expect(screen.text).toContain('look at it, then press again');
});
