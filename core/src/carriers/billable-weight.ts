import type { Size } from '../packing';

/**
 * The weight that a carrier charges for one parcel, in kilograms: its own, or that of its volume where that is more. `divisor` is cubic
 * centimetres a kilogram, commonly 5,000 for express and 6,000 otherwise (common practice, no source). Rounded up to half a
 * kilogram, as rates are listed.
 */
export function billableWeight(weight: number, size: Size | null, divisor: number): number {
  const volumetric = size ? (size.length * size.width * size.height) / divisor : 0;
  return Math.ceil(Math.max(weight, volumetric) * 2 - 1e-9) / 2;
}
