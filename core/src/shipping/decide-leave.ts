import type { IsoDay } from '../calendar';
import { compareDecimal, minus } from '../money';
import type { PickPart } from './scanned';

/** A carton as it stands at the bench. */
export interface PackedCarton {
  readonly number: number;
  readonly closed: boolean;
}

export interface LeaveFacts {
  /** `done`: what is packed. */
  readonly parts: readonly PickPart[];
  /** None: nothing was packed by scanning, and the shipment is confirmed by hand. */
  readonly cartons: readonly PackedCarton[];
  /** Whether the carrier takes nothing without its label. */
  readonly labelled: boolean;
  /** How the labels of the cartons stand. */
  readonly labels: readonly { readonly state: 'waiting' | 'made' | 'failed'; readonly fault: string }[];
  /** A number that somebody entered for a label made elsewhere. */
  readonly tracking: string;
  readonly today: IsoDay;
}

/** What keeps a shipment from leaving. */
export type LeaveFault =
  | { readonly why: 'unpacked'; readonly part: PickPart; readonly missing: string }
  | { readonly why: 'serials_missing'; readonly part: PickPart; readonly missing: string }
  | { readonly why: 'open_carton'; readonly carton: number }
  | { readonly why: 'no_label' }
  | { readonly why: 'label_waits' }
  | { readonly why: 'label_failed'; readonly fault: string }
  | { readonly why: 'expired'; readonly part: PickPart };

/** What keeps a shipment from leaving; nothing where it may. */
export function decideLeave({ parts, cartons, labelled, labels, tracking, today }: LeaveFacts): readonly LeaveFault[] {
  const spoilt = parts
    .filter((part) => part.expires !== null && part.expires < (part.until > today ? part.until : today))
    .map((part): LeaveFault => ({ why: 'expired', part }));
  // Of what is packed; what is not is said by itself.
  const nameless = parts
    .map((part) => ({ part, missing: part.numbered === null ? '0' : minus(cartons.length === 0 ? part.quantity : part.done, String(part.numbered)) }))
    .filter(({ missing }) => compareDecimal(missing, '0') > 0)
    .map((row): LeaveFault => ({ why: 'serials_missing', ...row }));
  if (cartons.length === 0) return [...spoilt, ...nameless, ...labelFaults(false, labels, tracking)];
  const unpacked = parts
    .filter((part) => compareDecimal(part.done, part.quantity) < 0)
    .map((part): LeaveFault => ({ why: 'unpacked', part, missing: minus(part.quantity, part.done) }));
  const open = cartons.filter((carton) => !carton.closed).map((carton): LeaveFault => ({ why: 'open_carton', carton: carton.number }));
  return [...spoilt, ...unpacked, ...nameless, ...open, ...labelFaults(labelled, labels, tracking)];
}

/** A number that was entered by hand stands for a label that was made elsewhere. */
function labelFaults(labelled: boolean, labels: LeaveFacts['labels'], tracking: string): LeaveFault[] {
  if (tracking !== '') return [];
  const failed = labels.find((label) => label.state === 'failed');
  if (failed) return [{ why: 'label_failed', fault: failed.fault }];
  if (labels.some((label) => label.state === 'waiting')) return [{ why: 'label_waits' }];
  return labelled && labels.length === 0 ? [{ why: 'no_label' }] : [];
}
