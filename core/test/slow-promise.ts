import { addDays, format, getISODay, parseISO } from 'date-fns';
import type { BookDemand, BookSupply, OrderBook, PromiseResult } from '../src/promise';

/**
 * The promise a second time, written for reading: day by day, lists of what was committed, no clever structure. It shares
 * no code with the one it checks; days are texts, quantities ten-thousandths as bigint.
 */
export function slowPromise(book: OrderBook, mode: 'keep' | 'resequence'): PromiseResult {
  return new SlowPromise(book, mode).run();
}

interface Supply {
  readonly id: string;
  readonly onHand: boolean;
  readonly available: string;
  quantity: bigint;
}
interface Commit {
  day: string;
  readonly quantity: bigint;
  /** Working days of assembly above it. */
  readonly lead: number;
  pegs: { supply: Supply | null; quantity: bigint }[];
}
interface Pool {
  readonly supplies: Supply[];
  commits: Commit[];
}
interface Part {
  day: string;
  readonly quantity: bigint;
  readonly kept: boolean;
  readonly assembled: boolean;
  readonly bound: bigint;
  readonly commits: { readonly pool: Pool; readonly commit: Commit }[];
  readonly startsTooLate: boolean;
  boundPegs: { supply: Supply | null; quantity: bigint }[];
}
type Row = BookDemand & {
  readonly wanted: bigint;
  readonly target: string;
  readonly bound: { supply: Supply; left: bigint; taken: bigint }[];
  readonly parts: Part[];
};

const ONE = 10_000n;
const tenThousandths = (quantity: number) => BigInt(Math.round(quantity * 10_000));
const plainNumber = (quantity: bigint) => Number(quantity) / 10_000;
const shift = (day: string, days: number) => format(addDays(parseISO(day), days), 'yyyy-MM-dd');
const min = (a: bigint, b: bigint) => (a < b ? a : b);
const later = (a: string, b: string) => (a > b ? a : b);
const byText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
const supplyOrder = (a: Supply, b: Supply) => byText(a.available, b.available) || Number(b.onHand) - Number(a.onHand) || byText(a.id, b.id);

class SlowPromise {
  private readonly pools = new Map<string, Pool>();
  private readonly rows: Row[];
  private readonly sequence: OrderBook['orders'];
  private readonly lastDay: string;

  constructor(
    private readonly book: OrderBook,
    private readonly mode: 'keep' | 'resequence',
  ) {
    const every = [
      book.asOf.slice(0, 10),
      ...book.supply.flatMap((row) => row.date ?? []),
      ...book.demand.flatMap((row) => [row.requested, ...(row.promised ?? []).map((entry) => entry.date)]),
    ];
    this.lastDay = shift(every.sort().at(-1)!, 90);
    this.rows = book.demand.map((row) => ({
      ...row,
      wanted: tenThousandths(row.quantity),
      target: this.readDay(row.warehouse, row.requested),
      bound: [],
      parts: [],
    }));
    for (const row of book.supply) this.place(row);
    for (const row of this.rows) this.freeSurplus(row);
    this.sequence = [...book.orders].sort((a, b) => (a.priority ?? 5) - (b.priority ?? 5) || byText(a.entered, b.entered) || byText(a.id, b.id));
  }

  run(): PromiseResult {
    if (this.mode === 'keep') for (const order of this.sequence) for (const row of this.linesOf(order.id)) this.keep(row);
    for (const order of this.sequence) this.promiseOrder(order.id, order.shipComplete ?? false);
    this.peg();
    return this.result();
  }

  // Days

  private works(warehouse: string, day: string): boolean {
    const { workdays, closed = [] } = this.book.warehouses.find((row) => row.id === warehouse)!;
    return workdays.includes(getISODay(parseISO(day))) && !closed.includes(day);
  }

  private walk(warehouse: string, day: string, by: 1 | -1): string {
    let at = day;
    while (!this.works(warehouse, at)) at = shift(at, by);
    return at;
  }

