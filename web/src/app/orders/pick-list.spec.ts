import { signal } from '@angular/core';
import { customerRoutes } from '@nockwright/contract/customers';
import { itemRoutes } from '@nockwright/contract/items';
import { of } from 'rxjs';
import { Api } from '../api';
import { show, type TestScreen } from '../test-screen';
import { PickList } from './pick-list';
import { testOrder } from './test-order';
import { storeProviders } from './test-store';

const bought = (item: string, more: object = {}) => ({
  item,
  description: item,
  unit: 'XTY',
  units: ['EA', 'XTY'],
  quantity: '10',
  times: 3,
  day: '2027-03-01',
  price: '11.1',
  discontinued: false,
  ...more,
});
const past = { id: 41, number: '20310', poNumber: 'WH-1', day: '2027-03-01', lines: 2 };
const api = {
  call: jest.fn((route: unknown, input: { query?: { order?: number } }) => {
    if (route === customerRoutes.listPastOrders) return of([past]);
    if (route === itemRoutes.findItems) return of([{ code: 'TUB', description: 'Tub', unit: 'EA', available: '7', discontinued: false, units: [] }]);
    return of(input.query?.order ? [bought('JAR'), bought('JAR', { quantity: '2' })] : [bought('JAR'), bought('LID'), bought('OLD', { discontinued: true })]);
  }),
};
const store = { order: signal(testOrder()), fault: signal(''), busy: signal(false), addLines: jest.fn((_: unknown, done: () => void) => done()) };

let list: TestScreen<PickList>;
const closed = jest.fn();
beforeEach(() => {
  jest.useFakeTimers();
  store.addLines.mockClear();
  store.fault.set('');
  closed.mockReset();
  list = show(PickList, {}, [...storeProviders(store), { provide: Api, useValue: api }]);
  list.fixture.componentInstance.closed.subscribe(closed);
});
afterEach(() => jest.useRealTimers());

const added = () => (store.addLines.mock.calls[0]?.[0] as { lines: unknown[] } | undefined)?.lines;

it('adds what has a quantity beside it, read as on the quick line, all at once', () => {
  list.type('How many JAR', '20');
  list.type('How many LID', '960 each fri');
  list.fixture.componentInstance.add();
  expect(added()).toEqual([
    { item: 'JAR', quantity: '20', unit: 'XTY' },
    { item: 'LID', quantity: '960', unit: 'EA', requestedDay: '2027-03-12' },
  ]);
  expect(closed).toHaveBeenCalledTimes(1);
});

it('takes as many as the last time by Enter', () => {
  list.press('Enter', list.field('How many JAR'));
  list.fixture.componentInstance.add();
  expect(added()).toEqual([{ item: 'JAR', quantity: '10', unit: 'XTY' }]);
});

it('tells what is no quantity, and adds nothing', () => {
  list.type('How many JAR', 'many');
  list.fixture.componentInstance.add();
  expect(store.fault()).toContain('“many” is no quantity of JAR');
  expect(added()).toBeUndefined();
});

it('does not sell what is discontinued', () => expect(list.field('How many OLD').disabled).toBe(true));

it('copies an earlier order line by line, the same item twice where it stood twice', () => {
  (list.fixture.componentInstance as unknown as { choose(order: number): void }).choose(41);
  list.settle();
  list.fixture.componentInstance.add();
  expect(added()).toEqual([
    { item: 'JAR', quantity: '10', unit: 'XTY' },
    { item: 'JAR', quantity: '2', unit: 'XTY' },
  ]);
});

it('keeps what is wanted while others are looked for', () => {
  list.type('How many JAR', '5');
  list.type('Find items', 'tub');
  list.type('How many TUB', '3');
  list.fixture.componentInstance.add();
  expect(added()).toEqual([
    { item: 'JAR', quantity: '5', unit: 'XTY' },
    { item: 'TUB', quantity: '3', unit: 'EA' },
  ]);
});
