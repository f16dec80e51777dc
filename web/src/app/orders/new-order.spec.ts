import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { customerRoutes, type CustomerFound } from '@nockwright/contract/customers';
import { orderRoutes } from '@nockwright/contract/orders';
import { of, throwError } from 'rxjs';
import { show, testApi, type TestScreen } from '../test-screen';
import { Places } from '../supply';
import { NewOrder } from './new-order';

const found = (id: number, name: string, prospect = false): CustomerFound => ({
  id,
  number: `C${id}`,
  name,
  prospect,
  contact: 'Hazel',
  phone: '01632 1',
  town: 'Combe',
  postcode: 'AB1',
});
const credit = { limit: '1000', unpaid: '0', shippedNotBilled: '0', openOrders: '0', exposure: '0', left: '1000', overdue: '0', overdueSince: null };
const CUSTOMERS = [found(1, 'Wether Hill'), found(2, 'Wether Farm', true)];
const { api, providers } = testApi();
let screen: TestScreen<NewOrder>;
let navigate: jest.SpyInstance;

function start(inputs: object = {}) {
  screen = show(NewOrder, inputs as Record<string, unknown>, [
    ...providers,
    { provide: Places, useValue: { warehouses: signal([{ code: 'MAR', name: 'Marrowby' }]) } },
  ]);
  navigate = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
}

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockReset().mockImplementation((route: unknown, input: { query?: { search: string }; params?: { customer: number } }) => {
    if (route === customerRoutes.findCustomers) return of(input.query!.search === 'nobody' ? [] : CUSTOMERS);
    if (route === orderRoutes.createOrder) return of({ id: 77 });
    if (route === customerRoutes.findDoubles) return of([]);
    const customer = CUSTOMERS.find((one) => one.id === input.params!.customer)!;
    return of({
      ...customer,
      street: '1 Lane',
      openOrders: 1,
      deliveryRule: 'parts',
      warehouse: 'MAR',
      termsDays: 30,
      termsKind: 'net',
      credit,
      reminders: [],
      notes: 'Ask for the gate.',
      bought: [],
    });
  });
});
afterEach(() => jest.useRealTimers());

const customer = () => screen.field('Who is calling?');
const started = () => api.call.mock.calls.filter(([route]) => route === orderRoutes.createOrder).map(([, input]) => (input as { body: unknown }).body);

it('has the focus in its one question, finds as it is typed and tells a screen reader which is marked', () => {
  start();
  expect(document.activeElement).toBe(customer());
  screen.type('Who is calling?', 'wether');
  expect(customer().getAttribute('aria-expanded')).toBe('true');
  expect(customer().getAttribute('aria-activedescendant')).toBe('customers-0');
  screen.press('ArrowDown', customer());
  expect(customer().getAttribute('aria-activedescendant')).toBe('customers-1');
  expect(screen.element.querySelector('[aria-selected=true]')!.textContent).toContain('Wether Farm, a prospect');
  screen.press('ArrowDown', customer());
  expect(customer().getAttribute('aria-activedescendant')).toBe('customers-1');
});

it('shows who is marked: terms, notes, what they owe', () => {
  start();
  screen.type('Who is calling?', 'wether');
  expect(screen.text).toContain('From Marrowby');
  expect(screen.text).toContain('Ask for the gate.');
});

it('starts one order, however often Enter is pressed', () => {
  start();
  screen.type('Who is calling?', 'wether');
  screen.press('Enter', customer());
  screen.press('Enter', customer());
  expect(started()).toEqual([{ customer: 1, kind: 'order' }]);
  expect(navigate).toHaveBeenCalledWith(['/orders', 77], { replaceUrl: true });
});

it.each([
  ['with Shift', {}, 'Wether Hill', true, 'quote'],
  ['of a quote, with Shift', { kind: 'quote' }, 'Wether Hill', true, 'order'],
  ['for a prospect', {}, 'Wether Farm', false, 'quote'],
] as const)('an order %s is of the right kind', (_, inputs, name, shiftKey, kind) => {
  start(inputs);
  screen.type('Who is calling?', 'wether');
  if (name === 'Wether Farm') screen.press('ArrowDown', customer());
  screen.press('Enter', customer(), { shiftKey });
  expect(started()).toEqual([expect.objectContaining({ kind })]);
});

it('says why an order could not be started, and lets it be tried again', () => {
  start();
  screen.type('Who is calling?', 'wether');
  api.call.mockImplementationOnce(() => throwError(() => new Error('the server is away')));
  screen.press('Enter', customer());
  expect(screen.text).toContain('the server is away');
  screen.press('Enter', customer());
  expect(started()).toHaveLength(2);
});

it('offers to make who is not known', () => {
  start();
  screen.type('Who is calling?', 'nobody');
  expect(screen.text).toContain('No customer has “nobody”');
  screen.press('Enter', customer());
  expect(started()).toEqual([]);
  screen.press('Enter', customer(), { ctrlKey: true });
  expect(screen.field('Name').value).toBe('nobody');
});

it('takes the words another screen found them by, and a click for Enter', () => {
  start({ q: 'wether' });
  expect(customer().value).toBe('wether');
  screen.element.querySelectorAll<HTMLElement>('li[role=option]')[1]!.dispatchEvent(new MouseEvent('mousedown', { cancelable: true }));
  expect(started()).toEqual([{ customer: 2, kind: 'quote' }]);
});
