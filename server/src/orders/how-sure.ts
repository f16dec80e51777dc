import type { LineView, ScheduleView } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { safeDay, timesInTen, type AwaitedSupply, type Dock } from '@nockwright/core/supply';
import type { LiveBook, SupplyInfo, SupplierOdds } from '../promise';

/** How often a day is asked to hold where nobody has said: the safe day is shown for it. */
export const USUALLY_SURE = 90;

export interface Sureness {
  readonly odds: SupplierOdds;
  readonly dock: Dock;
  readonly today: string;
  /** In percent. */
  readonly sure: number;
}

/** How often a promise for `day` holds that rests on these supplies, and the day that holds as often as asked. */
export function howSure(
  supplies: readonly (SupplyInfo | undefined)[],
  day: string,
  { odds, dock, today, sure }: Sureness,
): Pick<ScheduleView, 'holds' | 'safeDay'> {
  const awaited = supplies.flatMap((info): AwaitedSupply[] =>
    info?.awaited ? [{ expected: info.awaited.expected, odds: odds.of(info.awaited.supplier) }] : [],
  );
  const { holds, safe } = safeDay(awaited, day, dock, today, sure / 100);
  return { holds: Math.round(holds * 100), safeDay: safe };
}

/** The same of a whole line: it holds when every part does, and is safe when the last part is. */
export function lineSureness(
  schedule: readonly ScheduleView[],
  live: LiveBook,
  { odds, today, sure }: Sureness,
): Pick<LineView, 'holds' | 'safeDay' | 'sure' | 'holdsWords'> {
  const share = schedule.reduce((product, entry) => product * (entry.holds / 100), 1);
  const safe = schedule.reduce<string | null>((last, { safeDay: day }) => (last === null || day === null ? null : day > last ? day : last), '');
  const holds = Math.round(share * 100);
  const resting = schedule.some((entry) => entry.holds < 100);
  if (schedule.length === 0 || !resting) return { holds, safeDay: safe === '' ? null : safe, sure, holdsWords: '' };
  const suppliers = new Map(
    schedule.flatMap((entry) =>
      entry.from.flatMap((peg) => {
        const awaited = [...live.supplies.values()].find((info) => info.purchase !== null && info.purchase === peg.purchase)?.awaited;
        return awaited ? [[awaited.supplierName, odds.of(awaited.supplier).receipts] as const] : [];
      }),
    ),
  );
  const record = [...suppliers].map(
    ([name, receipts]) => `${name}, ${receipts === 0 ? 'no receipt yet: as suppliers do in general' : `by ${receipts} receipts`}`,
  );
  const safeWords = safe === null ? `no day is safe ${sure} times in 100` : `safe day ${shortDay(safe, today)} (${sure} times in 100)`;
  return { holds, safeDay: safe, sure, holdsWords: `Holds ${timesInTen(share)}; ${safeWords}.${record.length > 0 ? ` ${record.join('; ')}.` : ''}` };
}
