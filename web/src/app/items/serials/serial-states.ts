import type { SerialRow, SerialStep } from '@nockwright/contract/items';

export const STATES: Readonly<Record<SerialRow['state'], string>> = {
  in_stock: 'in stock',
  packed: 'packed',
  basket: 'at the counter',
  shipped: 'shipped',
  missing: 'missing',
};

/** What happened to a piece, in words. */
export function stepWords({ kind, warehouse, bin, lot, reference }: SerialStep): string {
  const place = `${bin === '' ? '' : `bin ${bin} at `}${warehouse}${lot === '' ? '' : `, lot ${lot}`}`;
  switch (kind) {
    case 'received':
      return `Received with ${reference} into ${place}`;
    case 'placed':
      return `Found in ${place}${reference === '' ? '' : ` (${reference})`}`;
    case 'packed':
      return `Packed for shipment ${reference}, from ${place}`;
    case 'shipped':
      return `Shipped with ${reference}, from ${place}`;
    case 'brought_back':
      return `Shipment ${reference} was undone: back in ${place}`;
    case 'missed':
      return `Missing: ${place} holds fewer pieces than it had numbers`;
  }
}
