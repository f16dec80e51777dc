import { daysBetween, type IsoDay } from '../calendar';
import type { OrderBook } from './order-book';
import { heldBook } from './held-book';
import { replanHeld, type PlannedLine, type Stance } from './replan';

/** Quantities have at most four decimals. */
const SCALE = 10_000;

export interface Part {
  readonly day: IsoDay;
  readonly quantity: number;
}

/** A quantity that leaves on another day than before; null where it waits. */
export interface Move {
  readonly quantity: number;
  readonly from: IsoDay | null;
  readonly to: IsoDay | null;
}

/** A line whose promise moves: how it was, how it will be, and the part of it that moves furthest. */
export interface Moved {
  readonly id: string;
  readonly before: readonly Part[];
  readonly after: readonly Part[];
  readonly moves: readonly Move[];
  /** What moves in all. */
  readonly quantity: number;
  /** Of the part that moves furthest: the day before and after; null where it waits. */
  readonly from: IsoDay | null;
  readonly to: IsoDay | null;
  /** Calendar days later (above 0) or earlier (below 0); null where it begins or ceases to wait. */
  readonly days: number | null;
  /** Of an offer: the goods are offered to somebody before it, who would have to leave them. */
  readonly instead?: true;
}

export interface Ripple {
  /** Promises that move later or lose their goods, most days first. */
  readonly later: readonly Moved[];
  /** Promises that come earlier by the change itself: of the order that claims, and those whose late supply is mended. */
  readonly earlier: readonly Moved[];
  /** How the lines that claim stand when it is done, moved or not. */
  readonly claimed: readonly PlannedLine[];
  /** The same of the lines whose offers are taken. */
  readonly accepted: readonly PlannedLine[];
  /** What the change frees for those who wait or are late, in the sequence of orders: proposals, not yet done. */
  readonly offers: readonly Moved[];
}

/**
 * What a change of the book does to everyone's promises. Promises hold their days where they can; the demands in `claims`
 * take their turn anew. `accepted`: the demands whose offers are taken; what they take is then among `earlier`.
 */
export function ripple(before: OrderBook, after: OrderBook, claims: ReadonlySet<string> = new Set(), accepted: ReadonlySet<string> = new Set()): Ripple {
  const [was, becomes] = [heldBook(before), heldBook(after)];
  const claiming = (id: string) => (claims.has(id) ? 'claim' : 'hold');
  const now = byId(replanHeld(was, () => 'hold'));
  const held = replanHeld(becomes, claiming);
  const done = accepted.size === 0 ? held : replanHeld(becomes, (id) => (claims.has(id) ? 'claim' : accepted.has(id) ? 'improve' : 'hold'));
  const changes = done.flatMap((line) => moved(now.get(line.id), line) ?? []);

  const heldById = byId(held);
  const offersTo = (stanceOf: (id: string) => Stance) => {
    // Only what the change itself makes possible is offered for it.
    const possible = byId(replanHeld(was, stanceOf));
    return replanHeld(becomes, (id) => (claims.has(id) ? 'claim' : stanceOf(id))).flatMap((line) => {
      if (claims.has(line.id)) return [];
      const offer = moved(heldById.get(line.id), line);
      const anyway = moved(possible.get(line.id), line);
      return offer && isEarlier(offer) && anyway && isEarlier(anyway) ? [offer] : [];
    });
  };
  const offers = allWhoCould(offersTo);
  return {
    later: changes.filter((row) => !isEarlier(row)).sort((a, b) => (b.days ?? Infinity) - (a.days ?? Infinity)),
    earlier: changes.filter(isEarlier),
    claimed: done.filter((line) => claims.has(line.id)),
    accepted: done.filter((line) => accepted.has(line.id)),
    offers: inSequence(after, offers),
  };
}

/** What could be promised or brought forward now without making anybody later, in the sequence of orders. */
export function openOffers(book: OrderBook): readonly Moved[] {
  const stands = heldBook(book);
  const held = byId(replanHeld(stands, () => 'hold'));
  const offersTo = (stanceOf: (id: string) => Stance) =>
    replanHeld(stands, stanceOf).flatMap((line) => {
      const offer = moved(held.get(line.id), line);
      return offer && isEarlier(offer) ? [offer] : [];
    });
  return inSequence(book, allWhoCould(offersTo));
}

