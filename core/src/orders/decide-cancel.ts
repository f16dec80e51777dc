import type { ItemCode } from '../ids';
import { type Quantity, compareDecimal, least, minus, plus, sum, type Decimal } from '../money';
import { decimal, lessOf, type BookDemand, type BookSupply, type OrderBook } from '../promise';
import { stepFault, toStockingUnits, type UnitRatio } from '../units';
import { cutLine, type Cut, type OpenLine } from './cut-line';

/** A line of a released order, as a cancellation looks at it. Quantities in stocking units where not said otherwise. */
export interface CancellableLine extends UnitRatio {
  readonly id: number;
  readonly lineNo: number;
  readonly item: ItemCode;
  /** In which the line is sold, and in which its item is kept; the least step of the second. */
  readonly unit: string;
  readonly stockUnit: string;
  readonly stockStep: Decimal;
  /** Neither shipped nor cancelled. */
  readonly open: Quantity;
  /** Set aside for it on the shelf. */
  readonly reserved: Quantity;
  readonly stands: OpenLine;
}

/** What is to be cancelled: the order, one line, or a quantity of it in the unit in which it is sold. */
export interface CancelWish {
  readonly line?: number;
  readonly quantity?: Quantity;
}

/** What is cancelled of a line, and from where it is taken. */
export interface LineCut {
  readonly line: number;
  readonly quantity: Quantity;
  readonly cut: Cut;
  /** What stays open of it, and what stays set aside. */
  readonly openAfter: Decimal;
  readonly reservedAfter: Decimal;
  /** What suppliers still ship of it to the customer. */
  readonly stillDropped: Decimal;
}

export type CancelDecision =
  | { readonly does: 'cancel'; readonly cuts: readonly LineCut[] }
  /** `field`: of the wish, where one is wrong. */
  | { readonly does: 'refuse'; readonly field: 'line' | 'quantity' | null; readonly why: string };

/**
 * What a cancellation takes from which line: all that is open of an order or a line, or a quantity of one line, which must be a
 * whole number of the item's steps. Where it is taken from is `cutLine`'s rule.
 */
export function decideCancel(lines: readonly CancellableLine[], { line: wanted, quantity: asked }: CancelWish): CancelDecision {
  const refuse = (field: 'line' | 'quantity' | null, why: string): CancelDecision => ({ does: 'refuse', field, why });
  const chosen = wanted === undefined ? lines : lines.filter((line) => line.id === wanted);
  if (wanted !== undefined && chosen.length === 0) return refuse('line', `there is no line ${wanted} on this order`);
  if (asked !== undefined && wanted === undefined) return refuse('quantity', 'a quantity is cancelled of one line: name it');
  const cuts: LineCut[] = [];
  for (const line of chosen) {
    const quantity = asked === undefined ? line.open : toStockingUnits(asked, line);
    if (quantity === null) return refuse('quantity', `${asked} ${line.unit} is no exact number of ${line.stockUnit}`);
    const parts = asked === undefined ? null : stepFault(quantity, line.stockUnit, line.stockStep);
    if (parts !== null) return refuse('quantity', parts);
    if (compareDecimal(quantity, '0') === 0) continue;
    const result = cutLine(line.stands, quantity);
    if (!result.ok) return refuse('quantity', `${quantity} ${line.stockUnit} is more than the ${result.most} still open on line ${line.lineNo}`);
    const openAfter = minus(line.open, quantity);
    cuts.push({
      line: line.id,
      quantity,
      cut: result.cut,
      openAfter,
      reservedAfter: least(line.reserved, openAfter),
      stillDropped: minus(sum(line.stands.dropShipments.map((row) => row.quantity)), sum(result.cut.dropShipments.map((row) => row.cut))),
    });
  }
  return cuts.length === 0 ? refuse(null, 'Nothing of it is open: it is shipped or cancelled already.') : { does: 'cancel', cuts };
}

/** Goods on their way that are bound to a line, by what the book calls them; a drop shipment goes to the customer. */
export interface BoundToLine {
  readonly kind: 'purchase' | 'drop_ship' | 'transfer' | 'assembly';
  readonly name: string;
  readonly open: Quantity;
}

