import type { IsoDay } from '../calendar';
import type { LineId } from '../ids';
import { compareDecimal, type Quantity } from '../money';
import { movedParts, type Moved } from '../promise';
import { nextCarrierDay } from './requested-day';

/** What is still awaited of a drop shipment for an order line, and what becomes of it. */
export interface DroppedChange {
  readonly line: LineId;
  /** The day the customer was told, and how much is open. */
  readonly told: IsoDay;
  readonly open: Quantity;
  /** The day it leaves the supplier from now on, and how much still will. */
  readonly day: IsoDay;
  readonly left: Quantity;
}

interface Part {
  readonly day: IsoDay;
  readonly quantity: Quantity;
}

export interface DroppedMove {
  readonly line: LineId;
  readonly row: Moved;
  readonly after: readonly Part[];
}

/**
 * Whose promises changes of drop shipments move, in the sequence the lines first stand in. The supplier's shelf is no pool
 * that others take from: what was told of a shipment stands or falls with its own day alone, earlier as well as later. A day
 * that has passed is the next one on which carriers drive.
 */
export function dropMoves(changes: readonly DroppedChange[], today: IsoDay): DroppedMove[] {
  return [...new Set(changes.map(({ line }) => line))].flatMap((line) => {
    const own = changes.filter((change) => change.line === line);
    const before = byDay(own.map(({ told, open }) => ({ day: told, quantity: open })));
    const after = byDay(own.map(({ day, left }) => ({ day: day < today ? nextCarrierDay(today) : day, quantity: left })));
    const row = movedParts(before, after);
    return row ? [{ line, row, after }] : [];
  });
}

function byDay(parts: readonly Part[]): Part[] {
  return parts.filter((part) => compareDecimal(part.quantity, '0') > 0).sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}
