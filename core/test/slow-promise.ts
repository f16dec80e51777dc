import { addDays, format, getISODay, parseISO } from 'date-fns';
import type { BookDemand, BookSupply, OrderBook, PromiseResult } from '../src/promise';
import { served, suits, type SlowNeed } from './slow-shelf';

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
  /** The last day its goods may be used; null: they keep. */
  readonly expires: string | null;
  quantity: bigint;
}
interface Commit {
  day: string;
  quantity: bigint;
  /** Working days of assembly above it. */
  readonly lead: number;
  readonly life: number;
  /** Promised before: its turn among those of a day. */
  readonly kept: readonly number[] | null;
  /** Of a kept one on goods that expire: what is served on which day. */
  parts: { day: string; quantity: bigint }[];
  pegs: { supply: Supply | null; quantity: bigint }[];
}
interface Pool {
  readonly supplies: Supply[];
  /** A supply of it expires, bound or not. */
  expires: boolean;
  commits: Commit[];
}
interface Part {
  day: string;
  readonly quantity: bigint;
  readonly kept: boolean;
  readonly assembled: boolean;
  bound: bigint;
  commits: { readonly pool: Pool; readonly commit: Commit }[];
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
const byTurn = (a: readonly number[], b: readonly number[]) => a.map((value, at) => value - b[at]!).find((difference) => difference !== 0) ?? 0;
const supplyOrder = (a: Supply, b: Supply) => byText(a.available, b.available) || Number(b.onHand) - Number(a.onHand) || byText(a.id, b.id);

class SlowPromise {
  private readonly pools = new Map<string, Pool>();
  private readonly rows: Row[];
  private readonly sequence: OrderBook['orders'];
  private readonly lastDay: string;
  /** Orders that leave complete and have no day, though their lines are covered. */
  private readonly noDay = new Set<string>();
  /** The row whose promises are being kept. */
  private keeping: Row | null = null;

