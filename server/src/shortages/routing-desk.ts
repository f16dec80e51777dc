import { dayNumber, isoDay, workCalendar } from '@nockwright/core/calendar';
import { compareDecimal, divide, least, minus, plus, sum, times } from '@nockwright/core/money';
import { CARRIER_WEEK, howSure, type Sureness } from '@nockwright/core/orders';
import { promiseBook, type AtRisk, type BookDemand, type DemandPromise, type PromiseResult } from '@nockwright/core/promise';
import {
  componentCost,
  leavingDays,
  liftLine,
  mostAssembled,
  takenFromShelf,
  type AssemblyOffer,
  type Liftable,
  type Lifted,
  type LiftResult,
  type PolicyName,
  type Recipe,
  type Route,
  type RoutePolicy,
  type Shortage,
  type SubstituteOffer,
  type TransferOffer,
} from '@nockwright/core/shortages';
import type { SupplierOdds } from '@nockwright/core/supply';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import {
  decimal,
  firstShipDay,
  freeGoods,
  freeNow,
  loadBook,
  loadOdds,
  loadWarehouses,
  poolKey,
  requestedDayOf,
  slippedDropShipments,
  takeFree,
  type DropShipment,
  type FreeDays,
  type LiveBook,
  type WarehouseRow,
} from '../promise';
import { draftFor, loadDrafts, loadOffers, loadRecipes, type DraftPurchase, type ItemOffer } from '../supply';
import { asDeskPolicy, ROUTE_POLICY, type DeskPolicy } from './policy';

/** A line with what decides about its ways. */
export type RoutedLine = Awaited<ReturnType<typeof loadLines>>[number];

interface Lane {
  readonly from_warehouse: string;
  readonly to_warehouse: string;
  readonly transit_days: number;
  readonly cost_per_kg: string;
}

interface ItemFacts {
  readonly cost: string;
  readonly weight: string;
  readonly description: string;
  readonly successor: string | null;
}

/** A quantity of a line, and the day it comes if nothing is done; null: never. */
interface Coming {
  /** It was not told to the customer. */
  readonly waits: boolean;
  readonly day: string | null;
  readonly quantity: string;
  readonly holds: number;
  /** Where it is not what stock costs. */
  readonly unitCost?: string;
  /** The drop shipment that the warehouse has it sooner than. */
  readonly insteadOf?: number;
}

/** A book with its answer: that of one confidence. */
interface Answered {
  readonly live: LiveBook;
  readonly result: PromiseResult;
  readonly promiseOf: ReadonlyMap<string, DemandPromise>;
}

/**
 * All that is known about the ways for some lines, read once: their promises, what is free elsewhere, suppliers and drafts.
 * It keeps count: what one line takes is not offered to the next.
 */
export class RoutingDesk {
  private constructor(
    private readonly now: Now,
    readonly lines: ReadonlyMap<number, RoutedLine>,
    /** The book as it stands, by the suppliers' days. */
    readonly book: Answered,
    /** The same by how sure days must be; what was to be shipped by suppliers and slipped is owed by the warehouse in it. */
    private readonly surely: ReadonlyMap<number | null, Answered>,
    private readonly warehouses: ReadonlyMap<string, WarehouseRow>,
    private readonly free: ReadonlyMap<string, FreeDays>,
    private readonly offers: ReadonlyMap<string, readonly ItemOffer[]>,
    private readonly drafts: Map<string, DraftPurchase>,
    private readonly lanes: readonly Lane[],
    private readonly recipes: ReadonlyMap<string, Recipe>,
    private readonly substitutes: ReadonlyMap<string, readonly { readonly substitute: string; readonly ratio: string; readonly successor: boolean }[]>,
    private readonly items: ReadonlyMap<string, ItemFacts>,
    private readonly odds: SupplierOdds,
    private readonly slipped: readonly DropShipment[],
    /** Drop shipments that another line may join without a fee of its own, by `feeKey`. */
    private readonly joined: Set<string>,
    private readonly desk: { readonly confidence: number | null; readonly policy: DeskPolicy },
  ) {}

