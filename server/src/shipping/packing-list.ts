import type { IsoDay } from '@nockwright/core/calendar';
import { sum, times } from '@nockwright/core/money';
import { fromStockingUnits } from '@nockwright/core/units';
import type { ToldPackingList } from '../documents';
import type { DespatchFactsRow } from './load-despatch';
import type { PartRow } from './load-consignment';
import { expectedWeight, type Consignment } from './read-consignment';

type Told = Omit<ToldPackingList, 'firm'>;

/** What a packing list says: what is in the shipments, in which carton, of which lot, and what of each line is still owed. */
export function packingListOf(consignment: Consignment, facts: DespatchFactsRow, day: IsoDay, tracking: string): Told {
  const { head, shipments, parts, cartons } = consignment;
  const open = new Map(facts.follows.map((row) => [row.line, row.open]));
  const lines = [...new Set(parts.map((part) => part.line))].map((line): Told['lines'][number] => {
    const own = parts.filter((part) => part.line === line);
    const first = own[0]!;
    const quantity = sum(own.map((part) => part.quantity));
    const shipment = shipments.find((row) => row.id === first.shipment)!;
    return {
      order: shipment.order_number,
      lineNo: first.line_no,
      ...goodsOf(first),
      quantity,
      ordered: orderedIn(first, quantity),
      lots: lotsOf(own),
      owed: open.get(line) ?? '0',
    };
  });
  return {
    day,
    customer: head.customer,
    address: head.address,
    service: head.service_name,
    tracking,
    shipments: shipments.filter((row) => row.state !== 'cancelled').map((row) => ({ number: row.number, order: row.order_number, poNumber: row.po_number })),
    lines: lines.sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.lineNo - b.lineNo)),
    cartons: cartons.map((carton) => ({
      number: carton.number,
      type: carton.type_name,
      sscc: carton.sscc,
      weight: carton.weight ?? expectedWeight(carton, parts),
      goods: carton.contents.flatMap(({ part, quantity }) => {
        const row = parts.find((known) => known.id === part);
        return row ? [{ ...goodsOf(row), quantity, lot: row.lot, expires: row.expires }] : [];
      }),
    })),
    weight: weightOf(consignment),
  };
}

/** What a consignment weighs: as its cartons stood on the scale, or what its goods should weigh. */
export function weightOf({ parts, cartons }: Pick<Consignment, 'parts' | 'cartons'>): string {
  if (cartons.length === 0) return sum(parts.map((part) => times(part.quantity, part.weight)));
  return sum(cartons.map((carton) => carton.weight ?? expectedWeight(carton, parts)));
}

function goodsOf(row: PartRow) {
  return { item: row.item, theirs: row.their_item, description: row.description, unit: row.unit };
}

/** In the unit ordered, where it is another and comes out even. */
function orderedIn(row: PartRow, quantity: string): { readonly quantity: string; readonly unit: string } | null {
  if (row.order_unit === row.unit) return null;
  const whole = fromStockingUnits(quantity, row);
  return whole === null ? null : { quantity: whole, unit: row.order_unit };
}

function lotsOf(parts: readonly PartRow[]) {
  const lots = [...new Set(parts.map((part) => part.lot))].filter((lot) => lot !== '');
  return lots.map((lot) => {
    const own = parts.filter((part) => part.lot === lot);
    return { lot, expires: own[0]!.expires, quantity: sum(own.map((part) => part.quantity)) };
  });
}
