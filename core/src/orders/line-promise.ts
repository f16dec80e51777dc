import type { ItemCode } from '../ids';
import { type Quantity, compareDecimal, sum } from '../money';
import { calendarOf, dayNumber, firstShipDay, type IsoDay, shortDay, shortDays } from '../calendar';
import { decimal, spokenPromise, type AtRisk, type BookWarehouse, type DemandPromise, type OrderBook, type ScheduleEntry } from '../promise';
import { howSure, lineSureness, type Holding, type Sureness, type SupplyInfo } from './how-sure';
import { requestedShipDay, type Asked } from './requested-day';

/** A part of a line's promise. Quantities in stocking units. */
export interface SchedulePart extends Holding {
  readonly day: IsoDay;
  readonly quantity: Quantity;
  /** Told to the customer already; otherwise what could be promised now. */
  readonly kept: boolean;
  readonly dropShip: boolean;
  /** The day its supply really lets it leave, where that is later than promised. */
  readonly arrives: IsoDay | null;
  readonly broken: boolean;
  readonly from: readonly { readonly quantity: Quantity; readonly label: string; readonly purchase: number | null; readonly days: string }[];
}

/** What is known of a line when its promise is told. */
export interface LineFacts {
  /** Its demand in the book; undefined where nothing of it leaves a warehouse any more. */
  readonly demand: string | undefined;
  readonly promise: DemandPromise | undefined;
  /**
   * What could be promised now, where that is counted more surely than what was told is judged: its new entries stand in
   * the place of those of `promise`.
   */
  readonly offered?: { readonly promise: DemandPromise; readonly supplies: ReadonlyMap<string, SupplyInfo> } | undefined;
  /** What of the book's kept promises is reached too late, or not at all. */
  readonly atRisk: readonly AtRisk[];
  readonly item: ItemCode;
  readonly asked: Asked;
  readonly warehouse: { readonly name: string; readonly book: BookWarehouse };
  /** Neither shipped nor cancelled. */
  readonly open: Quantity;
  readonly shipped: Quantity;
  /** What suppliers ship to the customer. */
  readonly dropShips: readonly SchedulePart[];
  readonly dropShippers: ReadonlyMap<string, string>;
  readonly book: OrderBook;
  readonly supplies: ReadonlyMap<string, SupplyInfo>;
  /** The local time, `YYYY-MM-DDTHH:MM`. */
  readonly localTime: string;
  readonly sureness: Omit<Sureness, 'dock' | 'today'>;
}

/** A line's promise as it is told: the days, how sure they are, why, and what to say. */
export interface LinePromise extends Holding {
  readonly requested: IsoDay;
  readonly schedule: readonly SchedulePart[];
  readonly uncovered: Quantity;
  readonly daysLate: number | null;
  readonly sure: number;
  readonly holdsWords: string;
  readonly state: 'covered' | 'late' | 'uncovered' | 'done';
  readonly stateWords: string;
  /** The days that go with it, or what there is in place of one; may be empty. */
  readonly stateDays: string;
  readonly why: readonly string[];
  readonly spoken: string;
  readonly ticks: readonly { readonly day: IsoDay; readonly quantity: Quantity; readonly label: string }[];
}

export function linePromise(facts: LineFacts): LinePromise {
  const { open, localTime } = facts;
  const today = localTime.slice(0, 10);
  const requested = requestedShipDay(facts.asked);
  const sureness = { ...facts.sureness, today, dock: { calendar: calendarOf(facts.warehouse.book), receivingDays: facts.warehouse.book.receivingDays ?? 0 } };
  const schedule = byDay([...warehouseParts(facts, sureness), ...facts.dropShips]);
  const uncovered = decimal((facts.offered?.promise ?? facts.promise)?.uncovered ?? 0);
  const daysLate = latest(facts, requested);
  const parts = schedule.filter((part) => !part.broken).map((part) => ({ day: part.arrives ?? part.day, quantity: Number(part.quantity) }));
  return {
    requested,
    schedule,
    uncovered,
    daysLate,
    ...lineSureness(schedule, suppliersOf(facts), sureness),
    ...stateOf(facts, uncovered, daysLate, schedule, today),
    why: reasons(facts, requested, uncovered, today),
    spoken: compareDecimal(open, '0') > 0 ? spokenPromise(byDay(parts), Number(uncovered), today) : 'Nothing of this line is open.',
    ticks: ticksOf(facts, today),
  };
}

/** Calendar days from the day asked for to the last day goods really leave; null where some never do. */
function latest({ promise, offered, dropShips }: LineFacts, requested: IsoDay): number | null {
  if (promise?.daysLate === null || offered?.promise.uncovered) return null;
  const days = [...dropShips.map((part) => part.arrives ?? part.day), ...newEntries(offered?.promise).map((entry) => entry.date)];
  return Math.max(promise?.daysLate ?? 0, ...days.map((day) => dayNumber(day) - dayNumber(requested)));
}

function newEntries(promise: DemandPromise | undefined): readonly ScheduleEntry[] {
  return promise?.schedule.filter((entry) => !entry.kept) ?? [];
}

