import { widened } from './entries';
import { KeySorter } from './sort';

/** What a group's commitments are collected in before they are pegged; its room is used again for the next group. */
export class Commitments {
  count = 0;
  /** An entry as it is, a taking as its complement. */
  ref = new Int32Array(256);
  pool = new Int32Array(256);
  day = new Float64Array(256);
  readonly sorter = new KeySorter();

  add(ref: number, pool: number, day: number): void {
    if (this.count === this.ref.length) {
      const size = 2 * this.count;
      this.ref = widened(this.ref, new Int32Array(size));
      this.pool = widened(this.pool, new Int32Array(size));
      this.day = widened(this.day, new Float64Array(size));
    }
    this.ref[this.count] = ref;
    this.pool[this.count] = pool;
    this.day[this.count++] = day;
  }
}