  /** Lines of a draft or a quote are looked at as if it were released now; those of several orders must be released. */
  static async load(db: Db, now: Now, lineIds: readonly number[]): Promise<RoutingDesk> {
    const lines = new Map((await loadLines(db, lineIds)).map((line) => [line.id, line]));
    const draft = [...lines.values()].find((line) => line.state === 'draft' || line.state === 'quoted')?.order_id;
    const own = [...new Set([...lines.values()].map((line) => line.item))];
    const none = new Map<string, never>();
    const substitutes = [...lines.values()].some((line) => line.replaceable) ? await loadSubstitutes(db, own) : none;
    const recipes = [...lines.values()].some((line) => line.assembly_days !== null) ? await loadRecipes(db, own) : none;
    const others = [
      ...[...substitutes.values()].flatMap((rows) => rows.map((row) => row.substitute)),
      ...[...recipes].flatMap(([item, recipe]) => [item, ...recipe.components.map((row) => row.item)]),
    ];
    const known = [...new Set([...own, ...others])];
    const warehouses = await loadWarehouses(db);
    const { confidence, policy } = await loadSettings(db);
    const slipped = await slippedDropShipments(db, now.today, { lines: [...lines.keys()] });
    const late = { lines: slipped.map((row) => row.line), today: now.today };
    const answer = async (sure: number | null, withSlipped = slipped.length > 0): Promise<Answered> => {
      const live = await loadBook(db, now, {
        items: known,
        ...(draft === undefined ? {} : { draft }),
        confidence: sure,
        ...(withSlipped ? { slipped: late } : {}),
      });
      const result = promiseBook(live.book);
      return { live, result, promiseOf: new Map(result.promises.map((row) => [row.id, row])) };
    };
    const plain = await answer(null, false);
    const surely = new Map<number | null, Answered>(slipped.length > 0 ? [] : [[null, plain]]);
    for (const line of lines.values()) {
      const sure = line.confidence ?? confidence;
      if (!surely.has(sure)) surely.set(sure, await answer(sure));
    }
    const pools = known.flatMap((item) => warehouses.map((row) => ({ item, warehouse: row.code })));
    const odds = await loadOdds(db);
    const offers = await loadOffers(db, own, odds);
    const suppliers = [...new Set([...offers.values()].flatMap((rows) => rows.map((row) => row.supplier)))];
    const facts = await db.selectFrom('item').select(['code', 'cost', 'weight', 'description', 'successor']).where(anyOf('code', known)).execute();
    return new RoutingDesk(
      now,
      lines,
      plain,
      surely,
      new Map(warehouses.map((row) => [row.code, row])),
      freeGoods(plain.live, pools),
      offers,
      new Map(await loadDrafts(db, suppliers)),
      await db.selectFrom('transfer_lane').selectAll().orderBy('from_warehouse').execute(),
      recipes,
      substitutes,
      new Map(facts.map((row) => [row.code, row])),
      odds,
      slipped,
      await loadJoined(db, [...new Set([...lines.values()].map((line) => line.order_id))]),
      { confidence, policy },
    );
  }

  /** The policy a line's ways are ranked by: what is asked for, its customer's, the desk's. */
  policyOf(line: RoutedLine, wanted?: PolicyName): { readonly name: PolicyName; readonly policy: RoutePolicy } {
    const name = wanted ?? line.route_policy ?? this.desk.policy.name;
    return { name, policy: this.desk.policy.weights[name] };
  }

  requestedOf(line: RoutedLine): string {
    return requestedDayOf(line, line);
  }

  /** What of a line's promises its goods reach too late or never, by the day the book reads. */
  risksOf(line: RoutedLine): readonly { readonly day: string; readonly quantity: string; readonly leaves: string | null }[] {
    return this.riskRows(line).map((row) => ({ day: row.date, quantity: decimal(row.quantity), leaves: row.arrives }));
  }

  /** Drop shipments for a line that leave later than was told. */
  slippedOf(line: RoutedLine): readonly DropShipment[] {
    return this.slipped.filter((row) => row.line === line.id);
  }