  private offset(warehouse: string, day: string, count: number): string {
    let at = day;
    for (let step = 0; step < Math.abs(count); step++) at = this.walk(warehouse, shift(at, Math.sign(count)), count > 0 ? 1 : -1);
    return at;
  }

  private firstShipDay(warehouse: string): string {
    const [today, time] = this.book.asOf.split('T') as [string, string];
    const { cutoff } = this.book.warehouses.find((row) => row.id === warehouse)!;
    return this.works(warehouse, today) && (cutoff === undefined || time < cutoff) ? today : this.walk(warehouse, shift(today, 1), 1);
  }

  private readDay(warehouse: string, day: string): string {
    return later(this.walk(warehouse, day, -1), this.firstShipDay(warehouse));
  }

  // Supply

  private pool(item: string, warehouse: string): Pool {
    const key = JSON.stringify([item, warehouse]);
    if (!this.pools.has(key)) this.pools.set(key, { supplies: [], commits: [] });
    return this.pools.get(key)!;
  }

  private place(row: BookSupply) {
    const first = this.firstShipDay(row.warehouse);
    let available = first;
    if (row.date !== undefined) {
      const today = this.book.asOf.slice(0, 10);
      const arrives = this.walk(row.warehouse, row.date < today ? shift(today, 1) : row.date, 1);
      const { receivingDays = 0 } = this.book.warehouses.find((warehouse) => warehouse.id === row.warehouse)!;
      available = later(this.offset(row.warehouse, arrives, receivingDays), first);
    }
    const supply: Supply = { id: row.id, onHand: row.date === undefined, available, quantity: tenThousandths(row.quantity) };
    if (row.for === undefined) this.pool(row.item, row.warehouse).supplies.push(supply);
    else this.rows.find((demand) => demand.id === row.for)!.bound.push({ supply, left: supply.quantity, taken: 0n });
  }

  private freeSurplus(row: Row) {
    row.bound.sort((a, b) => supplyOrder(a.supply, b.supply));
    let surplus = row.bound.reduce((sum, piece) => sum + piece.left, 0n) - row.wanted;
    for (const piece of [...row.bound].reverse()) {
      const freed = surplus > 0n ? min(surplus, piece.left) : 0n;
      if (freed > 0n) this.pool(row.item, row.warehouse).supplies.push({ ...piece.supply, quantity: freed });
      piece.left -= freed;
      surplus -= freed;
    }
  }

  private available(pool: Pool, day: string): bigint {
    const days = [day, ...pool.supplies.map((row) => row.available), ...pool.commits.map((row) => row.day)].filter((other) => other >= day);
    const projected = (until: string) =>
      pool.supplies.filter((row) => row.available <= until).reduce((sum, row) => sum + row.quantity, 0n) -
      pool.commits.filter((row) => row.day <= until).reduce((sum, row) => sum + row.quantity, 0n);
    const least = days.map(projected).reduce(min);
    return least > 0n ? least : 0n;
  }

  private take(pool: Pool, day: string, quantity: bigint, lead = 0) {
    const commit: Commit = { day, quantity, lead, pegs: [] };
    pool.commits.push(commit);
    return { pool, commit };
  }

  // Lines

  private linesOf(order: string): Row[] {
    return this.rows.filter((row) => row.order === order);
  }

  private boundBy(row: Row, day: string): bigint {
    return row.bound.filter((piece) => piece.supply.available <= day).reduce((sum, piece) => sum + piece.left, 0n);
  }

  private takeBound(row: Row, day: string | null, wanted: bigint): bigint {
    let missing = wanted;
    for (const piece of row.bound) {
      if (day !== null && piece.supply.available > day) continue;
      const part = min(piece.left, missing);
      piece.left -= part;
      piece.taken += part;
      missing -= part;
    }
    return wanted - missing;
  }

