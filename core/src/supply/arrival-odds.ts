import { daysBetween, type IsoDay } from '../calendar';

/** A receipt: the day the supplier first gave, and the day the goods came. */
export interface ReceiptRecord {
  readonly promised: IsoDay;
  readonly received: IsoDay;
}

/** How many receipts of all suppliers a supplier's own record is mixed with. */
export const PRIOR_STRENGTH = 10;

/** Calendar days late of each receipt, early ones below 0, ascending. */
export function latenessOf(records: readonly ReceiptRecord[]): number[] {
  return records.map(({ promised, received }) => daysBetween(promised, received)).sort((a, b) => a - b);
}

/**
 * How late a supplier's goods come, as odds. The supplier's own empirical distribution F of n receipts is shrunk towards
 * the one of all suppliers, G, which counts as k receipts:
 *
 *     P(late ≤ d) = (n F(d) + k G(d)) / (n + k)
 *
 * the posterior mean of a Dirichlet process with base measure G and strength k (T. S. Ferguson, A Bayesian analysis of
 * some nonparametric problems, Annals of Statistics 1, 1973; from memory). With few receipts it leans on what suppliers
 * do in general, with many on the supplier's own.
 */
export class ArrivalOdds {
  /** `own`, `all`: days late, ascending. */
  constructor(
    private readonly own: readonly number[],
    private readonly all: readonly number[],
    private readonly strength = PRIOR_STRENGTH,
  ) {}

  /** Receipts of the supplier's own that it rests on. */
  get receipts(): number {
    return this.own.length;
  }

  /** Mean of their lateness in calendar days; of all suppliers' where they have no receipts; 0 where nothing is known. */
  get meanLate(): number {
    const days = this.own.length > 0 ? this.own : this.all;
    return days.length === 0 ? 0 : days.reduce((sum, value) => sum + value, 0) / days.length;
  }

  /** Standard deviation of their lateness in working days, five of seven calendar days; of all suppliers' where they have too few receipts to have one. */
  get deviation(): number {
    const days = this.own.length > 1 ? this.own : this.all;
    if (days.length < 2) return 0;
    const mean = days.reduce((sum, value) => sum + value, 0) / days.length;
    return (Math.sqrt(days.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (days.length - 1)) * 5) / 7;
  }

  /** Whether anything is known at all. */
  get known(): boolean {
    return this.own.length + this.all.length > 0;
  }

  /** The share of goods that come at most `days` late; 1 where nothing is known. */
  within(days: number): number {
    if (!this.known) return 1;
    const weight = this.all.length > 0 ? this.strength : 0;
    const general = weight === 0 ? 0 : countUpTo(this.all, days) / this.all.length;
    return (countUpTo(this.own, days) + weight * general) / (this.own.length + weight);
  }

  /**
   * The same for goods that have not come yet: `waited` days past the day given, below 0 while it lies ahead. 0 where
   * they are later already than anything on record.
   */
  withinAfter(days: number, waited: number): number {
    if (!this.known) return 1;
    const gone = this.within(waited - 1);
    return gone >= 1 ? 0 : Math.max(0, this.within(days) - gone) / (1 - gone);
  }

  /** The least days late that goods not come yet stay within with this confidence, 0 to 1; null where none does. */
  daysFor(confidence: number, waited: number): number | null {
    if (!this.known) return 0;
    for (const days of [...new Set([...this.own, ...this.all])].sort((a, b) => a - b)) {
      // A hair's breadth: the sum of the shares may miss 1 by the last bit.
      if (days >= waited && this.withinAfter(days, waited) >= confidence - 1e-12) return days;
    }
    return null;
  }
}

/** How many of the ascending values are at most `most`. */
function countUpTo(values: readonly number[], most: number): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle]! <= most) low = middle + 1;
    else high = middle;
  }
  return low;
}
