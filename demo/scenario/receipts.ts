/**
 * A year of receipts of each supplier: how many, and how late they came. `days` lists [calendar days late, how often out
 * of a hundred]; below 0 is early.
 */
export interface SupplierRecord {
  readonly supplier: string;
  readonly receipts: number;
  readonly days: readonly (readonly [late: number, percent: number])[];
}

export const RECORDS: readonly SupplierRecord[] = [
  // prettier-ignore
  { supplier: 'TARNBECK', receipts: 64, days: [[-1, 12], [0, 55], [1, 8], [4, 12], [7, 8], [12, 5]] },
  // prettier-ignore
  { supplier: 'APPLEYARD', receipts: 52, days: [[-2, 10], [0, 82], [1, 6], [3, 2]] },
  // prettier-ignore
  { supplier: 'HALEWOOD', receipts: 21, days: [[0, 45], [2, 25], [5, 20], [9, 10]] },
  // prettier-ignore
  { supplier: 'ORRINGTON', receipts: 48, days: [[0, 34], [2, 20], [4, 18], [7, 16], [14, 12]] },
  // prettier-ignore
  { supplier: 'STELLING', receipts: 26, days: [[-1, 15], [0, 65], [3, 12], [8, 8]] },
  // prettier-ignore
  { supplier: 'MELLISH', receipts: 40, days: [[0, 88], [1, 8], [2, 4]] },
  // prettier-ignore
  { supplier: 'CORVANE', receipts: 18, days: [[0, 40], [5, 25], [10, 20], [21, 15]] },
  // Live goods by the weather, and only a few deliveries to go by.
  // prettier-ignore
  { supplier: 'DRAYCOMBE', receipts: 5, days: [[0, 60], [7, 40]] },
  // prettier-ignore
  { supplier: 'PENNARD', receipts: 33, days: [[-1, 10], [0, 70], [2, 15], [6, 5]] },
];
