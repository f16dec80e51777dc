import type { ItemCode } from '../ids';
import { compareDecimal, least, minus, plus, sum, type Decimal, type Quantity } from '../money';
import type { IsoDay } from '../calendar';
import { openQuantity } from '../orders';
import { readSerials } from '../serials';
import { arrivalFaults } from './arrival-faults';
import { lotKey, type Arrival, type AwaitedLine, type ReceiptFacts, type ReceiptFault } from './receipt-facts';

export interface ReceivedLine<Line extends AwaitedLine = AwaitedLine> {
  readonly line: Line;
  /** Sound. */
  readonly quantity: Quantity;
}

export interface Receipt<Line extends AwaitedLine = AwaitedLine> {
  /** Each line once, with the sum of what came sound. */
  readonly lines: readonly (ReceivedLine<Line> & {
    readonly damaged: Quantity;
    /** What is received and ordered of it from now on: what comes over was ordered as well. */
    readonly received: Quantity;
    readonly ordered: Decimal;
  })[];
  /** What comes into which bin: sound, or into quarantine. */
  readonly goods: readonly {
    readonly line: Line;
    readonly quantity: Quantity;
    readonly damaged: boolean;
    readonly lot: string;
    readonly bin: string | null;
    readonly serials: readonly string[];
  }[];
  readonly newLots: readonly { readonly item: ItemCode; readonly lot: string; readonly expires: IsoDay | null }[];
  /** What is set aside for order lines from now on. */
  readonly reserved: ReadonlyMap<number, Decimal>;
  /** What is not awaited any more, by line. */
  readonly closed: readonly ReceivedLine<Line>[];
}

export type ReceiptDecision<Line extends AwaitedLine = AwaitedLine> =
  { readonly ok: true; readonly receipt: Receipt<Line> } | { readonly ok: false; readonly faults: readonly ReceiptFault[] };

/**
 * What a receipt does, or what is wrong with it, by line and field. An item that is kept by lot needs its lot, one that
 * expires its day, one with serial numbers as many as pieces; a lot has one day; what has expired comes into quarantine or not at all. What was bought for a line is
 * set aside for it as far as it still needs it. `closeRest`: close the remainder of the lines that came short.
 */
export function decideReceipt<Line extends AwaitedLine>(
  facts: ReceiptFacts<Line>,
  arrivals: readonly Arrival[],
  closeRest: boolean,
  today: IsoDay,
): ReceiptDecision<Line> {
  const faults = arrivalFaults(facts, arrivals, today);
  if (faults.length > 0) return { ok: false, faults };
  const checked = receivedLines(facts.lines, sumByLine(arrivals), true);
  if (!checked.ok) return checked;
  const { lines } = checked;
  return {
    ok: true,
    receipt: {
      lines: lines.map(({ line, quantity }) => {
        const over = minus(quantity, line.open);
        return {
          line,
          quantity,
          damaged: sum(arrivals.filter((row) => row.line === line.id).map((row) => row.damaged ?? '0')),
          received: plus(line.received, quantity),
          ordered: isSome(over) ? plus(line.quantity, over) : line.quantity,
        };
      }),
      goods: lines.flatMap(({ line }) => arrivals.filter((row) => row.line === line.id).flatMap((row) => goodsOf(line, row, today))),
      newLots: newLotsOf(facts, arrivals),
      reserved: reservedFor(facts, lines),
      closed: closeRest
        ? lines.flatMap(({ line, quantity }) => (compareDecimal(quantity, line.open) < 0 ? [{ line, quantity: minus(line.open, quantity) }] : []))
        : [],
    },
  };
}

/** The lines received, each once, and not above what is awaited where nothing may come over (`over`). */
export function receivedLines<Line extends AwaitedLine>(
  lines: readonly Line[],
  received: readonly { readonly line: number; readonly quantity: Quantity }[],
  over: boolean,
): { readonly ok: true; readonly lines: readonly ReceivedLine<Line>[] } | { readonly ok: false; readonly faults: readonly ReceiptFault[] } {
  const faults: ReceiptFault[] = [];
  const seen = new Set<number>();
  const found = received.flatMap(({ line: id, quantity }, at) => {
    const line = lines.find((row) => row.id === id);
    const fault = (name: string, message: string) => faults.push({ field: `lines[${at}].${name}`, message });
    if (!line) fault('line', `there is no line ${id} on this purchase order`);
    else if (seen.has(id)) fault('line', `line ${line.line_no} stands twice`);
    else if (!isSome(line.open)) fault('line', `nothing more is expected on line ${line.line_no}`);
    else if (!over && compareDecimal(quantity, line.open) > 0) fault('quantity', `${quantity} is more than the ${line.open} expected on line ${line.line_no}`);
    seen.add(id);
    return line ? [{ line, quantity }] : [];
  });
  return faults.length > 0 ? { ok: false, faults } : { ok: true, lines: found };
}

/** Somebody whom goods of a purchase line are promised to. */
export interface Owed {
  readonly quantity: Quantity;
}

/** Whom what came is for: those it is owed to, in their turn, as far as it goes. */
export function goesTo<To extends Owed>(quantity: Quantity, owed: readonly To[]): To[] {
  let left = quantity;
  return owed.flatMap((row) => {
    const part = least(left, row.quantity);
    left = minus(left, part);
    return isSome(part) ? [{ ...row, quantity: part }] : [];
  });
}

/** What came of each line that is fit to be sold, in the sequence in which lines are named first. */
export function sumByLine(arrivals: readonly Arrival[]): { readonly line: number; readonly quantity: Quantity }[] {
  return [...new Set(arrivals.map((row) => row.line))].map((line) => ({
    line,
    quantity: sum(arrivals.filter((row) => row.line === line).map((row) => row.quantity)),
  }));
}

function goodsOf<Line extends AwaitedLine>(
  line: Line,
  { quantity, damaged, lot = '', bin = '', serials = '' }: Arrival,
  today: IsoDay,
): Receipt<Line>['goods'] {
  const read = readSerials(serials, today);
  const place = { line, lot, bin: bin === '' ? null : bin, serials: read.ok ? read.serials : [] };
  return [
    ...(isSome(quantity) ? [{ ...place, quantity, damaged: false }] : []),
    ...(damaged === undefined ? [] : [{ ...place, quantity: damaged, damaged: true }]),
  ];
}

function newLotsOf({ lines, lots }: ReceiptFacts, arrivals: readonly Arrival[]): Receipt['newLots'] {
  const found = new Map<string, Receipt['newLots'][number]>();
  for (const { line: id, lot = '', expires } of arrivals) {
    const { item } = lines.find((row) => row.id === id)!;
    const key = lotKey(item, lot);
    if (lot !== '' && !lots.has(key) && !found.has(key)) found.set(key, { item, lot, expires: expires ?? null });
  }
  return [...found.values()];
}

/** What came in for an order line is set aside for it; what it no longer needs is anyone's. */
function reservedFor({ orderLines }: ReceiptFacts, lines: readonly ReceivedLine[]): Map<number, Decimal> {
  const reserved = new Map<number, Decimal>();
  for (const { line, quantity } of lines) {
    if (line.order_line_id === null || !isSome(quantity)) continue;
    const order = orderLines.get(line.order_line_id)!;
    reserved.set(line.order_line_id, least(openQuantity(order), plus(reserved.get(line.order_line_id) ?? order.reserved, quantity)));
  }
  return reserved;
}

function isSome(quantity: Quantity): boolean {
  return compareDecimal(quantity, '0') > 0;
}
