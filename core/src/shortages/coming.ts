import type { SupplierCode } from '../ids';
import { type Quantity, type UnitPrice, compareDecimal, least, minus, plus, sum, type Decimal } from '../money';
import type { IsoDay } from '../calendar';
import { CARRIER_DOCK } from '../supply';
import { howSure, type Sureness, type SupplyInfo } from '../orders';
import { decimal, type AtRisk, type DemandPromise } from '../promise';
import type { Lifted, LiftResult } from './lift-line';
import type { Shortage } from './shortage';

/** A quantity of a line, in stocking units, and the day it comes if nothing is done; null: never. */
export interface Coming {
  /** It was not told to the customer. */
  readonly waits: boolean;
  readonly day: IsoDay | null;
  readonly quantity: Quantity;
  /** How often the day holds, in percent. */
  readonly holds: number;
  /** The day from it on that holds as often as is asked; null: none is known. Absent: its own day. */
  readonly safeDay?: IsoDay | null;
  /** Where it is not what stock costs. */
  readonly unitCost?: UnitPrice;
  /** The drop shipment that the warehouse has it sooner than. */
  readonly insteadOf?: number;
}

/** A drop shipment that leaves later than was told. */
export interface Slipped {
  readonly id: number;
  readonly quantity: Quantity;
  readonly leaves: IsoDay;
  readonly supplier: SupplierCode;
  readonly supplierName: string;
  /** Of one, fee and all. */
  readonly unitCost: UnitPrice;
}

/** What is known of a line's goods. */
export interface LineGoods {
  /** How much of it waits. */
  readonly waiting: Quantity;
  readonly slipped: readonly Slipped[];
  /** Its promise in a book where the warehouse owes what slipped as well; undefined where nothing of it is owed. */
  readonly promise: DemandPromise | undefined;
  readonly supplies: ReadonlyMap<string, SupplyInfo>;
  /** What of its promises is reached too late or never by the suppliers' days, and counted as surely as days must be. */
  readonly risks: readonly AtRisk[];
  readonly surely: readonly AtRisk[];
  readonly sureness: Sureness;
}

/** All that is open of a line, as it comes now. */
export function comingOf({ waiting, slipped, promise, supplies, risks, surely, sureness }: LineGoods): Coming[] {
  const coming: Coming[] = [];
  const spare: Coming[] = [];
  let own = waiting;
  for (const entry of promise?.schedule ?? []) {
    const pegged = entry.from.map((peg) => supplies.get(peg.supply));
    const onDay = (day: IsoDay, quantity: Quantity): Coming => ({ waits: false, day, quantity, ...howSure(pegged, day, sureness) });
    let rest = decimal(entry.quantity);
    if (!entry.kept) {
      // What the line waits for itself comes before what the warehouse could give in place of a drop shipment.
      const waits = least(own, rest);
      own = minus(own, waits);
      rest = minus(rest, waits);
      if (isSome(waits)) coming.push({ ...onDay(entry.date, waits), waits: true });
      if (isSome(rest)) spare.push(onDay(entry.date, rest));
      continue;
    }
    // What was told is at risk by the suppliers' days; its new day is one that is as sure as days must be.
    const sure = surely.filter((row) => row.date === entry.date).map((row) => row.arrives);
    for (const { quantity, arrives } of risks.filter((row) => row.date === entry.date)) {
      rest = minus(rest, decimal(quantity));
      if (arrives === null) coming.push({ waits: false, day: null, quantity: decimal(quantity), holds: 0 });
      else
        coming.push(
          onDay(
            sure.reduce<IsoDay>((last, day) => (day !== null && day > last ? day : last), arrives),
            decimal(quantity),
          ),
        );
    }
    if (isSome(rest)) coming.push(onDay(entry.date, rest));
  }
  if (isSome(own)) coming.push({ waits: true, day: null, quantity: own, holds: 0 });
  return [...coming, ...slippedComing(slipped, spare, sureness)];
}

/** What slipped leaves the supplier, or the warehouse where that has it sooner: what leaves last is served from there first. */
function slippedComing(slipped: readonly Slipped[], spare: Coming[], sureness: Sureness): Coming[] {
  const coming: Coming[] = [];
  for (const { id, quantity, leaves, supplier, supplierName, unitCost } of [...slipped].sort((a, b) => later(a.leaves, b.leaves))) {
    let left = quantity;
    for (let first = spare[0]; first && first.day! < leaves && isSome(left); first = spare[0]) {
      const part = least(left, first.quantity);
      coming.push({ ...first, quantity: part, insteadOf: id });
      left = minus(left, part);
      const rest = minus(first.quantity, part);
      if (isSome(rest)) spare[0] = { ...first, quantity: rest };
      else spare.shift();
    }
    if (!isSome(left)) continue;
    const supply = { label: '', purchase: null, cost: null, days: '', awaited: { supplier, supplierName, expected: leaves } };
    coming.push({ waits: false, day: leaves, quantity: left, unitCost, ...howSure([supply], leaves, { ...sureness, dock: CARRIER_DOCK }) });
  }
  return coming;
}

/** On which days `quantity` of a line comes if nothing is done, and what of it never comes: what waits first, then what comes last. */
export function inboundOf(parts: readonly Coming[], quantity: Quantity): Shortage['inbound'] {
  const last = (a: Coming, b: Coming) => later(a.day, b.day);
  const days: (Coming & { readonly day: IsoDay })[] = [];
  let uncovered = '0';
  let missing = quantity;
  for (const part of [...parts.filter(({ waits }) => waits).sort(last), ...parts.filter(({ waits }) => !waits).sort(last)]) {
    const taken = least(missing, part.quantity);
    if (!isSome(taken)) break;
    missing = minus(missing, taken);
    if (part.day === null) uncovered = plus(uncovered, taken);
    else days.push({ ...part, day: part.day, quantity: taken });
  }
  days.sort((a, b) => later(b.day, a.day));
  return { days, uncovered: plus(uncovered, missing) };
}

/** Of what is waited for, a drop shipment that the warehouse can be sooner than is taken back: it counts as lifted. */
export function sparedByWarehouse(result: LiftResult, parts: readonly Coming[]): LiftResult {
  if (!result.ok || result.kept.slipped.length === 0) return result;
  const sooner = (id: number) => sum(parts.filter((part) => part.insteadOf === id).map((part) => part.quantity));
  const back = result.kept.slipped.map(({ id, cut }) => ({ id, cut: least(cut, sooner(id)) }));
  const kept = result.kept.slipped.map(({ id, cut }, at) => ({ id, cut: minus(cut, back[at]!.cut) }));
  return {
    ok: true,
    lifted: { ...result.lifted, slipped: byId([...result.lifted.slipped, ...back]) },
    kept: { ...result.kept, slipped: byId(kept) },
  };
}

/** Each once, those of nothing left out. */
function byId(cuts: Lifted['slipped']): Lifted['slipped'] {
  const sums = new Map<number, Decimal>();
  for (const { id, cut } of cuts) sums.set(id, plus(sums.get(id) ?? '0', cut));
  return [...sums].flatMap(([id, cut]) => (isSome(cut) ? [{ id, cut }] : []));
}

function isSome(quantity: Quantity): boolean {
  return compareDecimal(quantity, '0') > 0;
}

/** The later first; what never comes before all. */
function later(a: IsoDay | null, b: IsoDay | null): number {
  if (a === b) return 0;
  if (a === null || b === null) return a === null ? -1 : 1;
  return a < b ? 1 : -1;
}
