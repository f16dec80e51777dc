import type { Destination, Parcel } from '../carriers';
import { expectedWeight, type Consignment } from './read-consignment';

/** A parcel that nobody has packed yet has no size: carriers are told of a usual one, in centimetres. */
const USUAL = { length: 40, width: 30, height: 30 };

/** The parcels of a consignment as carriers are told of them: its cartons, or its goods as one where nothing is packed. */
export function parcelsOf({ cartons, parts }: Consignment): Parcel[] {
  if (cartons.length === 0) {
    const weight = parts.reduce((sum, part) => sum + Number(part.quantity) * Number(part.weight), 0);
    return [{ sscc: '', weight: Math.max(0.1, weight), ...USUAL }];
  }
  return cartons.map((carton) => ({ sscc: carton.sscc, weight: Number(carton.weight ?? expectedWeight(carton, parts)), ...sizeOf(carton, parts) }));
}

/** What goes as it is has the size of what it is; a carton its own. */
function sizeOf(carton: Consignment['cartons'][number], parts: Consignment['parts']): Omit<Parcel, 'sscc' | 'weight'> {
  if (carton.type === 'OWN') {
    const part = parts.find(({ id }) => id === carton.contents[0]?.part);
    return part && part.length_cm !== null ? { length: Number(part.length_cm), width: Number(part.width_cm), height: Number(part.height_cm) } : USUAL;
  }
  return { length: Number(carton.length_cm), width: Number(carton.width_cm), height: Number(carton.height_cm) };
}

export function destinationOf({ head }: Consignment): Destination {
  return { name: head.customer, address: head.address, postcode: head.postcode, country: head.country };
}
