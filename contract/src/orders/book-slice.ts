import type { ItemCode, PurchaseId, SupplierCode, WarehouseCode } from '@nockwright/core/ids';
import type { UnitPrice } from '@nockwright/core/money';
import type { BookSlice, LineTried } from '@nockwright/core/orders';
import { anything, code, day, decimal, flag, id, integer, list, note, nullable, object, text, type Shape } from '../shape';
import type { LineView } from './line-views';

const priceBreak = object({ unit: text(), from: decimal(), price: decimal<UnitPrice>() });

/** What lines of an item on a draft are tried on, in a worker of the browser or here: one computation, one answer. */
export const bookSlice = object({
  /** In the open exchange format of the promise computation. */
  book: anything() as Shape<BookSlice['book']>,
  supplies: list(
    object({
      id: text(),
      label: text(),
      purchase: nullable(id<PurchaseId>()),
      days: note(),
      cost: nullable(decimal<UnitPrice>()),
      awaited: nullable(object({ supplier: code<SupplierCode>(), supplierName: text(), expected: day() })),
    }),
    0,
    1_000_000,
  ),
  /** Receipts of the suppliers concerned and of all: pairs of days late and how many. */
  odds: anything() as Shape<BookSlice['odds']>,
  sure: integer(50, 99),
  item: object({
    code: code(),
    description: text(),
    unit: text(),
    weight: decimal(),
    cost: decimal<UnitPrice>(),
    listPrice: decimal<UnitPrice>(),
    discontinued: flag(),
    successor: nullable(code<ItemCode>()),
    left: nullable(decimal()),
    units: list(object({ unit: text(), numerator: integer(1), denominator: integer(1), step: decimal() })),
    step: decimal(),
    listBreaks: list(priceBreak),
    customerList: nullable(object({ name: text(), breaks: list(priceBreak) })),
    contracts: anything() as Shape<BookSlice['item']['contracts']>,
  }),
  warehouses: list(object({ name: text(), book: anything() as Shape<BookSlice['warehouses'][number]['book']> })),
  draft: object({
    id: text(),
    day: day(),
    deliverBy: flag(),
    transitDays: integer(),
    warehouse: code<WarehouseCode>(),
    currency: text(),
    nextLine: integer(1),
    lines: anything() as Shape<BookSlice['draft']['lines']>,
  }),
});

/** A line that is only looked at, as one of the order's: nothing of it is done yet. */
export function asLineView(line: LineTried): LineView {
  return {
    ...line,
    id: 0,
    theirCode: null,
    note: '',
    shipTo: null,
    alternative: false,
    alternativeTo: null,
    accepted: '0',
    quoted: null,
    shipped: '0',
    cancelled: '0',
    picking: '0',
    promised: '0',
    dropShip: '0',
    waiting: '0',
    routes: [],
    standsFor: null,
    asked: null,
    pin: null,
  };
}
