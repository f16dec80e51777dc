import { NO_CONTRACTS, priceLine, type PriceQuestion } from './index';

const question: PriceQuestion = {
  unit: 'XTY',
  quantity: '5',
  ratio: { numerator: 24, denominator: 1 },
  listPrice: '0.52',
  listBreaks: [
    { unit: 'XTY', from: '1', price: '11.90' },
    { unit: 'XTY', from: '20', price: '11.40' },
    { unit: 'EA', from: '100', price: '0.50' },
  ],
  customerList: null,
  day: '2027-03-09',
  cost: '0.31',
  contracts: NO_CONTRACTS,
  pin: null,
};

describe('the price of a line', () => {
  test('is the break its quantity reaches, in its unit', () => {
    expect(priceLine(question)).toMatchObject({ price: '11.90', source: 'list' });
    expect(priceLine({ ...question, quantity: '20' })).toMatchObject({ price: '11.40', source: 'list, from 20' });
    expect(priceLine({ ...question, quantity: '19.9999' })).toMatchObject({ price: '11.90' });
  });

  test('is the list price times the ratio where nothing else has one', () => {
    const { price, trail } = priceLine({ ...question, listBreaks: [] });
    expect(price).toBe('12.48');
    expect(trail.map((step) => [step.chosen, step.price])).toEqual([
      [false, null],
      [true, '12.48'],
    ]);
  });

  test("is the customer's own list before the list, and the trail says so", () => {
    const customerList = { name: 'co-operatives', breaks: [{ unit: 'XTY', from: '1', price: '11.10' }] };
    const { price, source, trail } = priceLine({ ...question, customerList });
    expect([price, source]).toEqual(['11.10', 'co-operatives']);
    expect(trail.map((step) => step.source)).toEqual(['co-operatives', 'list', 'list price of the stocking unit × 24']);
    expect(trail.filter((step) => step.chosen)).toHaveLength(1);
    expect(trail[1]!.why).toBe('co-operatives comes first');
  });

  test("falls to the list where the customer's own has no price for the unit", () => {
    const { source, trail } = priceLine({ ...question, customerList: { name: 'shops', breaks: [{ unit: 'EA', from: '1', price: '0.45' }] } });
    expect(source).toBe('list');
    expect(trail[0]).toEqual({ source: 'shops', price: null, why: 'no price for this item and unit', chosen: false });
  });
});
