import { type Quantity, compareDecimal, minus, plus, sum, type Decimal } from '../money';
import type { IsoDay } from '../calendar';
import { unpicked, type OpenLine } from '../orders';
import { leavingDays, ROUTE_WORDS, type ChosenPart, type Lifted, type Route } from '../shortages';
import { findRoute } from './find-route';
import type { RoutedLine, RoutingFacts, WaysLeft } from './routing-facts';
import { boundToLine, lift, risksOf, shortOf } from './short-of';
import { allWays, takeWays } from './ways-left';

/** The ways chosen for a line. */
export interface LineChoice<Part extends ChosenPart = ChosenPart> {
  readonly line: number;
  readonly parts: readonly Part[];
  /** Of its order as it was looked at. */
  readonly version?: number;
  /** The day the customer agreed to: it must leave by then. */
  readonly by?: IsoDay;
}

/** A choice that can be done, with the route it is and what it takes off the line. */
export interface Decided<Part extends ChosenPart = ChosenPart> {
  readonly line: number;
  readonly parts: readonly Part[];
  readonly route: Route;
  /** What of it goes another way, and what is waited for as it comes now. */
  readonly lifted: Lifted;
  readonly kept: Lifted;
  /** What remains promised, on the days of which something is taken off. */
  readonly remains: readonly { readonly day: IsoDay; readonly remains: Decimal }[];
  /** What is cut or goes as another item: it is no longer owed. */
  readonly lost: Quantity;
  /** What was bound to the line for what goes another way, by its name in the book. */
  readonly freed: ReadonlyMap<string, Decimal>;
  /** Of each item that goes instead: how many stand for one. */
  readonly ratios: ReadonlyMap<string, Decimal>;
  /** How sure its new promises must be, in percent; null: the suppliers' days are believed. */
  readonly sure: number | null;
}

export interface Routing<Part extends ChosenPart = ChosenPart> {
  readonly decided: readonly Decided<Part>[];
  /** Lines that cannot be routed as chosen. */
  readonly left: readonly { readonly line: number; readonly why: string }[];
}

/**
 * What each choice takes and gives, one after the other in the sequence of their orders: what one takes the next does not
 * have. `standing`: the lines as they stand, by id.
 */
export function decideRouting<Part extends ChosenPart>(
  facts: RoutingFacts,
  choices: readonly LineChoice<Part>[],
  standing: ReadonlyMap<number, OpenLine>,
): Routing<Part> {
  const ways = allWays(facts);
  const wished = new Map(choices.map((choice) => [choice.line, choice]));
  const decided: Decided<Part>[] = [];
  const left: { line: number; why: string }[] = [];
  for (const line of facts.lines.values()) {
    const result = decideLine(facts, ways, line, wished.get(line.id)!, standing.get(line.id)!);
    if (typeof result === 'string') left.push({ line: line.id, why: result });
    else decided.push(result);
  }
  return { decided, left };
}

/** The choice for one line, or why it cannot be. */
function decideLine<Part extends ChosenPart>(
  facts: RoutingFacts,
  ways: WaysLeft,
  line: RoutedLine,
  { parts, version, by }: LineChoice<Part>,
  open: OpenLine,
): Decided<Part> | string {
  if (line.state !== 'released' || line.kind !== 'order') return `order ${line.number ?? line.order_id} is ${line.state}`;
  if (version !== undefined && version !== line.version) return `order ${line.number} has changed since it was looked at`;
  const lifts = quantityOf(parts.filter(({ kind }) => kind !== 'backorder'));
  const waits = quantityOf(parts.filter(({ kind }) => kind === 'backorder'));
  const asked = plus(lifts, waits);
  const promises = leavingDays(unpicked(open), risksOf(facts, line));
  const result = lift(facts, line, lifts, waits, { waiting: open.waiting, promises });
  if (!result.ok) return `${asked} is more than the ${result.most} of this line that can still be routed`;
  const mayWait = minus(plus(open.waiting, shortOf(facts, line).astray), lifts);
  if (compareDecimal(waits, '0') > 0 && compareDecimal(waits, mayWait) > 0)
    return `${waits} is more than the ${compareDecimal(mayWait, '0') > 0 ? mayWait : '0'} that wait, or come late, on this line`;
  const found = findRoute(facts, ways, line, asked, { parts, by });
  if (!found.ok) return found.at === null ? found.why : `${ROUTE_WORDS[parts[found.at]!.kind]}: ${found.why}`;
  takeWays(facts, ways, line, found.route);
  const { lifted, kept } = result;
  return {
    line: line.id,
    parts,
    route: found.route,
    lifted,
    kept,
    remains: remainsOf(open, lifted, kept),
    lost: quantityOf(parts.filter(({ kind }) => kind === 'cut' || kind === 'substitute')),
    ratios: new Map((facts.substitutes.get(line.item) ?? []).map((row) => [row.substitute, row.ratio])),
    sure: line.confidence ?? facts.desk.confidence,
    freed: lifted.promises.length === 0 ? new Map() : boundToLine(facts, line, sum(lifted.promises.map((row) => row.cut))),
  };
}

/** What is waited for is promised anew as what goes another way is not: both are taken off. */
function remainsOf({ promises }: OpenLine, lifted: Lifted, kept: Lifted): Decided['remains'] {
  const off = new Map<IsoDay, Decimal>();
  for (const { day, cut } of [...lifted.promises, ...kept.promises]) off.set(day, plus(off.get(day) ?? '0', cut));
  return promises.flatMap(({ day, quantity }) => (off.has(day) ? [{ day, remains: minus(quantity, off.get(day)!) }] : []));
}

function quantityOf(parts: readonly ChosenPart[]): Decimal {
  return sum(parts.map((part) => part.quantity));
}
