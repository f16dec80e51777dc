import { mostReplaced, priceInstead, sentInstead } from './instead';

test.each([
  ['9', '0.5', '1', '5', '0.5'],
  ['3', '0.5', '1', '2', '0.5'],
  ['8', '0.5', '1', '4', '0'],
  ['7', '2', '1', '14', '0'],
  ['3', '0.3333', '1', '1', '0.0001'],
  ['3', '0.75', '0.25', '2.25', '0'],
])('%s at %s for one in steps of %s: %s are sent, %s over', (quantity, ratio, step, sent, over) =>
  expect(sentInstead(quantity, { ratio, step })).toEqual({ sent, over }),
);

test.each([
  ['4.5', '0.5', '1', '1', '8'],
  ['5', '2', '1', '1', '2'],
  ['5', '2', '1', '0.5', '2.5'],
  ['0.5', '1', '1', '1', '0'],
])('of %s at %s for one, in steps of %s, what comes in steps of %s: %s', (available, ratio, step, shortStep, most) =>
  expect(mostReplaced(available, { ratio, step }, shortStep)).toBe(most),
);

test('what goes instead costs the customer no more than either price', () => {
  expect(priceInstead('10', '0.5', { price: '24', source: 'list price' })).toEqual({ price: '20', own: false });
  expect(priceInstead('10', '0.5', { price: '18', source: 'list price' })).toEqual({ price: '18', own: true });
  expect(priceInstead('10', '0.5', null)).toEqual({ price: '20', own: false });
});