  /**
   * Which parts of a line go another way (`lifts`), and which are waited for (`keeps`). Of what is waited for, a drop
   * shipment that the warehouse can be sooner than is taken back as well.
   */
  lift(line: RoutedLine, lifts: string, keeps: string, known: Omit<Liftable, 'slipped'> = this.liftableOf(line)): LiftResult {
    const result = liftLine({ ...known, slipped: this.slippedOf(line) }, lifts, keeps);
    if (!result.ok || result.kept.slipped.length === 0) return result;
    const sooner = (id: number) =>
      sum(
        this.comingOf(line)
          .filter((part) => part.insteadOf === id)
          .map((part) => part.quantity),
      );
    const back = result.kept.slipped.map(({ id, cut }) => ({ id, cut: least(cut, sooner(id)) }));
    const slipped = [...result.lifted.slipped, ...back].filter(({ cut }) => compareDecimal(cut, '0') > 0);
    const lifted = [...new Set(slipped.map((row) => row.id))].map((id) => ({ id, cut: sum(slipped.filter((row) => row.id === id).map((row) => row.cut)) }));
    const kept = result.kept.slipped.map(({ id, cut }, at) => ({ id, cut: minus(cut, back[at]!.cut) })).filter(({ cut }) => compareDecimal(cut, '0') > 0);
    return { ok: true, lifted: { ...result.lifted, slipped: lifted }, kept: { ...result.kept, slipped: kept } };
  }

  /** Drop shipments that another way takes back from their suppliers, in words. */
  takesBack(line: RoutedLine, lifted: Lifted): string[] {
    return lifted.slipped.map(({ id, cut }) => {
      const { number, supplierName } = this.slippedOf(line).find((row) => row.id === id)!;
      return `${cut} of ${number} taken back from ${supplierName}`;
    });
  }

  /** What is open of a line, and when it really leaves. */
  liftableOf(line: RoutedLine): Liftable {
    const promised = (this.demandOf(line)?.promised ?? []).map(({ date, quantity }) => ({ day: date, quantity: decimal(quantity) }));
    return { waiting: this.shortOf(line).waiting, promises: leavingDays(promised, this.risksOf(line)), slipped: this.slippedOf(line) };
  }

  /**
   * How much of a line waits, how much of what was told comes later or not at all, and how much is without cover or later
   * than was asked; in stocking units.
   */
  shortOf(line: RoutedLine): { readonly waiting: string; readonly astray: string; readonly short: string } {
    const slipped = sum(this.slippedOf(line).map((row) => row.quantity));
    const promise = this.promiseFor(line, this.book);
    if (!promise) return { waiting: '0', astray: slipped, short: slipped };
    const requested = this.requestedOf(line);
    const risks = this.riskRows(line);
    // A day at risk that was told in time is late as well; one told for a later day is counted by its day.
    const late = promise.schedule.filter((entry) => entry.date > requested);
    const lateInTime = risks.filter((row) => row.date <= requested);
    const waiting = plus(decimal(promise.uncovered), sum(promise.schedule.filter((entry) => !entry.kept).map((entry) => decimal(entry.quantity))));
    const short = sum([decimal(promise.uncovered), slipped, ...[...late, ...lateInTime].map((row) => decimal(row.quantity))]);
    return { waiting, astray: sum([slipped, ...risks.map((row) => decimal(row.quantity))]), short };
  }

  /** What can be routed of a line, in stocking units: what is open at its warehouse, and drop shipments that slipped. */
  openOf(line: RoutedLine): string {
    const demand = this.demandOf(line);
    return sum([demand ? decimal(demand.quantity) : '0', ...this.slippedOf(line).map((row) => row.quantity)]);
  }

  private demandOf(line: RoutedLine): BookDemand | undefined {
    const id = this.book.live.demandOfLine.get(line.id);
    return id === undefined ? undefined : this.book.live.book.demand.find((row) => row.id === id);
  }

  private promiseFor(line: RoutedLine, { live, promiseOf }: Answered): DemandPromise | undefined {
    return promiseOf.get(live.demandOfLine.get(line.id) ?? '');
  }

  private riskRows(line: RoutedLine, { live, result }: Answered = this.book): readonly AtRisk[] {
    const id = live.demandOfLine.get(line.id);
    return result.atRisk.filter((row) => row.id === id);
  }

