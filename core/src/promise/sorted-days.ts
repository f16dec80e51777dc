export function distinct(values: readonly number[]): readonly number[] {
  return [...new Set(values)].sort((a, b) => a - b);
}

/** The index of the first of ascending values that is at least a bound; their count where none is. */
export function firstFrom(values: readonly number[], bound: number): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle]! < bound) low = middle + 1;
    else high = middle;
  }
  return low;
}
