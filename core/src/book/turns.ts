import type { OrderId } from '../ids';
import { dayNumber, parseClock } from '../calendar';
import type { BookOrder } from '../promise';
import type { Turn } from './live-book';

/** Orders with the turns given to them, as the book file can say it: the class with a fraction that tells their sequence. */
export function inTurn(orders: readonly BookOrder[], turns: ReadonlyMap<string, Turn>): BookOrder[] {
  const sorted = [...orders].sort((a, b) => {
    const [x, y] = [turns.get(a.id)!, turns.get(b.id)!];
    return x.priority - y.priority || x.place - y.place || (a.id < b.id ? -1 : 1);
  });
  const sequence = new Map(sorted.map((order, at) => [order.id, at]));
  const steps = 10 ** String(orders.length).length;
  return orders.map((order) => ({ ...order, priority: turns.get(order.id)!.priority + sequence.get(order.id)! / steps }));
}

/** The place of an order that nobody has moved: minutes since 1970. */
export function placeEntered(localTime: string): number {
  return dayNumber(localTime.slice(0, 10)) * 1440 + parseClock(localTime.slice(11, 16))!;
}

/** What a draft is called in a book, until it has a number. */
export function draftNumber(orderId: OrderId): string {
  return `draft-${orderId}`;
}
