import { type Quantity, compareDecimal, least, minus, plus, sum, type Decimal } from '../money';
import type { IsoDay } from '../calendar';

/** What is open of a line, and when each part of it really leaves. All in stocking units. */
export interface Liftable {
  readonly waiting: Quantity;
  /** Promised and not being picked. `leaves`: the day its goods allow; null: it has lost its supply. */
  readonly promises: readonly { readonly day: IsoDay; readonly quantity: Quantity; readonly leaves: IsoDay | null }[];
  /** Drop shipments that leave later than was told. */
  readonly slipped: readonly { readonly id: number; readonly quantity: Quantity; readonly leaves: IsoDay }[];
}

/** What is taken of where. `promises` by the day they were told for, each day once. */
export interface Lifted {
  readonly waiting: Quantity;
  readonly promises: readonly { readonly day: IsoDay; readonly cut: Quantity }[];
  readonly slipped: readonly { readonly id: number; readonly cut: Quantity }[];
}

export type LiftResult = { readonly ok: true; readonly lifted: Lifted; readonly kept: Lifted } | { readonly ok: false; readonly most: Quantity };

interface Part {
  readonly quantity: Quantity;
  readonly leaves: IsoDay | null;
  readonly at: { readonly kind: 'waiting' } | { readonly kind: 'promise'; readonly day: IsoDay } | { readonly kind: 'slipped'; readonly id: number };
}

/**
 * Which parts of a line are served another way (`lifts`), and which are waited for as they come now (`keeps`): first what
 * waits, then what has lost its supply, then what leaves last. So nothing that comes in time is given up while something
 * late is kept. Refused with the most that could be taken where so much is not open.
 */
export function liftLine({ waiting, promises, slipped }: Liftable, lifts: Quantity, keeps: Quantity = '0'): LiftResult {
  const parts: Part[] = [
    ...promises.map(({ day, quantity, leaves }): Part => ({ quantity, leaves, at: { kind: 'promise', day } })),
    ...slipped.map(({ id, quantity, leaves }): Part => ({ quantity, leaves, at: { kind: 'slipped', id } })),
  ];
  parts.sort((a, b) => (a.leaves === b.leaves ? 0 : a.leaves === null ? -1 : b.leaves === null ? 1 : a.leaves < b.leaves ? 1 : -1));
  parts.unshift({ quantity: waiting, leaves: null, at: { kind: 'waiting' } });
  const most = sum(parts.map((part) => part.quantity));
  if (compareDecimal(plus(lifts, keeps), most) > 0) return { ok: false, most };
  const [lifted, rest] = take(parts, lifts);
  const [kept] = take(rest, keeps);
  return { ok: true, lifted: gathered(lifted), kept: gathered(kept) };
}

/** What a promise rests on. `bound`: it is there for this line alone. */
export interface RestsOn {
  readonly supply: string;
  readonly bound: boolean;
  readonly quantity: Quantity;
  /** The day its goods allow. */
  readonly leaves: IsoDay;
}

/**
 * Which goods bound to a line the promises rested on of which `lifts` go another way: as `liftLine` takes them, what has lost
 * its supply (`lost`) first, then what leaves last; of one day what anyone may have first. By supply.
 */
export function boundToLifted(rests: readonly RestsOn[], lost: Quantity, lifts: Quantity): ReadonlyMap<string, Decimal> {
  let missing = minus(lifts, least(lifts, lost));
  const freed = new Map<string, Decimal>();
  const last = [...rests].sort((a, b) => (a.leaves === b.leaves ? Number(a.bound) - Number(b.bound) : a.leaves < b.leaves ? 1 : -1));
  for (const { supply, bound, quantity } of last) {
    const part = least(missing, quantity);
    if (compareDecimal(part, '0') <= 0) break;
    missing = minus(missing, part);
    if (bound) freed.set(supply, plus(freed.get(supply) ?? '0', part));
  }
  return freed;
}

/** The first `quantity` of some parts, and what is left of them. */
function take(parts: readonly Part[], quantity: Quantity): readonly [Part[], Part[]] {
  const [taken, rest]: [Part[], Part[]] = [[], []];
  let missing = quantity;
  for (const part of parts) {
    const cut = least(missing, part.quantity);
    missing = minus(missing, cut);
    const left = minus(part.quantity, cut);
    if (compareDecimal(cut, '0') > 0) taken.push({ ...part, quantity: cut });
    if (compareDecimal(left, '0') > 0) rest.push({ ...part, quantity: left });
  }
  return [taken, rest];
}

function gathered(parts: readonly Part[]): Lifted {
  const days = new Map<IsoDay, Decimal>();
  const slipped = new Map<number, Decimal>();
  let waiting = '0';
  for (const { at, quantity } of parts)
    if (at.kind === 'waiting') waiting = plus(waiting, quantity);
    else if (at.kind === 'promise') days.set(at.day, plus(days.get(at.day) ?? '0', quantity));
    else slipped.set(at.id, plus(slipped.get(at.id) ?? '0', quantity));
  return { waiting, promises: [...days].map(([day, cut]) => ({ day, cut })), slipped: [...slipped].map(([id, cut]) => ({ id, cut })) };
}

/**
 * Splits promised days by when their goods really leave. `risks` are those that are reached late, or never, by the day a
 * book reads: one that has passed, or is no working day, reads as another, so what finds no day of its own is taken from
 * the latest promise before it.
 */
export function leavingDays(
  promises: readonly { readonly day: IsoDay; readonly quantity: Quantity }[],
  risks: readonly { readonly day: IsoDay; readonly quantity: Quantity; readonly leaves: IsoDay | null }[],
): Liftable['promises'] {
  const left = new Map(promises.map(({ day, quantity }) => [day, quantity]));
  const late: { day: IsoDay; quantity: Quantity; leaves: IsoDay | null }[] = [];
  for (const risk of risks) {
    let missing = risk.quantity;
    const days = [...left.keys()].sort((a, b) => rank(a, risk.day) - rank(b, risk.day) || (a < b ? 1 : -1));
    for (const day of days) {
      const part = least(missing, left.get(day)!);
      if (compareDecimal(part, '0') <= 0) continue;
      late.push({ day, quantity: part, leaves: risk.leaves });
      left.set(day, minus(left.get(day)!, part));
      missing = minus(missing, part);
    }
  }
  return [...[...left].filter(([, quantity]) => compareDecimal(quantity, '0') > 0).map(([day, quantity]) => ({ day, quantity, leaves: day })), ...late];
}

/** The day itself, then those before it, then those after. */
function rank(day: IsoDay, wanted: IsoDay): number {
  return day === wanted ? 0 : day < wanted ? 1 : 2;
}