/** Who is offered something where all may take it in turn, and who could have something if these left it to them alone. */
function allWhoCould(offersTo: (stanceOf: (id: string) => Stance) => readonly Moved[]): readonly Moved[] {
  const inTurn = offersTo(() => 'improve');
  const offered = new Set(inTurn.map((row) => row.id));
  const alone = offersTo((id) => (offered.has(id) ? 'hold' : 'alone')).filter((row) => !offered.has(row.id));
  return [...inTurn, ...alone.map((row): Moved => ({ ...row, instead: true }))];
}

export function isEarlier(row: Moved): boolean {
  return row.days === null ? row.from === null : row.days < 0;
}

/**
 * How a line moves. What leaves on the same day as before stays; of the rest the first that left before goes with the
 * first that leaves now, unit by unit. Null where nothing moves. A unit that is later counts before one that is earlier.
 */
export function moved(before: PlannedLine | undefined, after: PlannedLine): Moved | null {
  const [was, becomes] = withoutCommon(amountsOf(before), amountsOf(after));
  const moves: Move[] = [];
  let total = 0;
  let worst: { readonly move: Move; readonly shift: number } | null = null;
  for (let a = 0, b = 0; a < was.length && b < becomes.length;) {
    const [from, to] = [was[a]!, becomes[b]!];
    const units = Math.min(from.units, to.units);
    const move = { quantity: units / SCALE, from: from.day, to: to.day };
    const shift = move.from === null ? -Infinity : move.to === null ? Infinity : daysBetween(move.from, move.to);
    moves.push(move);
    total += units;
    if (worst === null || rankOf(shift) > rankOf(worst.shift)) worst = { move, shift };
    if ((from.units -= units) === 0) a++;
    if ((to.units -= units) === 0) b++;
  }
  if (!worst) return null;
  const parts = (line: PlannedLine | undefined) => (line?.schedule ?? []).map((part) => ({ day: part.date, quantity: part.quantity }));
  return {
    id: after.id,
    before: parts(before),
    after: parts(after),
    moves,
    quantity: total / SCALE,
    from: worst.move.from,
    to: worst.move.to,
    days: Number.isFinite(worst.shift) ? worst.shift : null,
  };
}

/** Later is worse than earlier; of either the further counts. */
function rankOf(shift: number): number {
  return shift > 0 ? 1e9 + Math.min(shift, 1e8) : -shift;
}

interface Amount {
  readonly day: IsoDay | null;
  /** In ten-thousandths. */
  units: number;
}

/** A line's parts by day; what waits comes last, without a day. */
function amountsOf(line: PlannedLine | undefined): Amount[] {
  const amounts: Amount[] = [];
  const add = (day: IsoDay | null, quantity: number) => {
    const units = Math.round(quantity * SCALE);
    const last = amounts[amounts.length - 1];
    if (last?.day === day) last.units += units;
    else if (units > 0) amounts.push({ day, units });
  };
  for (const { date, quantity } of line?.schedule ?? []) add(date, quantity);
  add(null, line?.uncovered ?? 0);
  return amounts;
}

/** The amounts of both without what leaves on the same day in both. */
function withoutCommon(was: Amount[], becomes: Amount[]): readonly [Amount[], Amount[]] {
  const now = new Map(becomes.map((amount) => [amount.day, amount]));
  for (const amount of was) {
    const other = now.get(amount.day);
    if (!other) continue;
    const common = Math.min(amount.units, other.units);
    amount.units -= common;
    other.units -= common;
  }
  const left = (amounts: Amount[]) => amounts.filter(({ units }) => units > 0);
  return [left(was), left(becomes)];
}

function byId(plan: readonly PlannedLine[]): ReadonlyMap<string, PlannedLine> {
  return new Map(plan.map((line) => [line.id, line]));
}

/** By the turn of their orders, then in file order. */
function inSequence(book: OrderBook, rows: readonly Moved[]): readonly Moved[] {
  const turn = new Map(
    [...book.orders]
      .sort((a, b) => (a.priority ?? 5) - (b.priority ?? 5) || compareText(a.entered, b.entered) || compareText(a.id, b.id))
      .map((order, at) => [order.id, at]),
  );
  const orderOf = new Map(book.demand.map((demand) => [demand.id, demand.order]));
  return [...rows].sort((a, b) => turn.get(orderOf.get(a.id)!)! - turn.get(orderOf.get(b.id)!)!);
}

function compareText(a: string, b: string) {
  return a < b ? -1 : a > b ? 1 : 0;
}
