import { latenessOf, type ReceiptRecord } from './arrival-odds';

export interface Scorecard {
  readonly receipts: number;
  /** Came on the day first given or before it; null where nothing has come. */
  readonly onTimePercent: number | null;
  /** Calendar days late, early ones below 0. */
  readonly meanDays: number | null;
  readonly medianDays: number | null;
  /** Nine of ten came no later than so many days after the day given. */
  readonly worstTenthDays: number | null;
  /** How many came so many days late, ascending. */
  readonly spread: readonly { readonly days: number; readonly receipts: number }[];
  /** By the month they came in, ascending: `2027-03`. */
  readonly months: readonly { readonly month: string; readonly receipts: number; readonly onTimePercent: number }[];
}

/** What a supplier's record of receipts says of them. Quantiles are by nearest rank, so each is a number of days that was. */
export function scorecardOf(records: readonly ReceiptRecord[]): Scorecard {
  const days = latenessOf(records);
  const months = new Map<string, ReceiptRecord[]>();
  for (const record of records) {
    const month = record.received.slice(0, 7);
    months.set(month, [...(months.get(month) ?? []), record]);
  }
  return {
    receipts: days.length,
    onTimePercent: shareOnTime(days),
    meanDays: days.length === 0 ? null : rounded(days.reduce((sum, value) => sum + value, 0) / days.length),
    medianDays: quantile(days, 0.5),
    worstTenthDays: quantile(days, 0.9),
    spread: [...new Set(days)].map((value) => ({ days: value, receipts: days.filter((other) => other === value).length })),
    months: [...months]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([month, list]) => ({ month, receipts: list.length, onTimePercent: shareOnTime(latenessOf(list))! })),
  };
}

function shareOnTime(days: readonly number[]): number | null {
  return days.length === 0 ? null : rounded((100 * days.filter((value) => value <= 0).length) / days.length);
}

/** The least value that at least this share of the ascending ones do not exceed. */
function quantile(ascending: readonly number[], share: number): number | null {
  return ascending.length === 0 ? null : ascending[Math.max(0, Math.ceil(share * ascending.length) - 1)]!;
}

function rounded(value: number): number {
  return Math.round(value * 10) / 10;
}
