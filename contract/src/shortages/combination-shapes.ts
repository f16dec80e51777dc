import type { ItemCode, LineId } from '@nockwright/core/ids';
import type { Amount, Quantity } from '@nockwright/core/money';
import { COMBINATION_NAMES } from '@nockwright/core/routing';
import { code, day, decimal, flag, id, integer, list, nullable, object, oneOf, text, type Of } from '../shape';
import { routeChoice } from './route-shapes';

/** One way to serve every short line of an order, and what the order comes to by it. */
const combination = object({
  name: oneOf(...COMBINATION_NAMES),
  /** The order leaves complete by it. */
  complete: flag(),
  lastDay: nullable(day()),
  /** Lines of the order that leave later than requested; the most days; null: some have no day. */
  late: integer(),
  worstLate: nullable(integer()),
  shipments: integer(),
  margin: decimal<Amount>(),
  /** Lines that are left as they are: their customer must be asked, or they have no option with a day. */
  asks: integer(),
  without: integer(),
  rows: list(
    object({
      line: id<LineId>(),
      lineNo: integer(),
      item: code<ItemCode>(),
      unit: text(),
      quantity: decimal<Quantity>(),
      route: nullable(routeChoice),
      asks: flag(),
    }),
  ),
});
export type CombinationView = Of<typeof combination>;

export const combinations = object({ version: integer(), rows: list(combination) });
export type Combinations = Of<typeof combinations>;