  constructor(
    private readonly book: OrderBook,
    private readonly mode: 'keep' | 'resequence',
  ) {
    const every = [
      book.asOf.slice(0, 10),
      ...book.supply.flatMap((row) => [...(row.date ? [row.date] : []), ...(row.expires ? [row.expires] : [])]),
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
    const expires = this.book.supply.some((row) => row.item === item && row.warehouse === warehouse && row.expires !== undefined);
    if (!this.pools.has(key)) this.pools.set(key, { supplies: [], expires, commits: [] });
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
    const supply: Supply = { id: row.id, onHand: row.date === undefined, available, expires: row.expires ?? null, quantity: tenThousandths(row.quantity) };
    const line = this.rows.find((demand) => demand.id === row.for);
    if (!line || !this.lasts(line, supply, available)) this.pool(row.item, row.warehouse).supplies.push(supply);
    else line.bound.push({ supply, left: supply.quantity, taken: 0n });
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

  private lasts(row: BookDemand, supply: Supply, day: string): boolean {
    return supply.expires === null || supply.expires >= shift(later(day, supply.available), row.lifeDays ?? 0);
  }

  /** What is kept on goods that expire, each part on the day it is served, as if nothing were newly promised. */
  private held(pool: Pool): SlowNeed[] {
    const need = (commit: Commit, day: string, quantity: bigint): SlowNeed => ({ day, until: shift(day, commit.life), quantity });
    const sum = (needs: readonly SlowNeed[]) => needs.reduce((total, one) => total + one.quantity, 0n);
    const held: SlowNeed[] = [];
    const more = (commit: Commit, day: string, wanted: bigint) => served(pool.supplies, [...held, need(commit, day, wanted)]) - sum(held);
    const put = (commit: Commit, day: string, quantity: bigint) => {
      if (quantity === 0n) return;
      commit.parts.push({ day, quantity });
      held.push(need(commit, day, quantity));
    };
    const kept = pool.commits.filter((commit) => commit.kept !== null).sort((a, b) => byText(a.day, b.day) || byTurn(a.kept!, b.kept!));
    for (const commit of kept) commit.parts = [];
    for (const commit of kept) put(commit, commit.day, more(commit, commit.day, commit.quantity));
    for (const commit of kept) {
      for (const day of [...new Set(pool.supplies.map((row) => row.available))].sort()) {
        const rest = commit.quantity - commit.parts.reduce((total, part) => total + part.quantity, 0n);
        if (day > commit.day && rest > 0n) put(commit, day, more(commit, day, rest));
      }
    }
    return held;
  }

  private servedTogether(pool: Pool): boolean {
    const needs = [
      ...this.held(pool),
      ...pool.commits
        .filter((commit) => commit.kept === null)
        .map((commit) => ({ day: commit.day, until: shift(commit.day, commit.life), quantity: commit.quantity })),
    ];
    return served(pool.supplies, needs) === needs.reduce((total, one) => total + one.quantity, 0n);
  }

  private available(pool: Pool, day: string, life = 0): bigint {
    if (pool.expires) {
      const fresh = pool.commits
        .filter((commit) => commit.kept === null)
        .map((commit) => ({ day: commit.day, until: shift(commit.day, commit.life), quantity: commit.quantity }));
      const needs = [...this.held(pool), ...fresh];
      const all = pool.supplies.reduce((sum, row) => sum + row.quantity, 0n);
      return served(pool.supplies, [...needs, { day, until: shift(day, life), quantity: all }]) - needs.reduce((sum, need) => sum + need.quantity, 0n);
    }
    const days = [day, ...pool.supplies.map((row) => row.available), ...pool.commits.map((row) => row.day)].filter((other) => other >= day);
    const projected = (until: string) =>
      pool.supplies.filter((row) => row.available <= until).reduce((sum, row) => sum + row.quantity, 0n) -
      pool.commits.filter((row) => row.day <= until).reduce((sum, row) => sum + row.quantity, 0n);
    const least = days.map(projected).reduce(min);
    return least > 0n ? least : 0n;
  }

  private take(pool: Pool, day: string, quantity: bigint, { lead = 0, life = 0, component = false } = {}) {
    const row = this.keeping;
    const kept = row ? [this.inTurn().indexOf(row), component ? 1 : 0, pool.commits.length] : null;
    const commit: Commit = { day, quantity, lead, life, kept, parts: [], pegs: [] };
    pool.commits.push(commit);
    return { pool, commit };
  }

  // Lines

  private inTurn(): Row[] {
    return this.sequence.flatMap((order) => this.linesOf(order.id));
  }

  private linesOf(order: string): Row[] {
    return this.rows.filter((row) => row.order === order);
  }

  private boundBy(row: Row, day: string): bigint {
    return row.bound.filter((piece) => piece.supply.available <= day && this.lasts(row, piece.supply, day)).reduce((sum, piece) => sum + piece.left, 0n);
  }

  /** `by`: what can leave by that day; null: whatever comes. */
  private takeBound(row: Row, day: string, by: string | null, wanted: bigint): Part['boundPegs'] {
    const taken: Part['boundPegs'] = [];
    let missing = wanted;
    for (const piece of row.bound) {
      if ((by !== null && piece.supply.available > by) || !this.lasts(row, piece.supply, day)) continue;
      const part = min(piece.left, missing);
      piece.left -= part;
      piece.taken += part;
      missing -= part;
      if (part > 0n) taken.push({ supply: piece.supply, quantity: part });
    }
    return taken;
  }

  private addOwn(row: Row, day: string, quantity: bigint, boundPegs: Part['boundPegs'], kept: boolean) {
    const bound = boundPegs.reduce((sum, peg) => sum + peg.quantity, 0n);
    const commits = quantity > bound ? [this.take(this.pool(row.item, row.warehouse), day, quantity - bound, { life: row.lifeDays ?? 0 })] : [];
    row.parts.push({ day, quantity, kept, assembled: false, bound, commits, startsTooLate: false, boundPegs });
  }

  private keep(row: Row) {
    this.keeping = row;
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
      if (!assembled) this.addOwn(row, day, quantity, this.takeBound(row, day, null, bound), true);
      else {
        const { days } = this.assemblyOf(row.item)!;
        const start = this.offset(row.warehouse, day, -days);
        const first = this.firstShipDay(row.warehouse);
        const commits = this.assemblyOf(row.item)!.components.flatMap(({ item, quantity: each }) => {
          const needed = (quantity / ONE) * tenThousandths(each);
          return (
            this.takeOrMake(item, row.warehouse, needed, later(start, first), days) ?? [
              this.take(this.pool(item, row.warehouse), later(start, first), needed, { lead: days, component: true }),
            ]
          );
        });
        row.parts.push({ day, quantity, kept: true, assembled: true, bound: 0n, commits, startsTooLate: start < first, boundPegs: [] });
      }
    }
    this.keeping = null;
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
    const made = own > 0n ? [this.take(pool, day, own, { lead, component: true })] : [];
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
    const { own, batch } = this.split(wanted, this.boundBy(row, day) + this.available(this.pool(row.item, row.warehouse), day, row.lifeDays));
    if (own < 0n || (batch > 0n && !this.assemblyOf(row.item))) return false;
    const made = batch > 0n ? this.make(row.item, row.warehouse, batch, day, 0) : [];
    if (!made) return false;
    if (own > 0n) this.addOwn(row, day, own, this.takeBound(row, day, day, own), false);
    if (batch > 0n) row.parts.push({ day, quantity: batch, kept: false, assembled: true, bound: 0n, commits: made, startsTooLate: false, boundPegs: [] });
    return true;
  }

  private promiseRow(row: Row, whole: boolean) {
    let missing = row.wanted - row.parts.reduce((sum, part) => sum + part.quantity, 0n);
    for (let day = row.target; missing > 0n && day <= this.lastDay; day = this.offset(row.warehouse, day, 1)) {
      if (this.tryWhole(row, day, missing)) missing = 0n;
      else if (!whole) {
        const quantity = min(missing, this.boundBy(row, day) + this.available(this.pool(row.item, row.warehouse), day, row.lifeDays));
        if (quantity > 0n) this.addOwn(row, day, quantity, this.takeBound(row, day, day, quantity), false);
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
    if (last === undefined) return;
    for (let day = last; day <= this.lastDay; day = shift(day, 1)) if (this.moveAll(rows, day)) return;
    this.noDay.add(order);
  }

  /** Moves what is new of an order to a day; false, with nothing moved, where not all of it can be served. */
  private moveAll(rows: readonly Row[], last: string): boolean {
    const undo: (() => void)[] = [];
    for (const row of rows) {
      const pool = this.pool(row.item, row.warehouse);
      for (const part of row.parts.filter((candidate) => !candidate.kept)) {
        const before = { ...part };
        const commits = part.commits.map(({ commit }) => ({ commit, day: commit.day, quantity: commit.quantity }));
        const [supplies, list] = [[...pool.supplies], [...pool.commits]];
        undo.push(() => {
          Object.assign(part, before);
          for (const { commit, day, quantity } of commits) Object.assign(commit, { day, quantity });
          pool.supplies.splice(0, pool.supplies.length, ...supplies);
          pool.commits = list;
        });
        part.day = this.walk(row.warehouse, last, 1);
        for (const { commit } of part.commits) commit.day = this.offset(row.warehouse, part.day, -commit.lead);
        const spoilt = pool.expires ? part.boundPegs.filter((peg) => !this.lasts(row, peg.supply!, part.day)) : [];
        if (spoilt.length === 0) continue;
        const quantity = spoilt.reduce((sum, peg) => sum + peg.quantity, 0n);
        for (const peg of spoilt) pool.supplies.push({ ...peg.supply!, quantity: peg.quantity });
        part.boundPegs = part.boundPegs.filter((peg) => !spoilt.includes(peg));
        part.bound -= quantity;
        const [own] = part.commits;
        if (own) own.commit.quantity += quantity;
        else part.commits = [this.take(pool, part.day, quantity, { life: row.lifeDays ?? 0 })];
      }
    }
    if ([...this.pools.values()].every((pool) => !pool.expires || this.servedTogether(pool))) return true;
    for (const back of undo.reverse()) back();
    return false;
  }

  // Pegging and the answer

  private peg() {
    const inTurn = this.inTurn();
    for (const pool of this.pools.values()) {
      const mine = inTurn.flatMap((row) => {
        const ranked = [
          ...row.parts.filter((part) => !part.assembled && part.kept),
          ...row.parts.filter((part) => !part.assembled && !part.kept),
          ...row.parts.filter((part) => part.assembled),
        ];
        return ranked.flatMap((part) => part.commits.filter((entry) => entry.pool === pool).map((entry) => entry.commit));
      });
      if (pool.expires) {
        this.pegExpiring(pool, mine);
        continue;
      }
      handOut(
        [...pool.supplies].sort(supplyOrder).map((supply) => ({ supply, left: supply.quantity })),
        mine.sort((a, b) => byText(a.day, b.day)),
        (commit) => commit.quantity,
        (commit, pegs) => (commit.pegs = pegs),
      );
    }
    for (const row of this.rows) {
      if (this.pool(row.item, row.warehouse).expires) continue;
      const users = row.parts.filter((part) => part.bound > 0n).sort((a, b) => byText(a.day, b.day) || Number(b.kept) - Number(a.kept));
      handOut(
        row.bound.map((piece) => ({ supply: piece.supply, left: piece.taken })),
        users,
        (part) => part.bound,
        (part, pegs) => (part.boundPegs = pegs),
      );
    }
  }

  /** `mine` in the sequence in which those of one day have their turn. What expires first goes first, to what is served first. */
  private pegExpiring(pool: Pool, mine: readonly Commit[]) {
    this.held(pool);
    const parts = mine.flatMap((commit, turn) =>
      (commit.kept === null ? [{ day: commit.day, quantity: commit.quantity }] : commit.parts).map((part) => ({ ...part, commit, turn })),
    );
    parts.sort((a, b) => byText(a.day, b.day) || byText(a.commit.day, b.commit.day) || a.turn - b.turn);
    const goods = [...pool.supplies]
      .sort((a, b) => byText(a.expires ?? '9999-99-99', b.expires ?? '9999-99-99') || supplyOrder(a, b))
      .map((supply) => ({ supply, left: supply.quantity }));
    for (const { commit, day, quantity } of parts) {
      let missing = quantity;
      for (const row of goods) {
        const given = suits(row.supply, { day, until: shift(day, commit.life) }) ? min(missing, row.left) : 0n;
        if (given > 0n) commit.pegs.push({ supply: row.supply, quantity: given });
        row.left -= given;
        missing -= given;
      }
      if (missing > 0n) throw new Error('what can be served together is served, the tightest fit by rising day');
    }
    for (const commit of mine) {
      const missing = commit.quantity - commit.pegs.reduce((sum, peg) => sum + peg.quantity, 0n);
      if (missing > 0n) commit.pegs.push({ supply: null, quantity: missing });
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
          rows.length === 0 || waitingOn.length > 0 || this.noDay.has(id)
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
