import { divide, marginPercent, roundMoney, times, type Decimal } from '../money';
import { OpenBook, promiseBook, type BookDemand, type BookWarehouse, type DemandPromise, type OrderBook } from '../promise';
import type { PriceStep } from '../pricing';
import { SupplierOdds } from '../supply';
import { draftLine, type LineFault, type SoldItem } from './draft-line';
import { type SupplyInfo } from './how-sure';
import { linePromise, type LinePromise } from './line-promise';
import { requestedShipDay } from './requested-day';

/** The part of the live book that decides about one item on one draft, with all that a line of it would say. */
export interface BookSlice {
  readonly book: OrderBook;
  readonly supplies: readonly (SupplyInfo & { readonly id: string })[];
  readonly odds: ReturnType<SupplierOdds['counts']>;
  /** How sure days are asked to be, in percent. */
  readonly sure: number;
  readonly item: SoldItem;
  readonly warehouses: readonly { readonly name: string; readonly book: BookWarehouse }[];
  readonly draft: {
    /** Its id in the book, where it stands with its lines so far. */
    readonly id: string;
    readonly day: string;
    readonly deliverBy: boolean;
    readonly transitDays: number;
    readonly warehouse: string;
    readonly currency: string;
    readonly nextLine: number;
  };
}

export interface LineWish {
  readonly unit?: string;
  readonly quantity: Decimal;
  readonly requestedDay?: string;
  readonly warehouse?: string;
  /** The number of a line of the draft that it stands in the place of. Default: a line of its own, the last. */
  readonly replaces?: number;
}

/** A line as it would stand on the draft. */
export interface LineTried extends LinePromise {
  readonly lineNo: number;
  readonly item: string;
  readonly description: string;
  readonly unit: string;
  readonly quantity: Decimal;
  readonly stockUnit: string;
  readonly stockQuantity: Decimal;
  readonly price: Decimal;
  readonly priceSource: string;
  readonly priceTrail: readonly PriceStep[];
  readonly amount: Decimal;
  readonly marginPercent: Decimal | null;
  readonly warehouse: string;
  /** The line's own day asked for; null: the order's. */
  readonly requestedDay: string | null;
}

export type WhatIfResult = { readonly ok: true; readonly line: LineTried } | { readonly ok: false; readonly fault: LineFault };

/** Answers what a line of the slice's item would be promised and cost, as often as asked: the book is computed once. */
export class WhatIf {
  private readonly open: OpenBook;
  private readonly supplies: ReadonlyMap<string, SupplyInfo>;
  private readonly odds: SupplierOdds;

  constructor(private readonly slice: BookSlice) {
    this.open = new OpenBook(slice.book);
    this.supplies = new Map(slice.supplies.map(({ id, ...info }) => [id, info]));
    this.odds = SupplierOdds.fromCounts(slice.odds);
  }

  try(wish: LineWish): WhatIfResult {
    const { slice } = this;
    const { item, draft, book } = slice;
    const drafted = draftLine(item, wish);
    if (!drafted.ok) return drafted;
    const { unit, ratio, quantity, stockQuantity, price } = drafted.line;
    const warehouse = slice.warehouses.find((row) => row.book.id === (wish.warehouse ?? draft.warehouse))!;
    const asked = { ...draft, day: wish.requestedDay ?? draft.day };
    const lineNo = wish.replaces ?? draft.nextLine;
    const id = `${draft.id}/${lineNo}`;
    const demand = { id, order: draft.id, item: item.code, warehouse: warehouse.book.id, quantity: Number(stockQuantity), requested: requestedShipDay(asked) };
    const promise = wish.replaces === undefined ? this.open.try(demand).promise : this.promiseInPlace(demand);
    const told = linePromise({
      demand: id,
      promise,
      atRisk: [],
      item: item.code,
      asked,
      warehouse,
      open: stockQuantity,
      shipped: '0',
      dropShips: [],
      dropShippers: new Map(),
      book,
      supplies: this.supplies,
      localTime: book.asOf,
      sureness: { odds: this.odds, sure: slice.sure },
    });
    const amount = roundMoney(divide(times(times(stockQuantity, price.price), ratio.denominator), ratio.numerator, 10), draft.currency);
    return {
      ok: true,
      line: {
        lineNo,
        item: item.code,
        description: item.description,
        unit,
        quantity,
        stockUnit: item.unit,
        stockQuantity,
        price: price.price,
        priceSource: price.source,
        priceTrail: price.trail,
        amount,
        marginPercent: marginPercent(amount, times(stockQuantity, item.cost)),
        warehouse: warehouse.book.id,
        requestedDay: wish.requestedDay ?? null,
        ...told,
      },
    };
  }

  /** A line that stands there already, with another quantity or day. */
  private promiseInPlace(demand: BookDemand): DemandPromise {
    const { book } = this.slice;
    const changed = { ...book, demand: book.demand.map((row) => (row.id === demand.id ? demand : row)) };
    const known = book.demand.some((row) => row.id === demand.id) ? changed : { ...book, demand: [...book.demand, demand] };
    return promiseBook(known).promises.find((promise) => promise.id === demand.id)!;
  }
}
