import type { LineView, OrderView } from '@nockwright/contract/orders';
import type { FieldValue, FieldValues } from '@nockwright/core/orders';

/** A field that two people changed. `line`: of which line; null: of the head. */
export interface FieldCollision {
  readonly key: string;
  readonly field: string;
  readonly line: number | null;
  readonly mine: FieldValue;
  readonly theirs: string | null;
  readonly who: string;
  /** Sends mine once more, in the place of theirs. */
  readonly again: () => void;
}

/** Fields that mean one thing together. */
export const TOGETHER: Readonly<Record<string, readonly string[]>> = {
  quantity: ['unit'],
  unit: ['quantity'],
  requestKind: ['requestedDay'],
};

/** The head as a change of it names its fields. */
export function headOf(order: OrderView): FieldValues {
  const { poNumber, requestKind, requestedDay, warehouse, shipComplete, mostShipments, termsDays, description, source, note, validUntil } = order;
  return {
    shipTo: order.shipTo.id,
    poNumber,
    requestKind,
    requestedDay,
    warehouse,
    shipComplete,
    mostShipments,
    termsDays,
    description,
    carrierService: order.carrier.code,
    source,
    note,
    contract: order.contract?.id ?? null,
    ...(validUntil === null ? {} : { validUntil }),
  };
}

export function lineOf({ unit, quantity, requestedDay, warehouse, note, shipTo, alternative, alternativeTo }: LineView): FieldValues {
  return { unit, quantity, requestedDay, warehouse, note, shipTo: shipTo?.id ?? null, alternative, alternativeTo };
}

/** A value that came as text, of the kind the field has. */
export function like(kind: FieldValue | undefined, value: string): FieldValue {
  if (typeof kind === 'boolean') return value === 'true';
  return typeof kind === 'number' ? Number(value) : value;
}
