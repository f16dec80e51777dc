import { signal } from '@angular/core';
import { show } from '../test-screen';
import { OrderGloss } from './order-gloss';
import { testLine, testOrder } from './test-order';
import { storeProviders } from './test-store';

const store = { fault: signal(''), busy: signal(false), history: signal([]), setCreditLimit: jest.fn(), reload: jest.fn() };
const open = (role: string) => show(OrderGloss, { order: testOrder({ lines: [testLine()] }) }, storeProviders(store), role);

beforeEach(() => {
  jest.useFakeTimers();
  store.setCreditLimit.mockReset();
  store.fault.set('');
});
afterEach(() => jest.useRealTimers());

it.each([
  ['500 references are good', ['500', 'references are good']],
  ['none pays before', [null, 'pays before']],
])('finance sets a limit with its reason: %s', (text, said) => {
  const gloss = open('finance');
  gloss.type('Their credit limit, and why', text);
  gloss.click('Set');
  expect(store.setCreditLimit.mock.calls[0]!.slice(0, 2)).toEqual(said);
});

it('a limit without a reason is told how it is typed, and nothing is set', () => {
  const gloss = open('manager');
  gloss.type('Their credit limit, and why', '500');
  gloss.click('Set');
  expect(store.fault()).toContain('Type the limit and why');
  expect(store.setCreditLimit).not.toHaveBeenCalled();
});

it('the desk sets none', () => expect(open('coordinator').text).not.toContain('Their credit limit'));
