import fc from 'fast-check';
import { compareDecimal, sum } from '../money';
import { freightCharges, freightWords, type FreightShipment, type FreightTerms } from '.';

const shipment = (id: number, more: Partial<FreightShipment> = {}): FreightShipment => ({
  shipment: id,
  orderValue: '100',
  charged: false,
  weight: '1',
  ...more,
});
const terms = (more: Partial<FreightTerms>): FreightTerms => ({ rule: 'flat', flat: '9.50', freeFrom: null, ...more });
const charge = (given: FreightTerms, ...shipments: readonly FreightShipment[]) => [...freightCharges(given, '20.00', shipments, 'EUR').values()].map(Number);

test('a flat amount is paid once an order, and not from a value on: common practice', () => {
  expect(charge(terms({}), shipment(1), shipment(2, { charged: true }))).toEqual([9.5, 0]);
  expect(charge(terms({ freeFrom: '100' }), shipment(1), shipment(2, { orderValue: '99.99' }))).toEqual([0, 9.5]);
});

test('at cost: what the carrier asks, by weight', () => {
  expect(charge(terms({ rule: 'at_cost' }), shipment(1, { weight: '1' }), shipment(2, { weight: '3' }))).toEqual([5, 15]);
  expect(charge(terms({ rule: 'at_cost', freeFrom: '100' }), shipment(1, { weight: '1' }), shipment(2, { weight: '3', orderValue: '50' }))).toEqual([0, 15]);
});

test('included, and on their own account: nothing', () => {
  expect(charge(terms({ rule: 'included' }), shipment(1))).toEqual([0]);
  expect(charge(terms({ rule: 'own_account' }), shipment(1))).toEqual([0]);
});

test('shared cents add up, whatever the weights', () => {
  const cents = fc.integer({ min: 0, max: 100_000 });
  const weights = fc.array(fc.integer({ min: 0, max: 5_000 }), { minLength: 1, maxLength: 7 });
  fc.assert(
    fc.property(cents, weights, (asked, rows) => {
      const cost = (asked / 100).toFixed(2);
      const charges = freightCharges(
        terms({ rule: 'at_cost' }),
        cost,
        rows.map((grams, at) => shipment(at, { weight: String(grams / 1000) })),
        'EUR',
      );
      expect(compareDecimal(sum([...charges.values()]), cost)).toBe(0);
    }),
  );
});

test('said in words', () => {
  expect(freightWords(terms({ freeFrom: '250' }), '', 'EUR')).toBe('Freight 9.50 EUR an order, free from 250.00 EUR');
  expect(freightWords(terms({ rule: 'own_account' }), 'BR-778', 'EUR')).toBe('Freight on the customer’s own account BR-778');
});