  private addOwn(row: Row, day: string, quantity: bigint, bound: bigint, kept: boolean) {
    const commits = quantity > bound ? [this.take(this.pool(row.item, row.warehouse), day, quantity - bound)] : [];
    row.parts.push({ day, quantity, kept, assembled: false, bound, commits, startsTooLate: false, boundPegs: [] });
  }

  private keep(row: Row) {
    const sums = new Map<string, { day: string; assembled: boolean; quantity: bigint; bound: bigint }>();
    for (const entry of row.promised ?? []) {
      const day = this.readDay(row.warehouse, entry.date);
      const assembled = entry.assembled ?? false;
      const key = `${day}${assembled}`;
      const { quantity = 0n, bound = 0n } = sums.get(key) ?? {};
      const standsOnBound = bound + tenThousandths(entry.boundQuantity ?? entry.quantity);
      sums.set(key, { day, assembled, quantity: quantity + tenThousandths(entry.quantity), bound: standsOnBound });
    }
    for (const { day, assembled, quantity, bound } of [...sums.values()].sort((a, b) => byText(a.day, b.day) || Number(a.assembled) - Number(b.assembled))) {
      if (!assembled) this.addOwn(row, day, quantity, this.takeBound(row, null, bound), true);
      else {
        const { days } = this.assemblyOf(row.item)!;
        const start = this.offset(row.warehouse, day, -days);
        const first = this.firstShipDay(row.warehouse);
        const commits = this.assemblyOf(row.item)!.components.flatMap(({ item, quantity: each }) => {
          const needed = (quantity / ONE) * tenThousandths(each);
          return (
            this.takeOrMake(item, row.warehouse, needed, later(start, first), days) ?? [
              this.take(this.pool(item, row.warehouse), later(start, first), needed, days),
            ]
          );
        });
        row.parts.push({ day, quantity, kept: true, assembled: true, bound: 0n, commits, startsTooLate: start < first, boundPegs: [] });
      }
    }
  }

  private assemblyOf(item: string) {
    return this.book.items.find((row) => row.id === item)!.assembly;
  }

  /** Components of a batch that leaves on `day`, or null with nothing taken. */
  private make(item: string, warehouse: string, batch: bigint, day: string, lead: number): Part['commits'] | null {
    const assembly = this.assemblyOf(item);
    if (!assembly) return null;
    const start = this.offset(warehouse, day, -assembly.days);
    if (start < this.firstShipDay(warehouse)) return null;
    const made: Part['commits'][number][] = [];
    for (const component of assembly.components) {
      const taken = this.takeOrMake(component.item, warehouse, (batch / ONE) * tenThousandths(component.quantity), start, lead + assembly.days);
      if (!taken) {
        this.giveBack(made);
        return null;
      }
      made.push(...taken);
    }
    return made;
  }

  private takeOrMake(item: string, warehouse: string, needed: bigint, day: string, lead: number): Part['commits'] | null {
    const pool = this.pool(item, warehouse);
    const { own, batch } = this.split(needed, this.available(pool, day));
    if (own < 0n) return null;
    const made = own > 0n ? [this.take(pool, day, own, lead)] : [];
    if (batch === 0n) return made;
    const deeper = this.make(item, warehouse, batch, day, lead);
    if (deeper) return [...made, ...deeper];
    this.giveBack(made);
    return null;
  }

  private split(needed: bigint, own: bigint): { own: bigint; batch: bigint } {
    const rest = needed > own ? needed - own : 0n;
    const batch = ((rest + ONE - 1n) / ONE) * ONE;
    return { own: needed - batch, batch };
  }

  private giveBack(made: Part['commits']) {
    for (const { pool, commit } of made) pool.commits = pool.commits.filter((other) => other !== commit);
  }

