import type { SupplierCode } from '../ids';
import type { UnitPrice } from '../money';
import { shortDay, type IsoDay } from '../calendar';
import { safeDay, type AwaitedSupply, type Dock, type SupplierOdds } from '../supply';

/** How often a day is asked to hold where nobody has said: the safe day is shown for it. */
export const USUALLY_SURE = 90;

/** What the desk calls a supply of the book, and what is known of its coming. */
export interface SupplyInfo {
  readonly label: string;
  readonly purchase: number | null;
  /** How its available day came about, in words. */
  readonly days: string;
  /** What one stocking unit of it costs, where it is bought at a cost of its own; null: the item's cost. */
  readonly cost: UnitPrice | null;
  /** Who it comes from and the day they gave; null for what is on hand. */
  readonly awaited: { readonly supplier: SupplierCode; readonly supplierName: string; readonly expected: IsoDay } | null;
}

export interface Sureness {
  readonly odds: SupplierOdds;
  readonly dock: Dock;
  readonly today: IsoDay;
  /** In percent. */
  readonly sure: number;
}

/** How often a promise holds, in percent, and the day that holds as often as asked; null where none within a year does. */
export interface Holding {
  readonly holds: number;
  readonly safeDay: IsoDay | null;
}

/** Of a promise for `day` that rests on these supplies. */
export function howSure(supplies: readonly (SupplyInfo | undefined)[], day: IsoDay, { odds, dock, today, sure }: Sureness): Holding {
  const awaited = supplies.flatMap((info): AwaitedSupply[] =>
    info?.awaited ? [{ expected: info.awaited.expected, odds: odds.of(info.awaited.supplier) }] : [],
  );
  const { holds, safe } = safeDay(awaited, day, dock, today, sure / 100);
  return { holds: Math.round(holds * 100), safeDay: safe };
}

/**
 * Of a whole line: it holds when every part does, and is safe when the last part is. In words with the record it rests
 * on: `Confidence 81 %; 90 % by Mon 16 Mar. Stelling Stainless, by 27 receipts.`
 */
export function lineSureness(
  schedule: readonly Holding[],
  suppliers: ReadonlyMap<string, string>,
  { odds, today, sure }: Sureness,
): Holding & { readonly sure: number; readonly holdsWords: string } {
  const share = schedule.reduce((product, entry) => product * (entry.holds / 100), 1);
  const safe = schedule.reduce<IsoDay | null>((last, { safeDay: day }) => (last === null || day === null ? null : day > last ? day : last), '');
  const holds = Math.round(share * 100);
  const resting = schedule.some((entry) => entry.holds < 100);
  if (schedule.length === 0 || !resting) return { holds, safeDay: safe === '' ? null : safe, sure, holdsWords: '' };
  const record = [...suppliers].map(([supplier, name]) => {
    const { receipts } = odds.of(supplier);
    return `${name}, ${receipts === 0 ? 'no receipt yet: as suppliers do in general' : `by ${receipts} receipts`}`;
  });
  const safeWords = safe === null ? `no day reaches ${sure} %` : `${sure} % by ${shortDay(safe, today)}`;
  return { holds, safeDay: safe, sure, holdsWords: `Confidence ${holds} %; ${safeWords}.${record.length > 0 ? ` ${record.join('; ')}.` : ''}` };
}
