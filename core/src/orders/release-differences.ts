import type { ItemCode } from '../ids';
import { compareDecimal } from '../money';

/** What a line of a draft would be promised, as it is shown. */
export interface WouldBePromised {
  readonly lineNo: number;
  readonly item: ItemCode;
  readonly alternative: boolean;
  readonly schedule: readonly { readonly day: string; readonly arrives: string | null }[];
  /** In stocking units. */
  readonly uncovered: string;
  /** Calendar days from the day requested to the last day; null where a part has none. */
  readonly daysLate: number | null;
}

/** In what a line's promise is not as it was requested. */
export type Difference =
  | { readonly kind: 'late'; readonly lineNo: number; readonly item: ItemCode; readonly day: string; readonly daysLate: number }
  | { readonly kind: 'short'; readonly lineNo: number; readonly item: ItemCode; readonly quantity: string };

/** The lines of a draft that would leave later than requested, or in part on no day: what a person must see before it is released. */
export function releaseDifferences(lines: readonly WouldBePromised[]): readonly Difference[] {
  return lines.flatMap(({ lineNo, item, alternative, schedule, uncovered, daysLate }): readonly Difference[] => {
    if (alternative) return [];
    if (compareDecimal(uncovered, '0') > 0) return [{ kind: 'short', lineNo, item, quantity: uncovered }];
    const last = schedule.map(({ day, arrives }) => arrives ?? day).reduce((a, b) => (b > a ? b : a), '');
    return daysLate !== null && daysLate > 0 ? [{ kind: 'late', lineNo, item, day: last, daysLate }] : [];
  });
}
