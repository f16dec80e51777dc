import type { ItemCode, LineId, WarehouseCode } from '../ids';
import { type Quantity, compareDecimal, least, minus, plus, sum, type Decimal } from '../money';
import { shortDay, type IsoDay } from '../calendar';
import { openQuantity, type LineQuantities } from '../orders';
import { checkSerials, readSerials, type SerialWhere } from '../serials';

/** A purchase line that goods may come for. Quantities in stocking units. */
export interface AwaitedLine {
  readonly id: number;
  readonly line_no: number;
  readonly item: ItemCode;
  readonly quantity: Quantity;
  readonly received: Quantity;
  readonly open: Quantity;
  /** The order line it was bought for; null: for anyone. */
  readonly order_line_id: LineId | null;
  readonly tracks_lots: boolean;
  readonly tracks_expiry: boolean;
  readonly tracks_serials: boolean;
}

/** What came: so much of a line that is sound, and so much that is not, of one lot and into one bin. */
export interface Arrival {
  readonly line: number;
  readonly quantity: Quantity;
  readonly damaged?: Quantity;
  readonly lot?: string;
  readonly expires?: IsoDay;
  readonly bin?: string;
  /** Serial numbers as they were scanned or typed, where the item has them: one for each piece. */
  readonly serials?: string;
}

export interface ReceiptFacts<Line extends AwaitedLine = AwaitedLine> {
  readonly lines: readonly Line[];
  /** Lots that are known, by `lotKey`: the day they expire, if any. */
  readonly lots: ReadonlyMap<string, IsoDay | null>;
  readonly warehouse: WarehouseCode;
  readonly bins: ReadonlySet<string>;
  /** Where serial numbers are that are known already, by item. */
  readonly serials: ReadonlyMap<string, ReadonlyMap<string, SerialWhere>>;
  /** Lines of orders that goods were bought for, as they stand. */
  readonly orderLines: ReadonlyMap<number, LineQuantities & { readonly reserved: Quantity }>;
}

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

export interface ReceiptFault {
  /** Path in the request: `lines[2].lot`. */
  readonly field: string;
  readonly message: string;
}

export type ReceiptDecision<Line extends AwaitedLine = AwaitedLine> =
  { readonly ok: true; readonly receipt: Receipt<Line> } | { readonly ok: false; readonly faults: readonly ReceiptFault[] };

export function lotKey(item: ItemCode, lot: string): string {
  return `${item}/${lot}`;
}

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

function arrivalFaults({ lines, lots, warehouse, bins, serials }: ReceiptFacts, arrivals: readonly Arrival[], today: IsoDay): ReceiptFault[] {
  const known = new Map(lots);
  const scanned = new Map<string, Map<string, SerialWhere>>();
  return arrivals.flatMap((arrival, at) => {
    const { line: id, quantity, damaged, bin = '' } = arrival;
    const line = lines.find((row) => row.id === id);
    const fault = (name: string, message: string): ReceiptFault => ({ field: `lines[${at}].${name}`, message });
    if (!line) return [fault('line', `there is no line ${id} on this purchase order`)];
    return [
      ...(!isSome(quantity) && damaged === undefined ? [fault('quantity', 'expected a good or a damaged quantity')] : []),
      ...lotFaults(line, arrival, known, today).map(([name, message]) => fault(name, message)),
      ...(bin !== '' && !bins.has(bin) ? [fault('bin', `there is no bin ${bin} at ${warehouse}`)] : []),
      ...serialFaults(line, arrival, mapOf(scanned, line.item, serials), today).map((message) => fault('serials', message)),
    ];
  });
}

/** The numbers of an item that are known, with those that this receipt has named before. */
function mapOf(scanned: Map<string, Map<string, SerialWhere>>, item: ItemCode, known: ReceiptFacts['serials']): Map<string, SerialWhere> {
  const own = scanned.get(item) ?? new Map(known.get(item));
  scanned.set(item, own);
  return own;
}

/** What is wrong with the serial numbers that are given. They are noted in `known`: none comes twice. */
function serialFaults(
  { item, tracks_serials }: AwaitedLine,
  { quantity, damaged, serials = '' }: Arrival,
  known: Map<string, SerialWhere>,
  today: IsoDay,
): readonly string[] {
  if (!tracks_serials) return serials.trim() === '' ? [] : [`${item} has no serial numbers`];
  if (isSome(quantity) && damaged !== undefined) return [`${item} has serial numbers: enter the damaged ones by themselves`];
  const checked = checkSerials(item, serials, plus(quantity, damaged ?? '0'), known, today);
  if (!checked.ok) return checked.messages;
  for (const serial of checked.serials) known.set(serial, { kind: 'receipt' });
  return [];
}

/** What is wrong with the lot that is given. Its day is noted in `known`: the next arrival of it has the same. */
function lotFaults(
  { item, tracks_lots, tracks_expiry }: AwaitedLine,
  { quantity, lot = '', expires }: Arrival,
  known: Map<string, IsoDay | null>,
  today: IsoDay,
): (readonly [name: string, message: string])[] {
  if (lot === '') return tracks_lots ? [['lot', `${item} is kept by lot: expected the lot on the label`]] : [];
  const key = lotKey(item, lot);
  const isKnown = known.has(key);
  const stands = known.get(key) ?? null;
  const last = expires ?? stands;
  known.set(key, last);
  const faults: (readonly [string, string])[] = [];
  if (tracks_expiry && expires === undefined && !isKnown) faults.push(['expires', `${item} expires: expected the day on the label`]);
  if (isKnown && expires !== undefined && stands !== expires)
    faults.push(['expires', `lot ${lot} of ${item} ${stands ? `expires ${stands}` : 'has no such day'}, got ${expires}`]);
  if (last !== null && last < today && isSome(quantity))
    faults.push(['expires', `lot ${lot} of ${item} expired ${shortDay(last, today)}: receive it as damaged, into quarantine, or correct the day`]);
  return faults;
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
