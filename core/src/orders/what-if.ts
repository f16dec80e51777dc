import type { ItemCode, WarehouseCode } from '../ids';
import { type Amount, type Quantity, type UnitPrice, compareDecimal, lineAmount, marginPercent, roundMoney, sum, type Decimal } from '../money';
import { OpenBook, promiseBook, type BookDemand, type BookWarehouse, type DemandPromise, type OrderBook } from '../promise';
import { afterLines, inUnit, type LineBefore, type PricedPart, type PricePin, type PriceStep } from '../pricing';
import { SupplierOdds } from '../supply';
import { draftLine, type LineFault, type SoldItem } from './draft-line';
import { type SupplyInfo } from './how-sure';
import { linePromise, type LinePromise } from './line-promise';
import { costOfParts, peggedParts, shownParts, type CostPart } from './line-cost';
import { requestedShipDay } from './requested-day';
import { SAME_UNIT } from '../units';

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
    readonly warehouse: WarehouseCode;
    readonly currency: string;
    readonly nextLine: number;
    /** Its lines with the contracts they are under. */
    readonly lines: readonly (LineBefore & { readonly lineNo: number })[];
  };
}

export interface LineWish {
  readonly unit?: string;
  readonly quantity: Quantity;
  readonly requestedDay?: string;
  readonly warehouse?: WarehouseCode;
  readonly pin?: PricePin | null;
  /** The price a line that stands there already is agreed at: it stays, and another stands beside it. */
  readonly agreed?: AgreedPrice;
  /** The number of a line of the draft that it stands in the place of. Default: a line of its own, the last. */
  readonly replaces?: number;
}

export interface AgreedPrice {
  readonly unit: string;
  readonly price: UnitPrice;
  readonly source: string;
  readonly trail: readonly PriceStep[];
  readonly contractLine: number | null;
}

/** What is looked up now, where that is not what was agreed. */
export interface OfferedPrice {
  readonly parts: readonly { readonly quantity: Quantity; readonly price: UnitPrice; readonly source: string }[];
  readonly amount: Amount;
  readonly trail: readonly PriceStep[];
}

/** A line as it would stand on the draft. */
export interface LineTried extends LinePromise {
  readonly lineNo: number;
  readonly item: ItemCode;
  readonly description: string;
  readonly unit: string;
  readonly quantity: Quantity;
  readonly stockUnit: string;
  readonly stockQuantity: Quantity;
  readonly price: UnitPrice;
  readonly priceSource: string;
  readonly priceTrail: readonly PriceStep[];
  readonly contractLine: number | null;
  /** The rest of it, where the contract covers only a part: lines of their own, when it is added. */
  readonly splits: OfferedPrice['parts'];
  readonly offered: OfferedPrice | null;
  readonly amount: Amount;
  readonly marginPercent: Decimal | null;
  readonly cost: readonly CostPart[];
  readonly warehouse: WarehouseCode;
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
    const lineNo = wish.replaces ?? draft.nextLine;
    const before = draft.lines.filter((line) => line.lineNo < lineNo);
    const drafted = draftLine({ ...item, contracts: afterLines(item.contracts, before) }, wish, book.asOf.slice(0, 10));
    if (!drafted.ok) return drafted;
    const { unit, quantity, stockQuantity, parts } = drafted.line;
    const agreed = wish.agreed ? inAgreedUnit(item, wish.agreed, unit) : null;
    const offered = agreed && !isPricedAt(agreed, parts) ? offeredPrice(parts, draft.currency) : null;
    const price = offered ? agreed! : parts[0]!.price;
    const warehouse = slice.warehouses.find((row) => row.book.id === (wish.warehouse ?? draft.warehouse))!;
    const asked = { ...draft, day: wish.requestedDay ?? draft.day };
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
    const amount = offered ? lineAmount(quantity, price.price, draft.currency) : amountOf(parts, draft.currency);
    const cost = peggedParts(promise, this.supplies, stockQuantity, item.cost);
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
        contractLine: price.contractLine,
        splits: offered ? [] : partsInWords(parts).slice(1),
        offered,
        amount,
        marginPercent: marginPercent(amount, costOfParts(cost)),
        cost: shownParts(cost),
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

/** What parts of a line are looked up at, as it stands beside the price agreed. */
export function offeredPrice(parts: readonly PricedPart[], currency: string): OfferedPrice {
  return { parts: partsInWords(parts), amount: amountOf(parts, currency), trail: parts[0]!.price.trail };
}

/** Whether a line stands at the price that is looked up for it. */
export function isPricedAt(agreed: Pick<AgreedPrice, 'price' | 'contractLine'>, parts: readonly PricedPart[]): boolean {
  const [first, ...rest] = parts;
  return rest.length === 0 && compareDecimal(first!.price.price, agreed.price) === 0 && first!.price.contractLine === agreed.contractLine;
}

function partsInWords(parts: readonly PricedPart[]): OfferedPrice['parts'] {
  return parts.map(({ quantity, price }) => ({ quantity, price: price.price, source: price.source }));
}

function amountOf(parts: readonly PricedPart[], currency: string): Decimal {
  return roundMoney(sum(parts.map((part) => lineAmount(part.quantity, part.price.price, currency))), currency);
}

function inAgreedUnit(item: SoldItem, agreed: AgreedPrice, unit: string): AgreedPrice {
  const ratioOf = (code: string) => item.units.find((row) => row.unit === code) ?? SAME_UNIT;
  return { ...agreed, price: inUnit(agreed.price, ratioOf(agreed.unit), ratioOf(unit)) };
}
