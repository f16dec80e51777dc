import { beyondCleared, spanOf } from './cleared-costs';

// Worked by hand: 10 % of 0.40 is 0.04, of 0.30 is 0.03.
test.each([
  ['0.44', false],
  ['0.4401', true],
  ['0.27', false],
  ['0.2699', true],
  ['0.35', false],
  ['0', true],
])('%s is beyond 10 %% of what was cleared from 0.30 to 0.40: %s', (cost, beyond) => {
  expect(beyondCleared(cost, { most: '0.40', least: '0.30' }, '10')).toBe(beyond);
});

test('of what was free, only free is as cleared', () => {
  expect(beyondCleared('0', { most: '0', least: '0' }, '10')).toBe(false);
  expect(beyondCleared('0.01', { most: '0', least: '0' }, '10')).toBe(true);
});

test('terms span from their best break to their cost', () => {
  expect(spanOf('1.2', [{ cost: '1.1' }, { cost: '0.95' }])).toEqual({ most: '1.2', least: '0.95' });
});