  private tryWhole(row: Row, day: string, wanted: bigint): boolean {
    const { own, batch } = this.split(wanted, this.boundBy(row, day) + this.available(this.pool(row.item, row.warehouse), day));
    if (own < 0n || (batch > 0n && !this.assemblyOf(row.item))) return false;
    const made = batch > 0n ? this.make(row.item, row.warehouse, batch, day, 0) : [];
    if (!made) return false;
    if (own > 0n) this.addOwn(row, day, own, this.takeBound(row, day, own), false);
    if (batch > 0n) row.parts.push({ day, quantity: batch, kept: false, assembled: true, bound: 0n, commits: made, startsTooLate: false, boundPegs: [] });
    return true;
  }

  private promiseRow(row: Row, whole: boolean) {
    let missing = row.wanted - row.parts.reduce((sum, part) => sum + part.quantity, 0n);
    for (let day = row.target; missing > 0n && day <= this.lastDay; day = this.offset(row.warehouse, day, 1)) {
      if (this.tryWhole(row, day, missing)) missing = 0n;
      else if (!whole) {
        const quantity = min(missing, this.boundBy(row, day) + this.available(this.pool(row.item, row.warehouse), day));
        if (quantity > 0n) this.addOwn(row, day, quantity, this.takeBound(row, day, quantity), false);
        missing -= quantity;
      }
    }
    for (const piece of row.bound) if (piece.left > 0n) this.pool(row.item, row.warehouse).supplies.push({ ...piece.supply, quantity: piece.left });
    return missing === 0n;
  }

  private promiseOrder(order: string, complete: boolean) {
    const rows = this.linesOf(order);
    const covered = rows.map((row) => this.promiseRow(row, complete || row.partial === false));
    if (!complete || covered.includes(false)) return;
    const last = rows
      .flatMap((row) => row.parts.map((part) => part.day))
      .sort()
      .at(-1);
    for (const row of rows) {
      for (const part of row.parts.filter((candidate) => !candidate.kept)) {
        part.day = this.walk(row.warehouse, last!, 1);
        for (const { commit } of part.commits) commit.day = this.offset(row.warehouse, part.day, -commit.lead);
      }
    }
  }

  // Pegging and the answer

  private peg() {
    const inTurn = this.sequence.flatMap((order) => this.linesOf(order.id));
    for (const pool of this.pools.values()) {
      const mine = inTurn.flatMap((row) => {
        const ranked = [
          ...row.parts.filter((part) => !part.assembled && part.kept),
          ...row.parts.filter((part) => !part.assembled && !part.kept),
          ...row.parts.filter((part) => part.assembled),
        ];
        return ranked.flatMap((part) => part.commits.filter((entry) => entry.pool === pool).map((entry) => entry.commit));
      });
      handOut(
        [...pool.supplies].sort(supplyOrder).map((supply) => ({ supply, left: supply.quantity })),
        mine.sort((a, b) => byText(a.day, b.day)),
        (commit) => commit.quantity,
        (commit, pegs) => (commit.pegs = pegs),
      );
    }
    for (const row of this.rows) {
      const users = row.parts.filter((part) => part.bound > 0n).sort((a, b) => byText(a.day, b.day) || Number(b.kept) - Number(a.kept));
      handOut(
        row.bound.map((piece) => ({ supply: piece.supply, left: piece.taken })),
        users,
        (part) => part.bound,
        (part, pegs) => (part.boundPegs = pegs),
      );
    }
  }

