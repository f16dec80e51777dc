import fc from 'fast-check';
import { bucketSort, KeySorter, sortNumbers } from './sort';

const keysOf = fc.oneof(
  fc.array(fc.integer({ min: -5, max: 40 }), { maxLength: 200 }),
  fc.array(fc.integer({ min: -1_000_000, max: 1_000_000 }), { maxLength: 200 }),
);

test('part of the rows is sorted by key, rows of one key as they stood, few or many, close or far apart', () => {
  const sorter = new KeySorter();
  fc.assert(
    fc.property(keysOf, fc.nat(20), (list, from) => {
      const keys = Float64Array.from([...Array<number>(from).fill(7), ...list, -9e6]);
      const rows = Int32Array.from(keys, (_, at) => at);
      const expected = [...rows.subarray(from, from + list.length)].sort((a, b) => keys[a]! - keys[b]! || a - b);
      const whole = [...rows.subarray(0, from), ...expected, rows[rows.length - 1]!];
      const keysBefore = keys.slice();
      sorter.sort(rows, keys, from, from + list.length);
      expect([...rows]).toEqual(whole);
      expect([...keys]).toEqual(whole.map((row) => keysBefore[row]));
    }),
  );
});

test('a bucket sort keeps rows of one bucket as they stood and says where each begins', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(6)), (buckets) => {
      const starts = new Int32Array(8);
      const sorted = [...bucketSort(Int32Array.from(buckets), 7, starts)];
      expect(sorted).toEqual(buckets.map((_, row) => row).sort((a, b) => buckets[a]! - buckets[b]! || a - b));
      expect([...starts]).toEqual(Array.from({ length: 8 }, (_, bucket) => buckets.filter((other) => other < bucket).length));
    }),
  );
});

test('a part of an array of numbers is sorted, few or many, and nothing beside it is touched', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 1e12 }), { maxLength: 120 }), fc.nat(5), fc.nat(5), (numbers, before, after) => {
      const all = Float64Array.from([...Array<number>(before).fill(-1), ...numbers, ...Array<number>(after).fill(-2)]);
      sortNumbers(all, before, before + numbers.length);
      expect([...all]).toEqual([...Array<number>(before).fill(-1), ...[...numbers].sort((a, b) => a - b), ...Array<number>(after).fill(-2)]);
    }),
  );
});