  /** The shortage of a line, as the core asks about it. */
  shortageOf(line: RoutedLine, quantity: string): Shortage {
    const warehouse = this.warehouses.get(line.warehouse)!;
    const { workdays, closed = [], receivingDays = 0 } = warehouse.book;
    const item = this.items.get(line.item)!;
    const confidence = line.confidence ?? this.desk.confidence;
    return {
      now: this.now.localTime,
      quantity,
      requested: this.requestedOf(line),
      warehouse: { workdays, closed, receivingDays },
      transitDays: line.transit_days,
      unitPrice: divide(times(line.price, line.denominator), line.numerator, 6),
      unitCost: item.cost,
      currency: line.currency,
      inbound: this.inboundOf(line, quantity),
      mayWait: line.state !== 'released' || compareDecimal(quantity, plus(this.shortOf(line).waiting, this.shortOf(line).astray)) <= 0,
      whole: line.ship_complete,
      asksWhenLate: line.asks_when_late,
      confidence: confidence === null ? null : confidence / 100,
      offers: (this.offers.get(line.item) ?? []).map((offer) => ({
        ...offer,
        ...(this.joined.has(feeKey(line, offer.supplier)) ? { dropShipFee: '0' } : {}),
        draft: draftFor(this.drafts.get(`${offer.supplier}/${line.warehouse}`), line.item),
      })),
      transfers: this.transfersFor(line),
      substitutes: this.substitutesFor(line),
      assembly: this.assemblyFor(line, quantity),
    };
  }

  /** Counts what a route takes, so that the next line does not count on it. */
  take(line: RoutedLine, { parts }: Route): void {
    for (const part of parts) {
      const quantity = Number(part.quantity);
      if (part.kind === 'transfer') this.takeFrom({ item: line.item, warehouse: part.warehouse! }, quantity);
      if (part.kind === 'substitute') {
        const { ratio } = this.substitutes.get(line.item)!.find((row) => row.substitute === part.item)!;
        this.takeFrom({ item: part.item!, warehouse: line.warehouse }, Number(times(part.quantity, ratio)));
      }
      if (part.kind === 'assemble') {
        const step = mostAssembled(line.item, quantity, this.recipes, this.shelfAt(line.warehouse));
        if (step) for (const [item, taken] of takenFromShelf(step)) this.takeFrom({ item, warehouse: line.warehouse }, taken);
      }
      if (part.kind === 'drop_ship') this.joined.add(feeKey(line, part.supplier!));
      if (part.kind === 'special_order') this.buy(line, part.supplier!, part.quantity, part.buys, part.unitCost);
    }
  }

  private takeFrom(pool: { readonly item: string; readonly warehouse: string }, quantity: number): void {
    const days = this.free.get(poolKey(pool));
    if (days) takeFree(days, quantity);
  }

  /** What was bought for one line lifts the draft that the next would join. */
  private buy(line: RoutedLine, supplier: string, quantity: string, buys: string, unitCost: string) {
    const key = `${supplier}/${line.warehouse}`;
    const draft = this.drafts.get(key) ?? { id: 0, number: '', supplier, warehouse: line.warehouse, value: '0', items: new Map() };
    const known = draft.items.get(line.item) ?? { needed: '0', bought: '0' };
    const items = new Map(draft.items).set(line.item, { needed: plus(known.needed, quantity), bought: plus(known.bought, buys) });
    this.drafts.set(key, { ...draft, value: plus(draft.value, times(buys, unitCost)), items });
  }

  /** On which days what would be lifted of a line comes if nothing is done, how surely, and what of it never comes. */
  private inboundOf(line: RoutedLine, quantity: string): Shortage['inbound'] {
    const parts = this.comingOf(line);
    const last = (a: Coming, b: Coming) => (a.day === b.day ? 0 : a.day === null ? -1 : b.day === null ? 1 : a.day < b.day ? 1 : -1);
    // What waits is lifted first, then what comes last.
    const inTurn = [...parts.filter((part) => part.waits).sort(last), ...parts.filter((part) => !part.waits).sort(last)];
    const days: (Coming & { day: string })[] = [];
    let uncovered = '0';
    let missing = quantity;
    for (const coming of inTurn) {
      const { day } = coming;
      const part = least(missing, coming.quantity);
      if (compareDecimal(part, '0') <= 0) break;
      missing = minus(missing, part);
      if (day === null) uncovered = plus(uncovered, part);
      else days.push({ ...coming, day, quantity: part });
    }
    days.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
    return { days, uncovered: plus(uncovered, missing) };
  }

