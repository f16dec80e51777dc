import { signal } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { of, throwError } from 'rxjs';
import { testMover } from '../ripple/test-mover';
import { RaiseForm } from './raise-form';
import { testLine, testOrder } from './test-order';
import { show, type TestScreen } from '../test-screen';
import { storeProviders } from './test-store';

const preview = {
  price: '4.5',
  priceSource: 'list price of 24 and more',
  schedule: [{ day: '2027-03-16', quantity: '288' }],
  uncovered: '24',
  ripple: { later: [testMover()], earlier: [], offers: [] },
};
const store = { fault: signal(''), busy: signal(false), previewRaise: jest.fn(), raise: jest.fn((_l: unknown, _w: unknown, done: () => void) => done()) };
let screen: TestScreen<RaiseForm>;
let fixture: ComponentFixture<RaiseForm>;
let element: HTMLElement;

beforeEach(() => {
  jest.useFakeTimers();
  store.fault.set('');
  store.raise.mockClear();
  store.previewRaise.mockReset().mockReturnValue(of(preview));
  screen = show(RaiseForm, { order: testOrder({ state: 'released' }), line: testLine() }, storeProviders(store));
  ({ fixture, element } = screen);
});
afterEach(() => jest.useRealTimers());

const settle = () => screen.settle();
function type(text: string) {
  const field = element.querySelector<HTMLInputElement>('#raise-quantity')!;
  field.value = text;
  field.dispatchEvent(new Event('input'));
  settle();
}
const text = () => element.textContent!.replace(/\s+/g, ' ');

it('says when the whole line would leave, what waits, and who is moved', () => {
  type('13');
  expect(store.previewRaise).toHaveBeenLastCalledWith(expect.objectContaining({ id: 11 }), '13', false);
  expect(text()).toContain('list price of 24 and more; it was');
  expect(text()).toContain('288 on Tue 16 Mar');
  expect(text()).toContain('24 are backordered');
  expect(text()).toContain('Pipistrelle Farm Shop');
});

it('asks anew when the line shall take its turn, and does what was seen', () => {
  type('13');
  element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
  settle();
  expect(store.previewRaise).toHaveBeenLastCalledWith(expect.anything(), '13', true);
  const closed = jest.fn();
  fixture.componentInstance.closed.subscribe(closed);
  element.querySelector<HTMLButtonElement>('button[type=submit]')!.click();
  const decision = { seen: [{ line: 31, after: [{ day: '2027-03-16', quantity: '2' }] }], accept: [] };
  expect(store.raise.mock.calls[0]!.slice(0, 2)).toEqual([expect.objectContaining({ id: 11 }), { quantity: '13', claim: true, decision }]);
  expect(closed).toHaveBeenCalledTimes(1);
});

it('does nothing with what is no quantity, and says a refusal', () => {
  type('many');
  expect(store.previewRaise).not.toHaveBeenCalled();
  element.querySelector('form')!.dispatchEvent(new Event('submit'));
  settle();
  expect(text()).toContain('How many?');
  store.previewRaise.mockReturnValue(throwError(() => new Error('3 is less than the 10 ordered')));
  type('3');
  expect(text()).toContain('3 is less than the 10 ordered');
  expect(element.querySelector<HTMLButtonElement>('button[type=submit]')!.disabled).toBe(true);
});
