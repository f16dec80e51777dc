import { signal } from '@angular/core';
import type { RippleView } from '@nockwright/contract/promise';
import { of } from 'rxjs';
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
    previewReschedule: jest.fn(() => of({ availableDay: null, ripple })),
    cancel: jest.fn(),
    reschedule: jest.fn(),
  };
}

const NOBODY: RippleView = { later: [], earlier: [], offers: [] };

it('says whom the cancellation of a purchase moves, and does it as was seen, with who and why', () => {
  const store = storeWith({ later: [testMover()], earlier: [], offers: [] });
  const screen = show(CancelPurchase, {}, [{ provide: PurchaseStore, useValue: store }]);
  expect(screen.button('Cancel it, move 1 promise')).toBeTruthy();
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(store.cancel).not.toHaveBeenCalled();
  expect(store.fault()).toContain('Why?');
  screen.type('Why', 'found cheaper');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(store.cancel).toHaveBeenCalledWith(
    'us',
    'found cheaper',
    { seen: [{ line: 31, after: [{ day: '2027-03-16', quantity: '2' }] }], accept: [] },
    expect.any(Function),
  );
});

it('records another cost alone: nobody moves, and nothing is asked about them', () => {
  const store = storeWith(NOBODY);
  const line = testPurchaseLine();
  const screen = show(LineChange, { line, kind: 'reschedule' }, [{ provide: PurchaseStore, useValue: store }]);
  screen.type('Cost each', 'dear');
  expect(screen.text).toContain('expected a cost with at most four decimals');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(store.reschedule).not.toHaveBeenCalled();
  screen.type('Cost each', '0.36');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(store.reschedule).toHaveBeenCalledWith(71, { cost: '0.36' }, expect.any(Function));
});
