import type { TrackedView } from '@nockwright/contract/shipping';

/** What a carrier said of a parcel, as a list or a line shows it. */
export const TRACKED: Readonly<Record<TrackedView['kind'], string>> = {
  picked_up: 'picked up by the carrier',
  in_transit: 'in transit',
  out_for_delivery: 'out for delivery',
  delivered: 'delivered',
  exception: 'not delivered',
};
