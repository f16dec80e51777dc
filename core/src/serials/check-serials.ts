import type { IsoDay } from '../calendar';
import type { ItemCode } from '../ids';
import type { Quantity } from '../money';
import { readSerials } from './read-serials';

/** Where a serial number is, as far as anybody has said. */
export type SerialWhere =
  | { readonly kind: 'place'; readonly warehouse: string; readonly bin: string; readonly quarantine?: boolean }
  | { readonly kind: 'shipped'; readonly shipment: string }
  | { readonly kind: 'packed'; readonly shipment: string; readonly carton: number }
  | { readonly kind: 'basket' }
  /** Named before in the same receipt. */
  | { readonly kind: 'receipt' }
  | { readonly kind: 'unseen' };

/** In words, as part of a sentence: "is …". */
export function whereWords(where: SerialWhere): string {
  switch (where.kind) {
    case 'place':
      return `${where.bin === '' ? '' : `in ${where.bin} `}at ${where.warehouse}${where.quarantine ? ', in quarantine' : ''}`;
    case 'shipped':
      return `with the customer, by shipment ${where.shipment}`;
    case 'packed':
      return `in carton ${where.carton} of shipment ${where.shipment}`;
    case 'basket':
      return 'in a basket at the counter';
    case 'receipt':
      return 'in this receipt already';
    case 'unseen':
      return 'missing: nobody has said where';
  }
}

/** Whether a piece may be packed or sold at a warehouse: it is free there, or missing and in somebody's hand now. */
export function mayTake(where: SerialWhere, warehouse: string): boolean {
  return where.kind === 'unseen' || (where.kind === 'place' && where.warehouse === warehouse && !where.quarantine);
}

export type SerialsChecked = { readonly ok: true; readonly serials: readonly string[] } | { readonly ok: false; readonly messages: readonly string[] };

/**
 * The serial numbers of so many pieces that come in: as many as pieces, each once, none that is somewhere else. What is missing in
 * the house may come up again anywhere. `known`: where numbers of the item are.
 */
export function checkSerials(item: ItemCode, text: string, quantity: Quantity, known: ReadonlyMap<string, SerialWhere>, today: IsoDay): SerialsChecked {
  const read = readSerials(text, today);
  if (!read.ok) return { ok: false, messages: read.faults.map((fault) => fault.message) };
  if (String(read.serials.length) !== quantity)
    return {
      ok: false,
      messages: [`${item} has serial numbers: expected ${quantity}, got ${read.serials.length === 0 ? 'none' : read.serials.length}`],
    };
  const messages = read.serials.flatMap((serial) => {
    const where = known.get(serial);
    return where === undefined || where.kind === 'unseen' ? [] : [`serial number ${serial} of ${item} is ${whereWords(where)}`];
  });
  return messages.length > 0 ? { ok: false, messages } : { ok: true, serials: read.serials };
}
