/** A scale may be off by so much of what it shows, and always by so many kilograms. Common practice, no source. */
const SHARE = 0.03;
const LEAST_KG = 0.05;

/**
 * What is wrong with a carton's weight on the scale, in kilograms, against what its contents and the carton should weigh; null
 * where it is as it should be. A carton that is lighter lacks something; one that is heavier holds what nobody scanned.
 */
export function weightFault(shown: number, expected: number): 'lighter' | 'heavier' | null {
  const off = shown - expected;
  if (Math.abs(off) <= Math.max(expected * SHARE, LEAST_KG) + 1e-9) return null;
  return off < 0 ? 'lighter' : 'heavier';
}
