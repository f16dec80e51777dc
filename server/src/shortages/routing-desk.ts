import { calendarOf, dayNumber, firstShipDay, isoDay } from '@nockwright/core/calendar';
import { compareDecimal, divide, minus, plus, sum, times } from '@nockwright/core/money';
import { USUALLY_SURE, type SoldItem } from '@nockwright/core/orders';
import { promiseBook, type AtRisk, type BookDemand, type DemandPromise, type PromiseResult } from '@nockwright/core/promise';
import {
  comingOf,
  componentCost,
  inboundOf,
  leavingDays,
  liftLine,
  mostAssembled,
  sparedByWarehouse,
  takenFromShelf,
  type AssemblyOffer,
  type Coming,
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
  mostReplaced,
  sentInstead,
} from '@nockwright/core/shortages';
import type { SupplierOdds } from '@nockwright/core/supply';
import type { Now } from '../clock';
import { anyOf, keepPlans, type Db } from '../database';
import {
  boundToParts,
  decimal,
  type DropShipment,
  type FreeDays,
  freeGoods,
  freeNow,
  type LiveBook,
  loadBook,
  loadOdds,
  loadWarehouses,
  poolKey,
  requestedDayOf,
  slippedDropShipments,
  takeFree,
  type WarehouseRow,
} from '../promise';
import { draftFor, loadDrafts, loadOffers, loadRecipes, type DraftPurchase, type ItemOffer } from '../supply';
import type { DeskPolicy } from './policy';
import { ownPriceOf } from './price-instead';
import { feeKey, loadJoined, loadLines, loadSettings, loadSold, loadSubstitutes, soldKey, type RoutedLine } from './routing-rows';

export type { RoutedLine } from './routing-rows';

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
  readonly step: string;
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
  private demands: ReadonlyMap<string, BookDemand> | null = null;

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
    /** What may go instead, as its buyer is sold it, by `soldKey`. */
    private readonly sold: ReadonlyMap<string, SoldItem>,
    private readonly odds: SupplierOdds,
    private readonly slipped: readonly DropShipment[],
    /** Drop shipments that another line may join without a fee of its own, by `feeKey`. */
    private readonly joined: Set<string>,
    private readonly desk: { readonly confidence: number | null; readonly policy: DeskPolicy },
  ) {}

  /** Lines of a draft or a quote are looked at as if it were released now; those of several orders must be released. */
  static load(db: Db, now: Now, lineIds: readonly number[]): Promise<RoutingDesk> {
    return keepPlans(db, () => RoutingDesk.read(db, now, lineIds));
  }

  private static async read(db: Db, now: Now, lineIds: readonly number[]): Promise<RoutingDesk> {
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
    const dropped = [...lines.values()].filter((line) => line.dropped).map((line) => line.id);
    const slipped = dropped.length > 0 ? await slippedDropShipments(db, now.today, { lines: dropped }) : [];
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
    const facts = await db.selectFrom('item').select(['code', 'cost', 'weight', 'description', 'successor', 'step']).where(anyOf('code', known)).execute();
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
      await loadSold(
        db,
        [...lines.values()].filter((line) => substitutes.has(line.item)),
        substitutes,
        now.today,
      ),
      odds,
      slipped,
      await loadJoined(db, [...new Set([...lines.values()].filter((line) => line.drops).map((line) => line.order_id))]),
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

  /** What goods on their way that are bound to a line its promises rest on of which `lifts` go another way, by their names in the book. */
  boundToLifted(line: RoutedLine, lifts: string): ReadonlyMap<string, string> {
    return boundToParts(this.book.live, this.promiseFor(line, this.book), lifts);
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
    return sparedByWarehouse(liftLine({ ...known, slipped: this.slippedOf(line) }, lifts, keeps), this.comingOf(line));
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
    const { live } = this.book;
    this.demands ??= new Map(live.book.demand.map((row) => [row.id, row]));
    return this.demands.get(live.demandOfLine.get(line.id) ?? '');
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
      inbound: inboundOf(this.comingOf(line), quantity),
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
        const { sent } = sentInstead(part.quantity, { ratio, step: this.items.get(part.item!)!.step });
        this.takeFrom({ item: part.item!, warehouse: line.warehouse }, Number(sent));
      }
      if (part.kind === 'assemble') {
        const step = mostAssembled(line.item, quantity, this.recipes, this.shelfAt(line.warehouse));
        if (step) for (const [item, taken] of takenFromShelf(step)) this.takeFrom({ item, warehouse: line.warehouse }, taken);
      }
      if (part.kind === 'drop_ship') this.joined.add(feeKey(line, part.supplier!));
      if (part.kind === 'special_order') this.buy(line, part.supplier!, plus(part.quantity, part.more), part.buys, part.unitCost);
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

  /** All that is open of a line, as it comes now. */
  private comingOf(line: RoutedLine): Coming[] {
    const sure = line.confidence ?? this.desk.confidence;
    const answered = this.surely.get(sure)!;
    const { book } = this.warehouses.get(line.warehouse)!;
    return comingOf({
      waiting: this.shortOf(line).waiting,
      slipped: this.slippedOf(line),
      promise: this.promiseFor(line, answered),
      supplies: answered.live.supplies,
      risks: this.riskRows(line),
      surely: this.riskRows(line, answered),
      sureness: {
        odds: this.odds,
        dock: { calendar: calendarOf(book), receivingDays: book.receivingDays ?? 0 },
        today: this.now.today,
        sure: sure ?? USUALLY_SURE,
      },
    });
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
      // In whole ones of both, day by day: nobody is sent half a tank.
      let [free, replaced] = ['0', '0'];
      const days = (this.free.get(poolKey({ item: substitute, warehouse: line.warehouse })) ?? []).flatMap(({ day, quantity }) => {
        free = plus(free, decimal(quantity));
        const most = mostReplaced(free, { ratio, step: facts.step }, line.step);
        const more = minus(most, replaced);
        replaced = most;
        return compareDecimal(more, '0') > 0 ? [{ day, quantity: more }] : [];
      });
      if (days.length === 0) return [];
      const sold = this.sold.get(soldKey(line, substitute));
      return [
        {
          item: substitute,
          description: facts.description,
          successor,
          ratio,
          step: facts.step,
          days,
          // The price agreed stands, or its own where that is lower: it is our shortage, not the customer's wish.
          unitPrice: divide(times(line.price, line.denominator), line.numerator, 6),
          ownPrice: (sent) => (sold ? ownPriceOf(sold, sent, this.now.today) : null),
          unitCost: facts.cost,
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
    const calendar = calendarOf(warehouse);
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
