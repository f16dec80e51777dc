/**
 * A stable sort by small whole numbers: row n goes into bucket `bucketOf[n]`, 0 to `buckets - 1`. Gives the row numbers
 * in that order, and in `starts` (buckets + 1, all 0) where each bucket begins.
 */
export function bucketSort(bucketOf: Int32Array, buckets: number, starts: Int32Array): Int32Array {
  const count = bucketOf.length;
  for (let row = 0; row < count; row++) starts[bucketOf[row]! + 1]!++;
  for (let bucket = 0; bucket < buckets; bucket++) starts[bucket + 1]! += starts[bucket]!;
  const next = starts.slice(0, buckets);
  const sorted = new Int32Array(count);
  for (let row = 0; row < count; row++) sorted[next[bucketOf[row]!]!++] = row;
  return sorted;
}

/** Up to so many rows are sorted by insertion. */
const FEW = 48;

/** Sorts parts of arrays by whole-number keys, rows of one key as they stood. Its room is used again from call to call. */
export class KeySorter {
  private joined = new Float64Array(256);
  private moved = new Int32Array(256);

  /** Sorts `rows[from]` to `rows[to - 1]` and `keys` beside them by key, a whole number; key × rows must stay exact. */
  sort(rows: Int32Array, keys: Float64Array, from: number, to: number): void {
    if (to - from <= FEW) insertionSort(rows, keys, from, to);
    else this.sortMany(rows, keys, from, to);
  }

  private sortMany(rows: Int32Array, keys: Float64Array, from: number, to: number) {
    const count = to - from;
    if (count > this.joined.length) {
      this.joined = new Float64Array(2 * count);
      this.moved = new Int32Array(2 * count);
    }
    const { joined, moved } = this;
    // Key and place in one number: the built-in sort of numbers then does it, and is stable.
    for (let at = 0; at < count; at++) {
      joined[at] = keys[from + at]! * count + at;
      moved[at] = rows[from + at]!;
    }
    joined.subarray(0, count).sort();
    for (let at = 0; at < count; at++) {
      const key = Math.floor(joined[at]! / count);
      keys[from + at] = key;
      rows[from + at] = moved[joined[at]! - key * count]!;
    }
  }
}

function insertionSort(rows: Int32Array, keys: Float64Array, from: number, to: number) {
  for (let at = from + 1; at < to; at++) {
    const row = rows[at]!;
    const key = keys[at]!;
    let place = at;
    for (; place > from && keys[place - 1]! > key; place--) {
      rows[place] = rows[place - 1]!;
      keys[place] = keys[place - 1]!;
    }
    rows[place] = row;
    keys[place] = key;
  }
}