  private result(): PromiseResult {
    const atRisk: { id: string; date: string; quantity: number; arrives: string | null }[] = [];
    const real = new Map<string, string | null>();
    const promises = this.rows.map((row) => {
      const parts = [...row.parts].sort((a, b) => byText(a.day, b.day) || Number(b.kept) - Number(a.kept) || Number(a.assembled) - Number(b.assembled));
      const uncovered = row.wanted - parts.reduce((sum, part) => sum + part.quantity, 0n);
      const risks = parts.flatMap((part) => this.risks(row, part).map((risk) => ({ day: part.day, ...risk })));
      risks.sort((a, b) => byText(a.day, b.day) || byText(a.arrives ?? '9999-99-99', b.arrives ?? '9999-99-99'));
      for (const risk of risks) atRisk.push({ id: row.id, date: risk.day, quantity: plainNumber(risk.quantity), arrives: risk.arrives });
      const never = uncovered > 0n || risks.some((risk) => risk.arrives === null);
      const last = never ? null : [...parts.map((part) => part.day), ...risks.map((risk) => risk.arrives!)].sort().at(-1)!;
      real.set(row.id, last);
      return {
        id: row.id,
        schedule: parts.map((part) => ({
          date: part.day,
          quantity: plainNumber(part.quantity),
          kept: part.kept,
          ...(part.assembled ? { assembled: true as const } : {}),
          from: fromOf(part),
        })),
        uncovered: plainNumber(uncovered),
        daysLate: last === null ? null : Math.max(0, Math.round((Date.parse(last) - Date.parse(row.requested)) / 86_400_000)),
      };
    });
    const orders = this.book.orders.map(({ id }) => {
      const rows = this.linesOf(id);
      const waitingOn = rows.filter((row) => real.get(row.id) === null).map((row) => row.id);
      return {
        id,
        date:
          rows.length === 0 || waitingOn.length > 0
            ? null
            : rows
                .map((row) => real.get(row.id)!)
                .sort()
                .at(-1)!,
        waitingOn,
      };
    });
    return { promises, orders, atRisk };
  }

  private risks(row: Row, part: Part): { quantity: bigint; arrives: string | null }[] {
    const pegs = [...part.boundPegs, ...part.commits.flatMap(({ commit }) => commit.pegs)];
    if (part.assembled) {
      if (pegs.some((peg) => peg.supply === null)) return [{ quantity: part.quantity, arrives: null }];
      const late = part.startsTooLate || part.commits.some(({ commit }) => commit.pegs.some((peg) => peg.supply!.available > commit.day));
      const arrivals = part.commits.flatMap(({ commit }) => commit.pegs.map((peg) => this.offset(row.warehouse, peg.supply!.available, commit.lead)));
      return late ? [{ quantity: part.quantity, arrives: arrivals.reduce(later) }] : [];
    }
    const sums = new Map<string | null, bigint>();
    for (const { supply, quantity } of pegs) {
      if (supply && supply.available <= part.day) continue;
      const arrives = supply?.available ?? null;
      sums.set(arrives, (sums.get(arrives) ?? 0n) + quantity);
    }
    return [...sums].map(([arrives, quantity]) => ({ arrives, quantity }));
  }
}

/** First in, first out: what is left of each supply goes to the takers in turn; null is what there is none for. */
function handOut<T>(
  supplies: { readonly supply: Supply; left: bigint }[],
  takers: readonly T[],
  wants: (taker: T) => bigint,
  give: (taker: T, pegs: { supply: Supply | null; quantity: bigint }[]) => void,
) {
  for (const taker of takers) {
    let missing = wants(taker);
    const pegs: { supply: Supply | null; quantity: bigint }[] = [];
    for (const source of supplies) {
      const part = min(missing, source.left);
      if (part > 0n) pegs.push({ supply: source.supply, quantity: part });
      source.left -= part;
      missing -= part;
    }
    if (missing > 0n) pegs.push({ supply: null, quantity: missing });
    give(taker, pegs);
  }
}

function fromOf(part: Part): { supply: string; quantity: number }[] {
  const from: { supply: string; quantity: bigint }[] = [];
  for (const { supply, quantity } of [...part.boundPegs, ...part.commits.flatMap(({ commit }) => commit.pegs)]) {
    if (!supply) continue;
    const last = from.at(-1);
    if (last?.supply === supply.id) last.quantity += quantity;
    else from.push({ supply: supply.id, quantity });
  }
  return from.map(({ supply, quantity }) => ({ supply, quantity: plainNumber(quantity) }));
}