/** What of goods that come to us for a line is more than the line needs: what is due last. `bound`: what is due first first. */
export function beyondNeed<B extends BoundToLine>(bound: readonly B[], needed: Quantity): { readonly row: B; readonly surplus: Decimal }[] {
  let missing = needed;
  return bound.flatMap((row) => {
    if (row.kind === 'drop_ship') return [];
    const kept = compareDecimal(missing, '0') > 0 ? least(missing, row.open) : '0';
    missing = minus(missing, kept);
    const surplus = minus(row.open, kept);
    return compareDecimal(surplus, '0') > 0 ? [{ row, surplus }] : [];
  });
}

/**
 * How much of what is bound to a line goes when it is cut: what the parts that are cancelled rested on (`freed`, by the
 * book's names), and what is beyond all that is left.
 */
export function givenUp<B extends BoundToLine>(
  { openAfter, reservedAfter, stillDropped }: LineCut,
  bound: readonly B[],
  freed: ReadonlyMap<string, Decimal>,
): readonly { readonly row: B; readonly quantity: Quantity }[] {
  const given = bound.map((row) => (row.kind === 'drop_ship' ? '0' : least(freed.get(row.name) ?? '0', row.open)));
  const rest = bound.map((row, at) => ({ kind: row.kind, name: row.name, open: minus(row.open, given[at]!), at }));
  for (const { row, surplus } of beyondNeed(rest, minus(minus(openAfter, stillDropped), reservedAfter))) given[row.at] = plus(given[row.at]!, surplus);
  return bound.flatMap((row, at) => (compareDecimal(given[at]!, '0') > 0 ? [{ row, quantity: given[at]! }] : []));
}

/**
 * The book with what is cancelled taken out: its promises, and what was bound to it closed or freed for anyone. `cuts`: by
 * demand; `freed`: what the cancelled parts rested on, by supply; `closes`: whether a supply that is given up is gone.
 */
export function bookAfterCancel(
  book: OrderBook,
  cuts: ReadonlyMap<string, LineCut>,
  freed: ReadonlyMap<string, Decimal>,
  closes: (supply: string) => boolean,
): OrderBook {
  const demand = book.demand.flatMap((row): BookDemand[] => {
    const found = cuts.get(row.id);
    return found ? demandAfter(row, found, sum(book.supply.flatMap((supply) => (supply.for === row.id ? (freed.get(supply.id) ?? []) : [])))) : [row];
  });
  const open = new Map(demand.map((row) => [row.id, decimal(row.quantity)]));
  const supply = book.supply.flatMap((row): BookSupply[] => {
    if (row.for === undefined || !cuts.has(row.for)) return [row];
    const { for: target, ...free } = row;
    const needed = open.get(target) ?? '0';
    const kept = least(needed, minus(decimal(row.quantity), freed.get(row.id) ?? '0'));
    open.set(target, minus(needed, kept));
    const surplus = minus(decimal(row.quantity), kept);
    return [
      ...(compareDecimal(kept, '0') > 0 ? [{ ...row, quantity: Number(kept) }] : []),
      ...(compareDecimal(surplus, '0') > 0 && !closes(row.id) ? [{ ...free, id: `${row.id}/freed`, quantity: Number(surplus) }] : []),
    ];
  });
  return { ...book, demand, supply };
}

/** What is left of a demand. `freed`: what of the goods bound to it the cancelled parts stood on. */
function demandAfter(row: BookDemand, { quantity: cancelled, cut }: LineCut, freed: Decimal): BookDemand[] {
  // What the supplier would have shipped is not in the book: only what stays of the warehouse's part counts here.
  const dropped = sum(cut.dropShipments.map((drop) => drop.cut));
  const quantity = minus(decimal(row.quantity), minus(cancelled, dropped));
  if (compareDecimal(quantity, '0') <= 0) return [];
  let standing = freed;
  const promised = cut.promises.reduce(
    (parts, { day, cut: gone, remains }) =>
      parts.flatMap((part) => {
        if (part.date !== day) return [part];
        const stood = least(standing, least(gone, decimal(part.boundQuantity ?? part.quantity)));
        standing = minus(standing, stood);
        return compareDecimal(remains, '0') > 0 ? [lessOf(part, Number(remains), Number(stood))] : [];
      }),
    row.promised ?? [],
  );
  return [{ ...row, quantity: Number(quantity), promised }];
}
