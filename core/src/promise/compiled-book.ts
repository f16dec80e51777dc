import { dayNumber, parseClock, parseLocalTime, workCalendar, type DayNumber, type WorkCalendar } from '../calendar';
import type { BookSupply, OrderBook } from './order-book';
import { toScaled, type Scaled } from './quantity';
import { Timeline } from './timeline';

/** A warehouse as the computation sees it. */
export interface Site {
  readonly calendar: WorkCalendar;
  /** F: the first day on which goods can leave. */
  readonly firstShipDay: DayNumber;
  readonly receivingDays: number;
}

/** A supply, or what is left of one, with the day its goods can leave. */
export interface SupplyPiece {
  readonly id: string;
  readonly onHand: boolean;
  readonly available: DayNumber;
  /** What there was; `quantity` is what is left of it. */
  initial: Scaled;
  quantity: Scaled;
}

/** The free supply of an item at a warehouse, and what is taken from it. */
export interface Pool {
  readonly timeline: Timeline;
  readonly supplies: SupplyPiece[];
}

export interface Assembly {
  readonly days: number;
  readonly components: readonly { readonly item: number; readonly quantity: Scaled }[];
}

export interface Line {
  readonly index: number;
  readonly id: string;
  readonly item: number;
  readonly site: number;
  readonly quantity: Scaled;
  readonly requested: DayNumber;
  readonly target: DayNumber;
  readonly partial: boolean;
  readonly promised: readonly { readonly day: DayNumber; readonly quantity: Scaled; readonly assembled: boolean }[];
  /** Bound supply, earliest first; `quantity` falls as it is taken. */
  readonly bound: SupplyPiece[];
}

export interface CompiledOrder {
  readonly id: string;
  readonly shipComplete: boolean;
  readonly lines: Line[];
}

export interface CompiledBook {
  readonly sites: readonly Site[];
  readonly assemblies: readonly (Assembly | null)[];
  readonly lines: readonly Line[];
  /** In the sequence in which they are promised. */
  readonly sequence: readonly CompiledOrder[];
  /** In file order. */
  readonly orders: readonly CompiledOrder[];
  pool(item: number, site: number): Pool;
  pools(): Iterable<Pool>;
}

const DEFAULT_PRIORITY = 5;

/** Turns a faultless order book into indices, day numbers and exact quantities, with every pool's supply in place. */
export function compileBook(book: OrderBook): CompiledBook {
  const now = parseLocalTime(book.asOf)!;
  const sites = book.warehouses.map((warehouse): Site => {
    const calendar = workCalendar(warehouse.workdays, (warehouse.closed ?? []).map(dayNumber));
    const cutoff = warehouse.cutoff === undefined ? Infinity : parseClock(warehouse.cutoff)!;
    const leavesToday = calendar.isWorkingDay(now.day) && now.minute < cutoff;
    return { calendar, firstShipDay: leavesToday ? now.day : calendar.ceil(now.day + 1), receivingDays: warehouse.receivingDays ?? 0 };
  });
  const siteOf = indexById(book.warehouses);
  const itemOf = indexById(book.items);

  const orders = book.orders.map((order): CompiledOrder => ({ id: order.id, shipComplete: order.shipComplete ?? false, lines: [] }));
  const orderOf = indexById(book.orders);
  const lines = book.demand.map((demand, index): Line => {
    const site = sites[siteOf.get(demand.warehouse)!]!;
    const readDay = (day: string) => Math.max(site.calendar.floor(dayNumber(day)), site.firstShipDay);
    const line: Line = {
      index,
      id: demand.id,
      item: itemOf.get(demand.item)!,
      site: siteOf.get(demand.warehouse)!,
      quantity: toScaled(demand.quantity)!,
      requested: dayNumber(demand.requested),
      target: readDay(demand.requested),
      partial: demand.partial ?? true,
      promised: mergeByDay(
        (demand.promised ?? []).map((entry) => ({ day: readDay(entry.date), quantity: toScaled(entry.quantity)!, assembled: entry.assembled ?? false })),
      ),
      bound: [],
    };
    orders[orderOf.get(demand.order)!]!.lines.push(line);
    return line;
  });

  const lineOf = indexById(book.demand);
  const free = new Map<number, SupplyPiece[]>();
  const boundDays = new Map<number, DayNumber[]>();
  for (const supply of book.supply) {
    const site = siteOf.get(supply.warehouse)!;
    const piece = pieceOf(supply, sites[site]!, now.day);
    const key = itemOf.get(supply.item)! * sites.length + site;
    if (supply.for === undefined) append(free, key, piece);
    else {
      lines[lineOf.get(supply.for)!]!.bound.push(piece);
      append(boundDays, key, piece.available);
    }
  }
  for (const line of lines) freeSurplus(line, (piece) => append(free, line.item * sites.length + line.site, piece));

  const pools = new Map<number, Pool>();
  const pool = (item: number, site: number) => {
    const key = item * sites.length + site;
    let found = pools.get(key);
    if (!found) {
      const supplies = free.get(key) ?? [];
      // Bound supply may join the pool later: its days must be on the timeline from the start.
      const timeline = new Timeline([...supplies.map((piece) => piece.available), ...(boundDays.get(key) ?? [])]);
      for (const piece of supplies) timeline.supply(piece.available, piece.quantity);
      pools.set(key, (found = { timeline, supplies }));
    }
    return found;
  };

  const rank = book.orders.map((order, index) => ({ index, priority: order.priority ?? DEFAULT_PRIORITY, entered: order.entered, id: order.id }));
  rank.sort((a, b) => a.priority - b.priority || compareText(a.entered, b.entered) || compareText(a.id, b.id));

  return {
    sites,
    assemblies: book.items.map(({ assembly }) =>
      assembly
        ? { days: assembly.days, components: assembly.components.map((part) => ({ item: itemOf.get(part.item)!, quantity: toScaled(part.quantity)! })) }
        : null,
    ),
    lines,
    sequence: rank.map(({ index }) => orders[index]!),
    orders,
    pool,
    pools: () => pools.values(),
  };
}

