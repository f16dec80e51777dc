import { type Quantity, compareDecimal, plus, sum, type Decimal } from '../money';
import { boundToParts, requestedDayOf } from '../book';
import { calendarOf, type IsoDay } from '../calendar';
import { USUALLY_SURE } from '../orders';
import { decimal, type AtRisk, type BookDemand, type DemandPromise } from '../promise';
import { comingOf, leavingDays, liftLine, sparedByWarehouse, type Coming, type Liftable, type Lifted, type LiftResult } from '../shortages';
import type { Answered, DropShipment, RoutedLine, RoutingFacts } from './routing-facts';

/** What of a line's promises its goods reach too late or never, by the day the book reads. */
export function risksOf(
  { book }: RoutingFacts,
  line: RoutedLine,
): readonly { readonly day: IsoDay; readonly quantity: Quantity; readonly leaves: IsoDay | null }[] {
  return riskRows(book, line).map((row) => ({ day: row.date, quantity: decimal(row.quantity), leaves: row.arrives }));
}

/** Drop shipments for a line that leave later than was told. */
export function slippedOf({ slipped }: RoutingFacts, line: RoutedLine): readonly DropShipment[] {
  return slipped.filter((row) => row.line === line.id);
}

/**
 * How much of a line waits, how much of what was told comes later or not at all, and how much is without cover or later
 * than was asked; in stocking units.
 */
export function shortOf(facts: RoutingFacts, line: RoutedLine): { readonly waiting: Quantity; readonly astray: Decimal; readonly short: Quantity } {
  const slipped = sum(slippedOf(facts, line).map((row) => row.quantity));
  const promise = promiseFor(facts.book, line);
  if (!promise) return { waiting: '0', astray: slipped, short: slipped };
  const requested = requestedDayOf(line, line);
  const risks = riskRows(facts.book, line);
  // A day at risk that was told in time is late as well; one told for a later day is counted by its day.
  const late = promise.schedule.filter((entry) => entry.date > requested);
  const lateInTime = risks.filter((row) => row.date <= requested);
  const waiting = plus(decimal(promise.uncovered), sum(promise.schedule.filter((entry) => !entry.kept).map((entry) => decimal(entry.quantity))));
  const short = sum([decimal(promise.uncovered), slipped, ...[...late, ...lateInTime].map((row) => decimal(row.quantity))]);
  return { waiting, astray: sum([slipped, ...risks.map((row) => decimal(row.quantity))]), short };
}

/** The days, up to the one asked for, on which something of a line leaves as it stands. */
export function promisedInTime(facts: RoutingFacts, line: RoutedLine): readonly IsoDay[] {
  const requested = requestedDayOf(line, line);
  const risky = new Set(riskRows(facts.book, line).map((row) => row.date));
  return (promiseFor(facts.book, line)?.schedule ?? []).map((entry) => entry.date).filter((day) => day <= requested && !risky.has(day));
}

/** What can be routed of a line, in stocking units: what is open at its warehouse, and drop shipments that slipped. */
export function openOf(facts: RoutingFacts, line: RoutedLine): Decimal {
  const demand = demandOf(facts.book, line);
  return sum([demand ? decimal(demand.quantity) : '0', ...slippedOf(facts, line).map((row) => row.quantity)]);
}

/** What is open of a line, and when it really leaves. */
export function liftableOf(facts: RoutingFacts, line: RoutedLine): Liftable {
  const promised = (demandOf(facts.book, line)?.promised ?? []).map(({ date, quantity }) => ({ day: date, quantity: decimal(quantity) }));
  return { waiting: shortOf(facts, line).waiting, promises: leavingDays(promised, risksOf(facts, line)), slipped: slippedOf(facts, line) };
}

/**
 * Which parts of a line go another way (`lifts`), and which are waited for (`keeps`). Of what is waited for, a drop
 * shipment that the warehouse can be sooner than is taken back as well.
 */
export function lift(
  facts: RoutingFacts,
  line: RoutedLine,
  lifts: Quantity,
  keeps: Quantity,
  known: Omit<Liftable, 'slipped'> = liftableOf(facts, line),
): LiftResult {
  return sparedByWarehouse(liftLine({ ...known, slipped: slippedOf(facts, line) }, lifts, keeps), comingFor(facts, line));
}

/** Drop shipments that another way takes back from their suppliers, in words. */
export function takesBack(facts: RoutingFacts, line: RoutedLine, lifted: Lifted): string[] {
  return lifted.slipped.map(({ id, cut }) => {
    const { number, supplierName } = slippedOf(facts, line).find((row) => row.id === id)!;
    return `${cut} of ${number} taken back from ${supplierName}`;
  });
}

/** What goods on their way that are bound to a line its promises rest on of which `lifts` go another way, by their names in the book. */
export function boundToLine({ book }: RoutingFacts, line: RoutedLine, lifts: Quantity): ReadonlyMap<string, Decimal> {
  return boundToParts(book.live, promiseFor(book, line), lifts);
}

/** All that is open of a line, as it comes now. */
export function comingFor(facts: RoutingFacts, line: RoutedLine): Coming[] {
  const sure = line.confidence ?? facts.desk.confidence;
  const surely = facts.surely.get(sure)!;
  const { book } = facts.warehouses.get(line.warehouse)!;
  return comingOf({
    waiting: shortOf(facts, line).waiting,
    slipped: slippedOf(facts, line),
    promise: promiseFor(surely, line),
    supplies: surely.live.supplies,
    risks: riskRows(facts.book, line),
    surely: riskRows(surely, line),
    sureness: {
      odds: facts.odds,
      dock: { calendar: calendarOf(book), receivingDays: book.receivingDays ?? 0 },
      today: facts.time.today,
      sure: sure ?? USUALLY_SURE,
    },
  });
}

/** Whether so much of a line may be waited for: of a released order no more than waits, or comes other than as told. */
export function mayWaitFor(facts: RoutingFacts, line: RoutedLine, quantity: Quantity): boolean {
  const { waiting, astray } = shortOf(facts, line);
  return line.state !== 'released' || compareDecimal(quantity, plus(waiting, astray)) <= 0;
}

function idOf({ live }: Answered, line: RoutedLine): string {
  return live.demandOfLine.get(line.id) ?? '';
}

function demandOf(book: Answered, line: RoutedLine): BookDemand | undefined {
  return book.demandOf.get(idOf(book, line));
}

function promiseFor(book: Answered, line: RoutedLine): DemandPromise | undefined {
  return book.promiseOf.get(idOf(book, line));
}

function riskRows(book: Answered, line: RoutedLine): readonly AtRisk[] {
  return book.risksOf.get(idOf(book, line)) ?? [];
}
