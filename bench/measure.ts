/** Times of several runs of the same thing, in milliseconds, ascending. */
export function times(run: () => unknown, runs: number): number[] {
  return Array.from({ length: runs }, () => {
    const start = performance.now();
    run();
    return performance.now() - start;
  }).sort((a, b) => a - b);
}

/** The least of several runs: what is left when the machine was least disturbed. */
export function least(run: () => unknown, runs = 5): number {
  return times(run, runs)[0]!;
}

/** The value that a share of the ascending values does not exceed. */
export function percentile(ascending: readonly number[], share: number): number {
  return ascending[Math.min(ascending.length - 1, Math.floor(ascending.length * share))]!;
}

/** A figure of the run: a ratio, what it compares, and the most it may be where a target is set. */
export interface Figure {
  readonly name: string;
  readonly ratio: number;
  readonly against: string;
  readonly target?: number;
}

/** The figures as a table in Markdown; a figure above its target says so. */
export function figureTable(figures: readonly Figure[]): string {
  const rows = figures.map(({ name, ratio, against, target }) => [
    name,
    format(ratio),
    against,
    target === undefined ? '' : `at most ${Number(format(target))}${ratio > target ? ': **missed**' : ''}`,
  ]);
  return markdownTable(['What', 'Ratio', 'Against, in the same run', 'Target'], rows);
}

export function markdownTable(head: readonly string[], rows: readonly (readonly string[])[]): string {
  return [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');
}

export function format(ratio: number): string {
  return ratio >= 100 ? ratio.toFixed(0) : ratio.toFixed(ratio >= 10 ? 1 : 2);
}
