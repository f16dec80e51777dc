import { signal } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import type { CancellationPreview } from '@nockwright/contract/orders';
import { of, throwError } from 'rxjs';
import { testGain } from '../ripple/test-mover';
import { CancelForm } from './cancel-form';
import { testLine, testOrder } from './test-order';
import { show, type TestScreen } from '../test-screen';
import { storeProviders } from './test-store';

const preview: CancellationPreview = {
  lines: [{ line: 11, lineNo: 1, item: 'JAR-340-HX', quantity: '240', frees: [{ day: '2027-03-12', quantity: '240' }] }],
  bound: [{ kind: 'purchase', label: 'purchase P7610', quantity: '40', what: '40 are still to come' }],
  ripple: { later: [], earlier: [], offers: [testGain({ line: 41 })] },
};
const store = { fault: signal(''), busy: signal(false), previewCancellation: jest.fn(), cancel: jest.fn((_w: unknown, done: () => void) => done()) };
let screen: TestScreen<CancelForm>;
let fixture: ComponentFixture<CancelForm>;
let element: HTMLElement;
let form: { reason: { set(reason: string): void } };

beforeEach(() => {
  jest.useFakeTimers();
  store.fault.set('');
  store.cancel.mockClear();
  store.previewCancellation.mockReset().mockReturnValue(of(preview));
  screen = show(CancelForm, { order: testOrder({ state: 'released' }), line: testLine() }, storeProviders(store));
  ({ fixture, element } = screen);
  form = fixture.componentInstance as unknown as typeof form;
});
afterEach(() => jest.useRealTimers());

const settle = () => screen.settle();
const text = () => element.textContent!.replace(/\s+/g, ' ');

it('says what it frees, linked supply and who could have it', () => {
  expect(store.previewCancellation).toHaveBeenLastCalledWith({ line: 11, purchases: 'cancel', accept: '' });
  expect(text()).toContain('240 JAR-340-HX');
  expect(text()).toContain('240 promised Fri 12 Mar');
  expect(text()).toContain('purchase P7610: 40 are still to come');
  expect(text()).toContain('Available for backorders and late promises');
});

it('needs a reason, and does nothing without one', () => {
  element.querySelector('form')!.dispatchEvent(new Event('submit'));
  settle();
  expect(text()).toContain('Choose a reason');
  expect(store.cancel).not.toHaveBeenCalled();
});

it('offers what is freed, takes what is chosen, and cancels with the quantity and the decision', () => {
  const field = element.querySelector<HTMLInputElement>('#cancel-quantity')!;
  field.value = '4';
  field.dispatchEvent(new Event('input'));
  element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
  settle();
  expect(store.previewCancellation).toHaveBeenLastCalledWith({ line: 11, quantity: '4', purchases: 'cancel', accept: '41' });
  form.reason.set('too_late');
  settle();
  element.querySelector<HTMLButtonElement>('button[type=submit]')!.click();
  expect(store.cancel.mock.calls[0]![0]).toEqual({
    line: 11,
    quantity: '4',
    reason: 'too_late',
    purchases: 'cancel',
    decision: { seen: [], accept: [41] },
  });
});

it('says why a quantity cannot be cancelled', () => {
  store.previewCancellation.mockReturnValue(throwError(() => new Error('at most 10 trays are open')));
  const field = element.querySelector<HTMLInputElement>('#cancel-quantity')!;
  field.value = '99';
  field.dispatchEvent(new Event('input'));
  settle();
  expect(element.querySelector('[role=alert]')!.textContent).toBe('at most 10 trays are open');
});
