import fc from 'fast-check';
import { collisions, type FieldValues } from './merge-change';

test('what nobody else touched, or changed alike, does not collide', () => {
  expect(collisions({ quantity: '10', unit: 'XTY' }, { quantity: '10' }, { quantity: '7' })).toEqual([]);
  expect(collisions({ quantity: '7' }, { quantity: '10' }, { quantity: '7' })).toEqual([]);
  // Another field than mine: both changes stand.
  expect(collisions({ quantity: '10', note: 'theirs' }, { quantity: '10' }, { quantity: '7' })).toEqual([]);
});

test('a field that another changed is told with both values', () => {
  expect(collisions({ quantity: '7' }, { quantity: '10' }, { quantity: '12' })).toEqual([{ field: 'quantity', mine: '12', theirs: '7' }]);
  expect(collisions({ day: '2027-03-12' }, { day: null }, { day: '2027-03-15' })).toEqual([{ field: 'day', mine: '2027-03-15', theirs: '2027-03-12' }]);
});

test('a quantity is meant in the unit that was seen', () => {
  expect(collisions({ quantity: '10', unit: 'EA' }, { quantity: '10', unit: 'XTY' }, { quantity: '12' })).toEqual([
    { field: 'unit', mine: 'XTY', theirs: 'EA' },
  ]);
});

test('of two changes begun on the same, the second collides just where both touched a field and left it otherwise', () => {
  const fields = fc.record({ a: fc.nat(2), b: fc.nat(2), c: fc.nat(2) });
  const change = fc.record({ a: fc.nat(2), b: fc.nat(2), c: fc.nat(2) }, { requiredKeys: [] });
  fc.assert(
    fc.property(fields, change, change, (seen, theirs, mine) => {
      const now: FieldValues = { ...seen, ...theirs };
      const of = Object.fromEntries(Object.keys(mine).map((key) => [key, seen[key as 'a']]));
      const expected = Object.keys(mine).filter((key) => now[key] !== seen[key as 'a'] && now[key] !== mine[key as 'a']);
      expect(collisions(now, of, mine).map(({ field }) => field)).toEqual(expected);
    }),
  );
});