  /** All that is open of a line, as it comes now. */
  private comingOf(line: RoutedLine): Coming[] {
    const sure = line.confidence ?? this.desk.confidence;
    const answered = this.surely.get(sure)!;
    const warehouse = this.warehouses.get(line.warehouse)!.book;
    const dock = { calendar: workCalendar(warehouse.workdays, (warehouse.closed ?? []).map(dayNumber)), receivingDays: warehouse.receivingDays ?? 0 };
    const sureness = { odds: this.odds, dock, today: this.now.today, sure: sure ?? 90 };
    const promise = this.promiseFor(line, answered);
    const coming: Coming[] = [];
    // In this book the warehouse owes what slipped as well: what the line waits for itself comes first of it.
    let own = this.shortOf(line).waiting;
    const spare: Coming[] = [];
    for (const entry of promise?.schedule ?? []) {
      const supplies = entry.from.map((peg) => answered.live.supplies.get(peg.supply));
      const onDay = (day: string, quantity: string): Coming => ({ waits: false, day, quantity, ...howSure(supplies, day, sureness) });
      let inTime = decimal(entry.quantity);
      if (!entry.kept) {
        const waits = least(own, inTime);
        own = minus(own, waits);
        inTime = minus(inTime, waits);
        if (compareDecimal(waits, '0') > 0) coming.push({ ...onDay(entry.date, waits), waits: true });
        if (compareDecimal(inTime, '0') > 0) spare.push(onDay(entry.date, inTime));
        continue;
      }
      // What was told is at risk by the suppliers' days; its new day is one that is as sure as days must be.
      const surely = this.riskRows(line, answered).filter((row) => row.date === entry.date);
      for (const risk of this.riskRows(line).filter((row) => row.date === entry.date)) {
        inTime = minus(inTime, decimal(risk.quantity));
        const day =
          risk.arrives === null ? null : surely.reduce((last, row) => (row.arrives !== null && row.arrives > last ? row.arrives : last), risk.arrives);
        coming.push(day === null ? { waits: false, day, quantity: decimal(risk.quantity), holds: 0 } : onDay(day, decimal(risk.quantity)));
      }
      if (compareDecimal(inTime, '0') > 0) coming.push(onDay(entry.date, inTime));
    }
    if (compareDecimal(own, '0') > 0) coming.push({ waits: true, day: null, quantity: own, holds: 0 });
    return [...coming, ...this.slippedComing(line, spare, sureness)];
  }

  /** What slipped leaves the supplier, or the warehouse where that has it sooner: what leaves last is served from there first. */
  private slippedComing(line: RoutedLine, spare: Coming[], sureness: Sureness): Coming[] {
    const coming: Coming[] = [];
    for (const drop of [...this.slippedOf(line)].sort((a, b) => (a.leaves < b.leaves ? 1 : a.leaves > b.leaves ? -1 : 0))) {
      let left = drop.quantity;
      while (spare[0] && spare[0].day! < drop.leaves && compareDecimal(left, '0') > 0) {
        const quantity = least(left, spare[0].quantity);
        coming.push({ ...spare[0], quantity, insteadOf: drop.id });
        left = minus(left, quantity);
        const rest = minus(spare[0].quantity, quantity);
        if (compareDecimal(rest, '0') > 0) spare[0] = { ...spare[0], quantity: rest };
        else spare.shift();
      }
      if (compareDecimal(left, '0') <= 0) continue;
      const { supplier, supplierName, leaves, unitCost } = drop;
      const supplies = [{ label: '', purchase: null, cost: null, days: '', awaited: { supplier, supplierName, expected: leaves } }];
      const sure = howSure(supplies, leaves, { ...sureness, dock: { calendar: CARRIER_WEEK, receivingDays: 0 } });
      coming.push({ waits: false, day: leaves, quantity: left, unitCost, ...sure });
    }
    return coming;
  }

