import { shortDay, type IsoDay } from '../calendar';
import type { LeaveFault } from './decide-leave';

/** Why a shipment cannot leave yet: what is missing, then what to do. */
export function leaveWords(fault: LeaveFault, today: IsoDay): string {
  switch (fault.why) {
    case 'unpacked':
      return `Line ${fault.part.lineNo}, ${fault.part.item}: ${fault.missing} not packed yet. Pack them, or report what is missing`;
    case 'serials_missing':
      return `Line ${fault.part.lineNo}, ${fault.part.item}: ${fault.missing} without a serial number. Pack them by scanning it`;
    case 'open_carton':
      return `Carton ${fault.carton} is still open. Weigh and close it`;
    case 'no_label':
      return 'The carrier takes nothing without a label. Make it, or enter the tracking number of one';
    case 'label_waits':
      return 'The carrier has not sent the label yet. Wait for it, or enter the tracking number of another';
    case 'label_failed':
      return `The label failed: ${fault.fault}. Try again, or choose another service`;
    case 'expired':
      return `Line ${fault.part.lineNo}, ${fault.part.item}: ${fault.part.quantity} of lot ${fault.part.lot} ${fault.part.expires! < today ? 'expired' : 'expire'} ${shortDay(fault.part.expires!, today)}${
        fault.part.until > today ? `, and must last until ${shortDay(fault.part.until, today)}` : ''
      }. Return the pick to stock, or correct the lot`;
  }
}
