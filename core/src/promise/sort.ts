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

/** Sorts a part of an array of numbers, from `from` to `to - 1`. */
export function sortNumbers(numbers: Float64Array, from: number, to: number): void {
  if (to - from > FEW) numbers.subarray(from, to).sort();
  else
    for (let at = from + 1; at < to; at++) {
      const number = numbers[at]!;
      let place = at;
      for (; place > from && numbers[place - 1]! > number; place--) numbers[place] = numbers[place - 1]!;
      numbers[place] = number;
    }
}

/** Up to so many rows are sorted by insertion. */
const FEW = 48;
/** Keys that spread over at most so many times the number of rows are counted. */
const DENSE = 32;

/** Sorts parts of arrays by whole-number keys, rows of one key as they stood. Its room is used again from call to call. */
export class KeySorter {
  private movedRows = new Int32Array(256);
  private movedKeys = new Float64Array(256);
  private starts = new Int32Array(256);

  /** Sorts `rows[from]` to `rows[to - 1]` and `keys` beside them by key, a whole number; key × rows must stay exact. */
  sort(rows: Int32Array, keys: Float64Array, from: number, to: number): void {
    const count = to - from;
    if (count <= FEW) return insertionSort(rows, keys, from, to);
    let least = Infinity;
    let most = -Infinity;
    for (let at = from; at < to; at++) {
      const key = keys[at]!;
      if (key < least) least = key;
      if (key > most) most = key;
    }
    if (count > this.movedRows.length) {
      this.movedRows = new Int32Array(2 * count);
      this.movedKeys = new Float64Array(2 * count);
    }
    this.movedRows.set(rows.subarray(from, to));
    if (most - least < DENSE * count) this.sortByCounting(rows, keys, from, count, least, most - least + 1);
    else this.sortJoined(rows, keys, from, count);
  }

  private sortByCounting(rows: Int32Array, keys: Float64Array, from: number, count: number, least: number, range: number) {
    const { movedRows, movedKeys } = this;
    if (range >= this.starts.length) this.starts = new Int32Array(2 * range);
    const starts = this.starts.fill(0, 0, range + 1);
    for (let at = 0; at < count; at++) {
      const key = keys[from + at]!;
      movedKeys[at] = key;
      starts[key - least + 1]!++;
    }
    for (let bucket = 0; bucket < range; bucket++) starts[bucket + 1]! += starts[bucket]!;
    for (let at = 0; at < count; at++) {
      const key = movedKeys[at]!;
      const place = from + starts[key - least]!++;
      rows[place] = movedRows[at]!;
      keys[place] = key;
    }
  }

  /** Key and place in one number: the built-in sort of numbers then does it, and is stable. */
  private sortJoined(rows: Int32Array, keys: Float64Array, from: number, count: number) {
    const joined = this.movedKeys.subarray(0, count);
    for (let at = 0; at < count; at++) joined[at] = keys[from + at]! * count + at;
    joined.sort();
    for (let at = 0; at < count; at++) {
      const key = Math.floor(joined[at]! / count);
      keys[from + at] = key;
      rows[from + at] = this.movedRows[joined[at]! - key * count]!;
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
