import { shortDay, type IsoDay } from '../calendar';
import type { ScanRefusal } from './scanned';

/** What a packer reads and hears when a scan is refused: what is wrong, then what to do. */
export function scanWords(refusal: ScanRefusal, today: IsoDay): string {
  switch (refusal.why) {
    case 'unknown':
      return `No item has the code ${refusal.text}. Scan the label again, or enter the item code.`;
    case 'not_here':
      return `${refusal.item} is not in this shipment. Put it back.`;
    case 'lot_missing':
      return `${refusal.item} is kept by lot. Scan the label with the lot: ${listed(refusal.lots)}.`;
    case 'wrong_lot':
      return `Lot ${refusal.lot} of ${refusal.item} is not in this shipment. It takes lot ${listed(refusal.lots)}.`;
    case 'expired':
      return refusal.expires < today
        ? `Lot ${refusal.lot} of ${refusal.item} expired ${shortDay(refusal.expires, today)}. Put it into quarantine.`
        : `Lot ${refusal.lot} of ${refusal.item} expires ${shortDay(refusal.expires, today)}. It must last until ${shortDay(refusal.until, today)}.`;
    case 'too_many':
      return refusal.left === '0'
        ? `All of ${refusal.item} is done already. Put this back.`
        : `${refusal.scanned} of ${refusal.item} are too many. ${refusal.left} ${refusal.left === '1' ? 'is' : 'are'} missing.`;
    case 'serial_missing':
      return `${refusal.item} has serial numbers. Scan the serial number.`;
    case 'one_by_one':
      return `${refusal.item} has serial numbers. Scan each piece by itself.`;
    case 'elsewhere':
      return `Serial number ${refusal.serial} of ${refusal.item} is ${refusal.where}.`;
  }
}

function listed(lots: readonly string[]): string {
  const named = lots.map((lot) => lot || 'none');
  return named.length < 2 ? named.join('') : `${named.slice(0, -1).join(', ')} or ${named.at(-1)!}`;
}
