import { compileBook } from './compile-book';
import type { OrderBook } from './order-book';
import { promiseColumns } from './promise-group';
import type { PromiseMode } from './promise-run';
import { toResult, type PromiseResult } from './result';

/**
 * Promises a whole order book: for every demand the days on which it leaves and the supply each part comes from; for
 * every order its day; and the kept promises that their supply no longer reaches. The book must be faultless
 * (`checkOrderBook`). The same book gives the same result, always.
 */
export function promiseBook(book: OrderBook, mode: PromiseMode = 'keep'): PromiseResult {
  return toResult(promiseColumns(compileBook(book), mode));
}
