/**
 * When to buy more of an item and how much: the continuous review, reorder point and order quantity system (s, Q).
 * Source: E. A. Silver, D. F. Pyke, D. J. Thomas, Inventory and Production Management in Supply Chains, 4th edition, chapter 6
 * (from memory): s = d·L + z·σ_L with σ_L = √(L·σ_d² + d²·σ_t²), where demand per day has mean d and deviation σ_d, and the
 * lead time has mean L and deviation σ_t days. The quantity is Harris' economic order quantity √(2·D·A / h) (F. W. Harris, How
 * many parts to make at once, Factory 10, 1913).
 */

/**
 * z for the share of replenishment cycles that are to end without a shortage: quantiles of the standard normal
 * distribution, to three decimals, as any table of it has them.
 */
export const SERVICE_LEVELS = { '80': 0.842, '85': 1.036, '90': 1.282, '95': 1.645, '97.5': 1.96, '98': 2.054, '99': 2.326, '99.5': 2.576 } as const;
export type ServiceLevel = keyof typeof SERVICE_LEVELS;

export interface Demand {
  /** Mean of a working day. */
  readonly perDay: number;
  /** Standard deviation of a working day. */
  readonly deviation: number;
}

export interface LeadTime {
  /** Working days until what is ordered today can leave again. */
  readonly days: number;
  readonly deviation: number;
}

/** Mean and sample standard deviation of what was asked for on each working day, days without demand among them. */
export function demandOf(days: readonly number[]): Demand {
  if (days.length === 0) return { perDay: 0, deviation: 0 };
  const perDay = days.reduce((sum, value) => sum + value, 0) / days.length;
  if (days.length === 1) return { perDay, deviation: 0 };
  const squares = days.reduce((sum, value) => sum + (value - perDay) ** 2, 0);
  return { perDay, deviation: Math.sqrt(squares / (days.length - 1)) };
}

export interface ReorderPoint {
  /** Asked for on average until more can leave. */
  readonly expected: number;
  /** Kept for the days it is more. */
  readonly safety: number;
  /** At or under this it is time to buy. */
  readonly point: number;
}

/** The reorder point of an item, in stocking units. */
export function reorderPoint({ perDay, deviation }: Demand, lead: LeadTime, level: ServiceLevel): ReorderPoint {
  const expected = perDay * lead.days;
  const spread = Math.sqrt(lead.days * deviation ** 2 + (perDay * lead.deviation) ** 2);
  const safety = SERVICE_LEVELS[level] * spread;
  return { expected, safety, point: expected + safety };
}

export interface QuantityCosts {
  /** What one purchase order costs to place and take in, whatever is on it. */
  readonly order: number;
  /** What holding goods costs in a year, in percent of their value. */
  readonly holdingPercent: number;
}

const WORKDAYS_A_YEAR = 250;

/** The quantity whose costs of ordering and of holding are least together; 0 where nothing is asked for or holding is free. */
export function economicQuantity(perDay: number, unitCost: number, { order, holdingPercent }: QuantityCosts): number {
  const holding = (unitCost * holdingPercent) / 100;
  return holding > 0 && perDay > 0 ? Math.sqrt((2 * perDay * WORKDAYS_A_YEAR * order) / holding) : 0;
}