/** What was told and what could be promised now, each with what is known of the supplies it was counted with. */
function entriesOf({ promise, offered, supplies }: LineFacts): readonly { readonly entry: ScheduleEntry; readonly supplies: LineFacts['supplies'] }[] {
  const told = (promise?.schedule ?? []).filter((entry) => entry.kept || !offered);
  return [...told.map((entry) => ({ entry, supplies })), ...newEntries(offered?.promise).map((entry) => ({ entry, supplies: offered!.supplies }))];
}

function warehouseParts(facts: LineFacts, sureness: Sureness): SchedulePart[] {
  const { demand, atRisk } = facts;
  return entriesOf(facts).map(({ entry, supplies }): SchedulePart => {
    const risks = entry.kept ? atRisk.filter((risk) => risk.id === demand && risk.date === entry.date) : [];
    const arrivals = risks.map((risk) => risk.arrives).filter((day) => day !== null);
    return {
      day: entry.date,
      quantity: decimal(entry.quantity),
      kept: entry.kept,
      dropShip: false,
      arrives: arrivals.length > 0 ? arrivals.reduce((a, b) => (a > b ? a : b)) : null,
      broken: risks.some((risk) => risk.arrives === null),
      ...howSure(
        entry.from.map(({ supply }) => supplies.get(supply)),
        entry.date,
        sureness,
      ),
      from: entry.from.map(({ supply, quantity }) => {
        const { label, purchase, days } = supplies.get(supply)!;
        return { quantity: decimal(quantity), label, purchase, days };
      }),
    };
  });
}

/** The suppliers whose goods the line rests on, by code, with their names. */
function suppliersOf(facts: LineFacts): ReadonlyMap<string, string> {
  const suppliers = new Map(facts.dropShippers);
  for (const { entry, supplies } of entriesOf(facts))
    for (const { supply } of entry.from) {
      const awaited = supplies.get(supply)?.awaited;
      if (awaited) suppliers.set(awaited.supplier, awaited.supplierName);
    }
  return suppliers;
}

function stateOf(
  { open, shipped }: LineFacts,
  uncovered: Quantity,
  daysLate: number | null,
  schedule: readonly SchedulePart[],
  today: IsoDay,
): Pick<LinePromise, 'state' | 'stateWords' | 'stateDays'> {
  if (compareDecimal(open, '0') === 0) return { state: 'done', stateWords: compareDecimal(shipped, '0') > 0 ? 'shipped' : 'cancelled', stateDays: '' };
  const days = shortDays(
    schedule.map((part) => part.arrives ?? part.day),
    today,
  );
  const broken = sum(schedule.filter((part) => part.broken).map((part) => part.quantity));
  if (compareDecimal(uncovered, '0') > 0) return { state: 'uncovered', stateWords: `${uncovered} backordered`, stateDays: days || 'no supply yet' };
  if (compareDecimal(broken, '0') > 0) return { state: 'uncovered', stateWords: `${broken} lost their supply`, stateDays: '' };
  if (daysLate === null || daysLate > 0) return { state: 'late', stateWords: 'late', stateDays: days };
  return { state: 'covered', stateWords: 'covered', stateDays: days };
}

/** Why the day is what it is, before the pegs: what was asked, run back from the delivery day, and the first day anything can leave. */
function reasons({ asked, warehouse, open, localTime }: LineFacts, requested: IsoDay, uncovered: Quantity, today: IsoDay): string[] {
  if (compareDecimal(open, '0') === 0) return [];
  const { name } = warehouse;
  const words = [
    asked.deliverBy
      ? `Requested for delivery by ${shortDay(asked.day, today)}: with ${asked.transitDays} working ${asked.transitDays === 1 ? 'day' : 'days'} in transit it must ship from ${name} by ${shortDay(requested, today)}.`
      : `Requested to ship from ${name} by ${shortDay(requested, today)}.`,
  ];
  const first = firstShipDay(warehouse.book, localTime);
  const why = first === today ? '' : whyNotToday(warehouse.book, today);
  if (first !== today || requested < first) words.push(`Nothing can ship from ${name} before ${shortDay(first, today)}${why}.`);
  if (compareDecimal(uncovered, '0') > 0) words.push(`No supply yet for ${uncovered}: nothing on hand or inbound is available.`);
  return words;
}

/** Supply that is due for the line's item at its warehouse and not bound to another line. */
function ticksOf({ book, item, warehouse, demand, supplies }: LineFacts, today: IsoDay): LinePromise['ticks'] {
  const free = book.supply.filter(
    (row) => row.item === item && row.warehouse === warehouse.book.id && row.date !== undefined && (row.for === undefined || row.for === demand),
  );
  return free.map((row) => ({ day: row.date! < today ? today : row.date!, quantity: decimal(row.quantity), label: supplies.get(row.id)!.label }));
}

/** Why the first day goods can leave a warehouse is not today. */
function whyNotToday(warehouse: BookWarehouse, today: IsoDay): string {
  return calendarOf(warehouse).isWorkingDay(dayNumber(today)) ? `: the cut-off of ${warehouse.cutoff} has passed` : ', the next working day';
}

function byDay<T extends { readonly day: IsoDay }>(parts: readonly T[]): T[] {
  return [...parts].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}