  private transfersFor(line: RoutedLine): TransferOffer[] {
    return this.lanes
      .filter((lane) => lane.to_warehouse === line.warehouse)
      .flatMap((lane) => {
        const from = this.warehouses.get(lane.from_warehouse)!;
        const free = freeNow(this.book.live, this.free, { item: line.item, warehouse: lane.from_warehouse }, from);
        if (free <= 0) return [];
        return [
          {
            warehouse: from.code,
            name: from.name,
            free: decimal(free),
            leaves: firstShipDay(from.book, this.now.localTime),
            transitDays: lane.transit_days,
            unitCost: divide(times(this.items.get(line.item)!.weight, lane.cost_per_kg), '1', 4),
          },
        ];
      });
  }

  private substitutesFor(line: RoutedLine): SubstituteOffer[] {
    return (this.substitutes.get(line.item) ?? []).flatMap(({ substitute, ratio, successor }) => {
      const facts = this.items.get(substitute)!;
      const days = (this.free.get(poolKey({ item: substitute, warehouse: line.warehouse })) ?? [])
        .map((row) => ({ day: row.day, quantity: divide(decimal(row.quantity), ratio, 4) }))
        .filter((row) => compareDecimal(row.quantity, '0') > 0);
      if (days.length === 0) return [];
      return [
        {
          item: substitute,
          description: facts.description,
          successor,
          ratio,
          days,
          // The price agreed stands: it is our shortage, not the customer's wish.
          unitPrice: divide(times(line.price, line.denominator), line.numerator, 6),
          unitCost: times(facts.cost, ratio),
        },
      ];
    });
  }

  private assemblyFor(line: RoutedLine, quantity: string): AssemblyOffer | null {
    const recipe = this.recipes.get(line.item);
    if (!recipe) return null;
    const step = mostAssembled(line.item, Number(quantity), this.recipes, this.shelfAt(line.warehouse));
    if (!step) return null;
    const warehouse = this.warehouses.get(line.warehouse)!.book;
    const calendar = workCalendar(warehouse.workdays, (warehouse.closed ?? []).map(dayNumber));
    const costs = new Map([...this.items].map(([code, facts]) => [code, facts.cost]));
    return {
      most: String(step.quantity),
      done: isoDay(calendar.offset(dayNumber(firstShipDay(warehouse, this.now.localTime)), step.days)),
      unitCost: componentCost(line.item, this.recipes, costs),
      components: recipe.components.map((row) => `${row.quantity} ${row.item}`).join(', '),
    };
  }

  /** Working days an assembly for a line takes, those of its parts included; null where it cannot be. */
  assemblyDays(line: RoutedLine, quantity: string): number | null {
    const step = mostAssembled(line.item, Number(quantity), this.recipes, this.shelfAt(line.warehouse));
    return step && step.quantity === Number(quantity) ? step.days : null;
  }

  /** What is free on the shelf of a warehouse of what things are made of. */
  shelfAt(warehouse: string): Map<string, number> {
    const row = this.warehouses.get(warehouse)!;
    return new Map([...this.items.keys()].map((item) => [item, freeNow(this.book.live, this.free, { item, warehouse }, row)]));
  }

  /** Pools that a route for a line may take from: to be locked before it is done. */
  poolsFor(line: RoutedLine): { readonly item: string; readonly warehouse: string }[] {
    return [...this.items.keys()]
      .flatMap((item) => [...this.warehouses.keys()].map((warehouse) => ({ item, warehouse })))
      .filter(({ item, warehouse }) => {
        if (item === line.item)
          return warehouse === line.warehouse || this.lanes.some((lane) => lane.from_warehouse === warehouse && lane.to_warehouse === line.warehouse);
        return warehouse === line.warehouse;
      });
  }

  substituteOf(line: RoutedLine, item: string) {
    return this.substitutes.get(line.item)?.find((row) => row.substitute === item);
  }

  offersOf(line: RoutedLine): readonly ItemOffer[] {
    return this.offers.get(line.item) ?? [];
  }

  draftOf(supplier: string, warehouse: string): DraftPurchase | undefined {
    return this.drafts.get(`${supplier}/${warehouse}`);
  }

