import type { PromiseResult } from './result';

/** The result as the text of an exchange file: one row a line, so that two answers can be compared with any diff. */
export function formatResult(result: PromiseResult): string {
  const list = (name: string, rows: readonly unknown[]) =>
    `"${name}": [${rows.map((row) => `\n    ${JSON.stringify(row)}`).join(',')}${rows.length > 0 ? '\n  ' : ''}]`;
  return `{\n  ${list('promises', result.promises)},\n  ${list('orders', result.orders)},\n  ${list('atRisk', result.atRisk)}\n}\n`;
}
