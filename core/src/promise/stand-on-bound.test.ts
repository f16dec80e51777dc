import fc from 'fast-check';
import { lessOf, standOnBound, type BoundGoods } from './index';

const promised = [
  { date: '2027-03-15', quantity: 10 },
  { date: '2027-03-17', quantity: 5 },
];
const stands = (bound: readonly BoundGoods[], quantity: number) => standOnBound(promised, bound, quantity).map((entry) => entry.boundQuantity);

test.each<[string, BoundGoods[], (number | undefined)[]]>([
  ['nothing is bound', [], [undefined, undefined]],
  ['all of it is', [{ day: '2027-03-17', quantity: 15 }], [undefined, undefined]],
  ['bought for what stock and inbound left', [{ day: '2027-03-17', quantity: 5 }], [0, 5]],
  ['bought, and there before the first', [{ day: '2027-03-12', quantity: 10 }], [10, 0]],
  ['more than the first needs', [{ day: '2027-03-12', quantity: 12 }], [10, 2]],
  ['come in by now', [{ day: null, quantity: 5 }], [5, 0]],
  ['too late for both: it was promised last', [{ day: '2027-03-29', quantity: 6 }], [1, 5]],
  [
    'of two each has its own',
    [
      { day: '2027-03-17', quantity: 4 },
      { day: '2027-03-15', quantity: 2.5 },
    ],
    [2.5, 4],
  ],
])('%s', (_, bound, expected) => expect(stands(bound, 15)).toEqual(expected));

test('what comes after every promise is for what still waits, then for what was promised last', () => {
  expect(stands([{ day: '2027-03-19', quantity: 6 }], 20)).toEqual([0, 1]);
  expect(stands([{ day: '2027-03-16', quantity: 7 }], 20)).toEqual([0, 5]);
});

test('whatever is promised and bound, all that is bound stands for something, and for no more than was promised', () => {
  const day = fc.integer({ min: 1, max: 28 }).map((at) => `2027-03-${String(at).padStart(2, '0')}`);
  const quantity = fc.integer({ min: 1, max: 400 }).map((quarters) => quarters / 4);
  const parts = fc.uniqueArray(fc.record({ date: day, quantity }), { minLength: 2, maxLength: 5, selector: (row) => row.date });
  const goods = fc.array(fc.record({ day: fc.option(day), quantity }), { minLength: 1, maxLength: 4 });
  fc.assert(
    fc.property(parts, goods, fc.nat(40), (told, bound, waits) => {
      const sum = (rows: readonly { readonly quantity: number }[]) => rows.reduce((total, row) => total + row.quantity, 0);
      const said = standOnBound(told, bound, sum(told) + waits);
      if (sum(bound) >= sum(told) + waits) return expect(said).toBe(told);
      const stand = said.reduce((total, entry) => total + entry.boundQuantity!, 0);
      expect(stand <= sum(bound) && stand >= sum(bound) - waits).toBe(true);
      for (const entry of said) expect(entry.boundQuantity! >= 0 && entry.boundQuantity! <= entry.quantity).toBe(true);
    }),
  );
});

test('of less of a promise no more stands on bound goods than there is of it', () => {
  const entry = { date: '2027-03-15', quantity: 10, boundQuantity: 7 };
  expect(lessOf(entry, 8)).toEqual({ ...entry, quantity: 8 });
  expect(lessOf(entry, 4)).toEqual({ ...entry, quantity: 4, boundQuantity: 4 });
  expect(lessOf(entry, 8, 5)).toEqual({ ...entry, quantity: 8, boundQuantity: 2 });
  expect(lessOf(entry, 8, 9)).toEqual({ ...entry, quantity: 8, boundQuantity: 0 });
  expect(lessOf(promised[0]!, 3, 1)).toEqual({ date: '2027-03-15', quantity: 3 });
});
