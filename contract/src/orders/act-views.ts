import type { ItemCode, LineId } from '@nockwright/core/ids';
import type { Quantity, UnitPrice } from '@nockwright/core/money';
import { part, rippleView } from '../promise';
import { code, day, decimal, id, integer, list, object, oneOf, text, type Of } from '../shape';

const bound = object({ kind: oneOf('purchase', 'drop_ship', 'transfer', 'assembly', 'pick'), label: text(), quantity: decimal<Quantity>(), what: text(400) });

/** What a cancellation would free, and what hangs on what is cancelled. */
export const cancellationPreview = object({
  lines: list(
    object({
      line: id<LineId>(),
      lineNo: integer(),
      item: code<ItemCode>(),
      quantity: decimal<Quantity>(),
      frees: list(object({ day: day(), quantity: decimal<Quantity>() })),
    }),
  ),
  bound: list(bound),
  ripple: rippleView,
});
export type CancellationPreview = Of<typeof cancellationPreview>;

/** What a greater quantity of a line would be promised, and whom it would move where it claims its turn. */
export const raisePreview = object({
  /** Of one of the unit: as agreed, or a break that the greater quantity reaches. */
  price: decimal<UnitPrice>(),
  priceSource: text(),
  schedule: list(part),
  uncovered: decimal<Quantity>(),
  ripple: rippleView,
});
export type RaisePreview = Of<typeof raisePreview>;
