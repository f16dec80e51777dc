/** A quantity of the book as decimal text; it has at most four decimals, so this is exact. */
export function decimal(value: number): string {
  return value.toFixed(4).replace(/\.?0+$/, '');
}
