import { type Quantity, compareDecimal, minus, plus, sum, type Decimal } from '../money';
import type { IsoDay } from '../calendar';

/** Why a quote came to nothing. */
export const LOST_REASONS = ['price', 'too_late', 'other_supplier', 'not_what_was_asked', 'given_up', 'no_answer', 'other'] as const;
export type LostReason = (typeof LOST_REASONS)[number];

/** A line of a quote, with what became of it. Quantities in the unit it is quoted in. */
export interface QuotedLine {
  readonly id: number;
  readonly lineNo: number;
  readonly quantity: Quantity;
  /** Offered beside the others, in no total. */
  readonly alternative: boolean;
  /** The line it may be taken instead of. */
  readonly alternativeTo: number | null;
  /** What of it has become part of an order. */
  readonly accepted: Decimal;
}

export interface Quote {
  readonly state: 'draft' | 'quoted' | 'accepted' | 'lost' | 'discarded';
  /** The last day it binds, that day included. */
  readonly validUntil: IsoDay;
  readonly lines: readonly QuotedLine[];
}

/** How a quote stands, in a word: a quote that is out has expired on the day after it was valid until. */
export function quoteStanding({ state, validUntil, lines }: Quote, today: IsoDay): string {
  if (state === 'accepted') return compareDecimal(leftOpen(lines), '0') > 0 ? 'part accepted' : 'accepted';
  if (state !== 'quoted') return state;
  if (isExpired(validUntil, today)) return 'expired';
  return lines.some((line) => compareDecimal(line.accepted, '0') > 0) ? 'part accepted' : 'quoted';
}

export function isExpired(validUntil: IsoDay, today: IsoDay): boolean {
  return today > validUntil;
}

/** What of a quoted line has not become part of an order; 0 where more was ordered than quoted. */
export function openOf(line: Pick<QuotedLine, 'quantity' | 'accepted'>): Decimal {
  const open = minus(line.quantity, line.accepted);
  return compareDecimal(open, '0') < 0 ? '0' : open;
}

/** What became of a line of a quote that is closed, in words. */
export function closedLineWords(line: Pick<QuotedLine, 'quantity' | 'accepted'>): string {
  if (compareDecimal(line.accepted, '0') === 0) return 'not taken';
  return openOf(line) === '0' ? 'taken' : `${line.accepted} of ${line.quantity} taken`;
}

/** What a customer takes of a line; without a quantity all that is open of it. */
export interface Taken {
  readonly line: number;
  readonly quantity?: Quantity;
}

export interface TakenFault {
  readonly at: number;
  readonly field: 'line' | 'quantity';
  readonly message: string;
}

export type AcceptanceResult =
  | { readonly ok: true; readonly lines: readonly { readonly line: number; readonly quantity: Quantity }[]; readonly whole: boolean }
  | { readonly ok: false; readonly faults: readonly TakenFault[] };

/**
 * What becomes an order where a customer takes these lines of a quote, in the quote's own sequence. `whole`: nothing of it
 * stays open then; an alternative not taken leaves nothing open, nor does a line for which an alternative is taken.
 * Faults: a line that is not on the quote, stands twice, is accepted already, or is taken beyond what is open.
 */
export function acceptQuote(lines: readonly QuotedLine[], taken: readonly Taken[]): AcceptanceResult {
  const byId = new Map(lines.map((line) => [line.id, line]));
  const faults = taken.flatMap(({ line: id, quantity }, at): TakenFault[] => {
    const line = byId.get(id);
    if (!line) return [{ at, field: 'line', message: `the quote has no line ${id}` }];
    if (taken.findIndex((row) => row.line === id) !== at) return [{ at, field: 'line', message: `line ${line.lineNo} stands twice` }];
    const open = openOf(line);
    if (compareDecimal(open, '0') === 0) return [{ at, field: 'line', message: `line ${line.lineNo} is accepted already` }];
    if (quantity !== undefined && compareDecimal(quantity, open) > 0)
      return [{ at, field: 'quantity', message: `line ${line.lineNo}: ${quantity} taken, ${open} are quoted and open` }];
    return [];
  });
  if (faults.length > 0) return { ok: false, faults };
  const quantityOf = new Map(taken.map(({ line, quantity }) => [line, quantity ?? openOf(byId.get(line)!)]));
  const chosen = lines.flatMap((line) => (quantityOf.has(line.id) ? [{ line: line.id, quantity: quantityOf.get(line.id)! }] : []));
  const after = lines.map((line) => ({ ...line, accepted: plus(line.accepted, quantityOf.get(line.id) ?? '0') }));
  return { ok: true, lines: chosen, whole: compareDecimal(leftOpen(after), '0') === 0 };
}

/** What is still open of a quote: no alternatives, and no line that one was taken instead of. */
function leftOpen(lines: readonly QuotedLine[]): Decimal {
  const replaced = new Set(lines.filter((line) => line.alternative && compareDecimal(line.accepted, '0') > 0).map((line) => line.alternativeTo));
  return sum(lines.filter((line) => !line.alternative && !replaced.has(line.id)).map(openOf));
}
