import { creditLeft, daysOverdue, exposureOf, passesLimit, type CreditFacts } from './index';

const facts: CreditFacts = { limit: '10000', unpaid: '4000.10', shippedNotBilled: '250', openOrders: '3000', overdue: '1200', overdueSince: '2027-02-27' };

// Common practice, no source: exposure is what is billed and not paid, shipped and not billed, ordered and not shipped.
test('exposure is unpaid invoices, what is shipped and not billed, and open orders', () => {
  expect(exposureOf(facts)).toBe('7250.1');
  expect(creditLeft(facts)).toBe('2749.9');
});

test.each([
  ['2749.90', false],
  ['2749.91', true],
])('an order of %s passes the limit: %s', (amount, passes) => expect(passesLimit(facts, amount)).toBe(passes));

test('without a limit none passes it; over it already, any does', () => {
  expect(passesLimit({ ...facts, limit: null }, '99999999')).toBe(false);
  expect(creditLeft({ ...facts, limit: null })).toBeNull();
  expect(passesLimit({ ...facts, limit: '7000' }, '0.01')).toBe(true);
});

test('days overdue are counted from the day it was due', () => {
  expect(daysOverdue(facts, '2027-03-09')).toBe(10);
  expect(daysOverdue({ ...facts, overdueSince: null }, '2027-03-09')).toBe(0);
});
