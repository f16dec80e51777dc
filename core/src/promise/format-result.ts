import type { PromiseRun } from './promise-run';
import { ResultReader, type PromiseResult } from './result';

/** The result as the text of an exchange file: one row a line, so that two answers can be compared with any diff. */
export function formatResult(result: PromiseResult): string {
  return [...pieces(result.promises, result.orders, result.atRisk)].join('');
}

/** The same text of a run's answer, piece by piece. */
export function resultPieces(run: PromiseRun): Generator<string> {
  const reader = new ResultReader(run);
  return pieces(reader.promises(), reader.orders(), reader.atRisk());
}

function* pieces(promises: Iterable<unknown>, orders: Iterable<unknown>, atRisk: Iterable<unknown>): Generator<string> {
  yield '{\n';
  yield* list('promises', promises);
  yield ',\n';
  yield* list('orders', orders);
  yield ',\n';
  yield* list('atRisk', atRisk);
  yield '\n}\n';
}

function* list(name: string, rows: Iterable<unknown>): Generator<string> {
  yield `  "${name}": [`;
  let first = true;
  for (const row of rows) {
    yield `${first ? '' : ','}\n    ${JSON.stringify(row)}`;
    first = false;
  }
  yield first ? ']' : '\n  ]';
}
