import type { IsoDay } from '../calendar';
import type { ItemCode, LineId, OrderId } from '../ids';
import { compareDecimal, minus, type Quantity } from '../money';

/** A line that was promised by today, as the warehouse sees it. Quantities in stocking units. */
export interface DueLine {
  readonly line: LineId;
  readonly lineNo: number;
  readonly item: ItemCode;
  /** Promised by today, and not shipped. */
  readonly due: Quantity;
  /** On hand for it, or being picked. */
  readonly covered: Quantity;
  /** The draft purchase it hangs on; null: none. */
  readonly draft: { readonly id: number; readonly number: string } | null;
}

export interface DueOrder {
  readonly order: OrderId;
  readonly shipComplete: boolean;
  readonly day: IsoDay;
  /** What holds it; empty: nothing. */
  readonly holds: readonly ('below_floor' | 'credit' | 'customer')[];
  readonly lines: readonly DueLine[];
}

/** Why an order that should leave does not, and what mends it. */
export type NotGoing =
  | { readonly why: 'held'; readonly holds: DueOrder['holds'] }
  | { readonly why: 'draft_purchase'; readonly purchase: number; readonly number: string; readonly lines: readonly DueLine[] }
  | { readonly why: 'incomplete'; readonly lines: readonly DueLine[] }
  | { readonly why: 'uncovered'; readonly lines: readonly DueLine[] };

/** Why an order does not leave today; null where it does. What can be mended soonest is said first. */
export function whyNotGoing({ holds, shipComplete, lines }: DueOrder): NotGoing | null {
  if (holds.length > 0) return { why: 'held', holds };
  const short = lines.filter((line) => compareDecimal(minus(line.due, line.covered), '0') > 0);
  if (short.length === 0) return null;
  const draft = short.find((line) => line.draft !== null)?.draft;
  if (draft) return { why: 'draft_purchase', purchase: draft.id, number: draft.number, lines: short.filter((line) => line.draft?.id === draft.id) };
  return { why: shipComplete ? 'incomplete' : 'uncovered', lines: short };
}
