import { type Quantity, compareDecimal, least, minus, plus, sum, type Decimal } from '../money';

/** What is open of a line, and where it stands. All in stocking units. */
export interface OpenLine {
  readonly waiting: Quantity;
  /** By day, ascending; what is being picked is part of it. */
  readonly promises: readonly { readonly day: string; readonly quantity: Quantity }[];
  readonly picks: readonly { readonly shipment: number; readonly quantity: Quantity }[];
  /** Drop shipments that have not left, what leaves first first. */
  readonly dropShipments: readonly { readonly purchaseLine: number; readonly quantity: Quantity }[];
}

/** What is taken away from where; `promises` is what remains of every day that changes, 0 where nothing does. */
export interface Cut {
  readonly waiting: Quantity;
  readonly promises: readonly { readonly day: string; readonly remains: Decimal; readonly cut: Quantity }[];
  readonly picks: readonly { readonly shipment: number; readonly cut: Quantity }[];
  readonly dropShipments: readonly { readonly purchaseLine: number; readonly cut: Quantity }[];
}

export type CutResult = { readonly ok: true; readonly cut: Cut } | { readonly ok: false; readonly most: Quantity };

/**
 * Takes `quantity` off what is open of a line, what disturbs least first: what waits, what is promised and not yet
 * picked (the latest day first), drop shipments that have not left (the last first), and at last what is being picked.
 * Refused with the most that could be taken where it is not there.
 */
export function cutLine(line: OpenLine, quantity: Quantity): CutResult {
  const picked = sum(line.picks.map((pick) => pick.quantity));
  const promised = sum(line.promises.map((entry) => entry.quantity));
  const dropped = sum(line.dropShipments.map((entry) => entry.quantity));
  const most = sum([line.waiting, promised, dropped]);
  if (compareDecimal(quantity, most) > 0) return { ok: false, most };

  const waiting = least(quantity, line.waiting);
  let missing = minus(quantity, waiting);
  const fromUnpicked = least(missing, minus(promised, picked));
  missing = minus(missing, fromUnpicked);
  const dropShipments = takeFromLast(line.dropShipments, least(missing, dropped));
  missing = minus(missing, least(missing, dropped));
  return {
    ok: true,
    cut: {
      waiting,
      promises: takeFromLast(line.promises, plus(fromUnpicked, missing)).map(({ day, quantity: had, cut }) => ({ day, remains: minus(had, cut), cut })),
      picks: takeFromLast(line.picks, missing).map(({ shipment, cut }) => ({ shipment, cut })),
      dropShipments: dropShipments.map(({ purchaseLine, cut }) => ({ purchaseLine, cut })),
    },
  };
}

/** Takes `quantity` from the last entries first; gives those touched, with how much was taken. */
function takeFromLast<T extends { readonly quantity: Quantity }>(entries: readonly T[], quantity: Quantity): (T & { readonly cut: Quantity })[] {
  const touched: (T & { cut: Quantity })[] = [];
  let missing = quantity;
  for (const entry of [...entries].reverse()) {
    if (compareDecimal(missing, '0') <= 0) break;
    const cut = least(missing, entry.quantity);
    touched.push({ ...entry, cut });
    missing = minus(missing, cut);
  }
  return touched;
}
