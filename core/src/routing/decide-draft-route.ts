import type { ShipToId } from '../ids';
import { compareDecimal, divide, minus, sum, times, type Quantity, type UnitPrice } from '../money';
import type { ChosenPart } from '../shortages';
import type { LineChoice } from './decide-routing';
import { findRoute } from './find-route';
import { substituteOf, type RoutedLine, type RoutingFacts, type WaysLeft } from './routing-facts';
import { assemblyDays } from './shortage-of';
import { allWays, takeWays } from './ways-left';

/** What a draft's line has been given a way for already, and where its customer may be sent goods. */
export interface DraftStanding {
  readonly planned: Quantity;
  readonly addresses: readonly ShipToId[];
}

/** A part of a draft's route: it is planned, and carried out on release. */
export interface PlannedPart<Part> {
  readonly part: Part;
  readonly unitCost: UnitPrice;
  /** Working days its assembly takes. */
  readonly workDays: number | null;
}

/** What becomes of a draft's line. */
export interface DraftRoute<Part> {
  readonly ok: true;
  readonly plans: readonly PlannedPart<Part>[];
  /** What goes as another item, and how many of that stand for one. */
  readonly replaced: readonly { readonly part: Part; readonly ratio: Quantity }[];
  /** What stays of the line, in the unit it was ordered in; null where all of it does; '0': it goes. */
  readonly quantity: Quantity | null;
}

export type DraftDecision<Part> = DraftRoute<Part> | { readonly ok: false; readonly field: string; readonly why: string };

/**
 * What ways chosen for a line of a draft do: what is cut or replaced is no longer ordered, all else is planned. The route
 * itself is found as for a released line (`findRoute`), and taken from `ways`: what those before left. A fault names its field below `parts`.
 */
export function decideDraftRoute<Part extends ChosenPart & { readonly shipTo?: ShipToId }>(
  facts: RoutingFacts,
  line: RoutedLine,
  { parts, by }: Pick<LineChoice<Part>, 'parts' | 'by'>,
  { planned, addresses }: DraftStanding,
  ways: WaysLeft = allWays(facts),
): DraftDecision<Part> {
  const wanted = sum(parts.map((part) => part.quantity));
  const free = minus(line.stock_quantity, planned);
  if (compareDecimal(wanted, free) > 0) return fault('', `${wanted} is more than the ${free} of this line without a route`);
  const found = findRoute(facts, ways, line, wanted, { parts, by });
  if (!found.ok) return fault(found.at === null ? '' : `[${found.at}].${found.field}`, found.why);
  for (const [at, { kind, shipTo }] of parts.entries()) {
    if (shipTo === undefined) continue;
    if (kind !== 'drop_ship') return fault(`[${at}].shipTo`, 'only a drop shipment goes to an address of its own');
    if (!addresses.includes(shipTo)) return fault(`[${at}].shipTo`, `${shipTo} is no address of this customer`);
  }
  const off = sum(parts.flatMap((part) => (isOff(part) ? [part.quantity] : [])));
  const quantity = compareDecimal(off, '0') === 0 ? null : inOrderedUnit(line, minus(line.stock_quantity, off));
  if (quantity === undefined)
    return fault('', `${minus(line.stock_quantity, off)} ${line.unit} are no exact number of the unit of the line: cut another quantity, or change its unit`);
  const plans = parts.flatMap((part, at) =>
    isOff(part)
      ? []
      : [{ part, unitCost: found.route.parts[at]!.unitCost, workDays: part.kind === 'assemble' ? assemblyDays(facts, ways, line, part.quantity) : null }],
  );
  takeWays(facts, ways, line, found.route);
  return {
    ok: true,
    plans,
    replaced: parts.flatMap((part) => (part.kind === 'substitute' ? [{ part, ratio: substituteOf(facts, line, part.item!)!.ratio }] : [])),
    quantity,
  };
}

function isOff({ kind }: ChosenPart): boolean {
  return kind === 'cut' || kind === 'substitute';
}

/** A quantity in stocking units as it was ordered; undefined where it is no exact number of that. */
function inOrderedUnit({ numerator, denominator }: RoutedLine, stock: Quantity): Quantity | undefined {
  const quantity = divide(times(stock, denominator), numerator, 4);
  return compareDecimal(times(quantity, numerator), times(stock, denominator)) === 0 ? quantity : undefined;
}

function fault(field: string, why: string): { readonly ok: false; readonly field: string; readonly why: string } {
  return { ok: false, field, why };
}
