import { signal } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import type { QueueRow } from '@nockwright/contract/items';
import { of } from 'rxjs';
import { testGain, testMover } from '../ripple/test-mover';
import { testLine, testOrder } from './test-order';
import { TurnForm } from './turn-form';
import { show, type TestScreen } from '../test-screen';
import { storeProviders } from './test-store';

const row = (order: number, number: string, customer: string): QueueRow => ({
  order,
  version: 1,
  number,
  line: order * 10,
  lineNo: 1,
  customer,
  customerId: 7,
  priority: 5,
  placed: false,
  entered: '2027-03-01',
  quantity: '4',
  requested: '2027-03-12',
  promised: [{ day: '2027-03-12', quantity: '4' }],
  waiting: '0',
  daysLate: 0,
});

const ripple = { later: [testMover()], earlier: [testGain({ own: true })], offers: [] };
const store = {
  fault: signal(''),
  busy: signal(false),
  queueOf: jest.fn(() => of([row(5, '20400', 'this one'), row(7, '20413', 'Pipistrelle'), row(7, '20413', 'Pipistrelle'), row(8, '20415', 'Fennimore')])),
  previewTurn: jest.fn(() => of(ripple)),
  rank: jest.fn((_: unknown, done: () => void) => done()),
};
let screen: TestScreen<TurnForm>;
let fixture: ComponentFixture<TurnForm>;
let form: { choose(ahead: number | null, priority: number | null): void; queue(): readonly { number: string; words: string }[] };
let element: HTMLElement;

beforeEach(() => {
  jest.useFakeTimers();
  store.previewTurn.mockClear();
  store.rank.mockClear();
  screen = show(TurnForm, { order: testOrder({ state: 'released', number: '20400' }), line: testLine() }, storeProviders(store));
  ({ fixture, element } = screen);
  form = fixture.componentInstance as unknown as typeof form;
});
afterEach(() => jest.useRealTimers());

const settle = () => screen.settle();
const submit = () => element.querySelector<HTMLButtonElement>('button[type=submit]')!;

it('offers the others in the queue, each order once, with what they have', () =>
  expect(form.queue().map(({ number, words }) => [number, words])).toEqual([
    ['20413', '4 leaving Fri 12 Mar'],
    ['20415', '4 leaving Fri 12 Mar'],
  ]));

it('does nothing before a turn is chosen', () => {
  expect(submit().disabled).toBe(true);
  element.querySelector('form')!.dispatchEvent(new Event('submit'));
  expect(store.rank).not.toHaveBeenCalled();
  settle();
  expect(element.textContent).toContain('Choose an order to stand ahead of, or another priority.');
});

it('shows who is hurt, and then does just what was seen', () => {
  form.choose(7, null);
  settle();
  expect(store.previewTurn).toHaveBeenLastCalledWith({ ahead: 7, accept: '' });
  expect(submit().textContent).toContain('Move 2 promises');
  const closed = jest.fn();
  fixture.componentInstance.closed.subscribe(closed);
  submit().click();
  expect(store.rank.mock.calls[0]![0]).toEqual({
    ahead: 7,
    reason: '',
    decision: {
      seen: [
        { line: 31, after: [{ day: '2027-03-16', quantity: '2' }] },
        { line: 32, after: [{ day: '2027-03-16', quantity: '2' }] },
      ],
      accept: [],
    },
  });
  expect(closed).toHaveBeenCalledTimes(1);
});

it('keeps the class that was chosen while the order is read again, and asks anew', () => {
  form.choose(null, 2);
  settle();
  screen.set('order', testOrder({ state: 'released', number: '20400', version: 9 }));
  expect(store.previewTurn).toHaveBeenCalledTimes(2);
  expect(store.previewTurn).toHaveBeenLastCalledWith({ priority: 2, accept: '' });
});

it('takes a class instead of a place, never both', () => {
  form.choose(7, null);
  settle();
  form.choose(null, 2);
  settle();
  expect(store.previewTurn).toHaveBeenLastCalledWith({ priority: 2, accept: '' });
});