/** The order in which goods are taken: by the day they can leave, on hand before inbound, then by id. */
export function compareSupply(a: SupplyPiece, b: SupplyPiece): number {
  return a.available - b.available || Number(b.onHand) - Number(a.onHand) || compareText(a.id, b.id);
}

/** By UTF-16 code units, as the order book file says; not by the language of the machine. */
function compareText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

function pieceOf(supply: BookSupply, site: Site, today: DayNumber): SupplyPiece {
  const quantity = toScaled(supply.quantity)!;
  if (supply.date === undefined) return { id: supply.id, onHand: true, available: site.firstShipDay, initial: quantity, quantity };
  const due = dayNumber(supply.date);
  const arrival = site.calendar.ceil(due < today ? today + 1 : due);
  const putAway = site.calendar.offset(arrival, site.receivingDays);
  return { id: supply.id, onHand: false, available: Math.max(putAway, site.firstShipDay), initial: quantity, quantity };
}

/** What is bound above the whole quantity of the line serves anyone: the latest of it is freed. */
function freeSurplus(line: Line, give: (piece: SupplyPiece) => void) {
  line.bound.sort(compareSupply);
  let surplus = line.bound.reduce((sum, piece) => sum + piece.quantity, 0) - line.quantity;
  while (surplus > 0) {
    const last = line.bound[line.bound.length - 1]!;
    const freed = Math.min(surplus, last.quantity);
    give({ ...last, initial: freed, quantity: freed });
    last.initial -= freed;
    last.quantity -= freed;
    surplus -= freed;
    if (last.quantity === 0) line.bound.pop();
  }
}

/** Entries of one day become one, own and assembled apart; ascending by day, own before assembled. */
function mergeByDay(entries: readonly Line['promised'][number][]) {
  const merged: { day: DayNumber; quantity: Scaled; assembled: boolean }[] = [];
  for (const entry of [...entries].sort((a, b) => a.day - b.day || Number(a.assembled) - Number(b.assembled))) {
    const last = merged[merged.length - 1];
    if (last && last.day === entry.day && last.assembled === entry.assembled) last.quantity += entry.quantity;
    else merged.push({ ...entry });
  }
  return merged;
}

function indexById(rows: readonly { readonly id: string }[]): ReadonlyMap<string, number> {
  return new Map(rows.map((row, index) => [row.id, index]));
}

function append<V>(map: Map<number, V[]>, key: number, value: V) {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}