  warehouseName(code: string): string {
    return this.warehouses.get(code)?.name ?? code;
  }

  /** How sure new promises of an order must be, in percent; null: the suppliers' days are believed. */
  sureFor(order: number): number | null {
    const line = [...this.lines.values()].find((row) => row.order_id === order);
    return line?.confidence ?? this.desk.confidence;
  }
}

/** What one supplier ships for one order to one address is one drop shipment, and one fee. */
function feeKey({ order_id, ship_to_id }: Pick<RoutedLine, 'order_id' | 'ship_to_id'>, supplier: string): string {
  return `${order_id}/${ship_to_id ?? ''}/${supplier}`;
}

/** Drop shipments of some orders that are planned, or on a draft that is not sent. */
async function loadJoined(db: Db, orders: readonly number[]): Promise<Set<string>> {
  const { rows } = await sql<{ order_id: number; ship_to_id: number | null; supplier: string }>`
    select distinct l.order_id, coalesce(r.ship_to_id, l.ship_to_id) as ship_to_id, r.supplier
    from line_route r join order_line l on l.id = r.line_id
    left join purchase_line p on p.id = r.purchase_line_id left join purchase_order o on o.id = p.purchase_id
    where r.kind = 'drop_ship' and l.order_id = any(${orders}) and (o.id is null or o.state = 'draft')`.execute(db);
  return new Set(rows.map((row) => feeKey(row, row.supplier)));
}

/** How sure the desk promises where a customer has no wish, in percent, and how it ranks ways. */
async function loadSettings(db: Db): Promise<{ readonly confidence: number | null; readonly policy: DeskPolicy }> {
  const rows = await db
    .selectFrom('desk_setting')
    .selectAll()
    .where(anyOf('name', ['confidence', ROUTE_POLICY]))
    .execute();
  const of = (name: string) => rows.find((row) => row.name === name)?.value;
  const confidence = of('confidence');
  return { confidence: typeof confidence === 'number' ? confidence : null, policy: asDeskPolicy(of(ROUTE_POLICY)) };
}

async function loadLines(db: Db, lineIds: readonly number[]) {
  return db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .innerJoin('carrier_service', 'carrier_service.code', 'sales_order.carrier_service')
    .innerJoin('item', 'item.code', 'order_line.item')
    .select([
      'order_line.id',
      'order_line.order_id',
      'order_line.line_no',
      'order_line.item',
      'order_line.warehouse',
      'order_line.price',
      'order_line.numerator',
      'order_line.denominator',
      'order_line.stock_quantity',
      'order_line.requested_day',
      'order_line.ship_to_id',
      'item.description',
      'item.unit',
      'item.assembly_days',
      sql<boolean>`item.successor is not null or exists (select from item_substitute where item_substitute.item = item.code)`.as('replaceable'),
      'sales_order.number',
      'sales_order.state',
      'sales_order.kind',
      'sales_order.currency',
      'sales_order.ship_complete',
      'sales_order.request_kind',
      'sales_order.requested_day as order_day',
      'carrier_service.transit_days',
      'customer.id as customer_id',
      'customer.name as customer',
      'customer.confidence',
      'customer.route_policy',
      'customer.asks_when_late',
    ])
    .where(anyOf('order_line.id', lineIds))
    .orderBy('sales_order.priority')
    .orderBy('sales_order.entered')
    .orderBy('order_line.order_id')
    .orderBy('order_line.line_no')
    .execute();
}

async function loadSubstitutes(db: Db, items: readonly string[]) {
  const { rows } = await sql<{ item: string; substitute: string; ratio: string; successor: boolean }>`
    select code as item, successor as substitute, '1' as ratio, true as successor from item where code = any(${items}) and successor is not null
    union all
    select s.item, s.substitute, trim_scale(s.ratio)::text, false from item_substitute s join item i on i.code = s.item
    where s.item = any(${items}) and s.substitute is distinct from i.successor
    order by 1, 4 desc, 2`.execute(db);
  const found = new Map<string, typeof rows>();
  for (const row of rows) found.set(row.item, [...(found.get(row.item) ?? []), row]);
  return found;
}
