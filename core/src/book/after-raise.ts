import type { IsoDay } from '../calendar';
import { promiseBook, ripple, type OrderBook } from '../promise';
import type { LiveBook } from './live-book';

/** The book with so much more of a demand, in stocking units; null where it is not in the book: nothing of it is open. */
export function bookAfterRaise({ book }: LiveBook, demand: string | undefined, more: number): OrderBook | null {
  if (!book.demand.some((row) => row.id === demand)) return null;
  return { ...book, demand: book.demand.map((row) => (row.id === demand ? { ...row, quantity: Math.round((row.quantity + more) * 10_000) / 10_000 } : row)) };
}

/** How the raised demand stands: promised of what is free, or, where it claims its turn, also of what those behind it were promised. */
export function raisedPromise(
  live: LiveBook,
  after: OrderBook,
  demand: string,
  claims: boolean,
): { readonly schedule: readonly { readonly date: IsoDay; readonly quantity: number }[]; readonly uncovered: number } {
  if (claims) return ripple(live.book, after, new Set([demand])).claimed[0]!;
  return promiseBook(after).promises.find((row) => row.id === demand)!;
}
