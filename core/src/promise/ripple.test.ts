import fc from 'fast-check';
import { anyBook, due, onHand, simpleBook, wants } from '../../test/books';
import { openOffers, ripple, type OrderBook } from './index';

const told = (date: string, quantity: number) => ({ promised: [{ date, quantity }] });
const raised = (book: OrderBook, id: string) => ({ ...book, orders: book.orders.map((order) => (order.id === id ? { ...order, priority: 1 } : order)) });

test('two orders want the last goods: raising the second swaps their days, and says who is hurt', () => {
  const book = simpleBook({
    supply: [onHand(10), due('2027-03-09', 10)],
    demand: [wants('A', 10, '2027-03-01', told('2027-03-01', 10)), wants('B', 10, '2027-03-01', told('2027-03-09', 10))],
  });
  const { later, earlier, offers } = ripple(book, raised(book, 'B'), new Set(['B/1']));
  expect(later).toEqual([
    {
      id: 'A/1',
      before: [{ day: '2027-03-01', quantity: 10 }],
      after: [{ day: '2027-03-09', quantity: 10 }],
      moves: [{ quantity: 10, from: '2027-03-01', to: '2027-03-09' }],
      quantity: 10,
      from: '2027-03-01',
      to: '2027-03-09',
      days: 8,
    },
  ]);
  expect(earlier).toMatchObject([{ id: 'B/1', from: '2027-03-09', to: '2027-03-01', days: -8 }]);
  expect(offers).toEqual([]);
});

test('what leaves on another day is counted unit by unit: of 10, 4 go from today to the inbound', () => {
  const book = simpleBook({
    supply: [onHand(10), due('2027-03-09', 20)],
    demand: [
      wants('A', 10, '2027-03-01', {
        promised: [
          { date: '2027-03-01', quantity: 6 },
          { date: '2027-03-09', quantity: 4 },
        ],
      }),
      wants('B', 8, '2027-03-01', {
        promised: [
          { date: '2027-03-01', quantity: 4 },
          { date: '2027-03-09', quantity: 4 },
        ],
      }),
    ],
  });
  const { later } = ripple(book, raised(book, 'B'), new Set(['B/1']));
  expect(later).toMatchObject([{ id: 'A/1', quantity: 4, from: '2027-03-01', to: '2027-03-09', days: 8 }]);
});

test('what stays on its day does not move: of 9 and 30, 7 of the first lose their supply', () => {
  const promised = (monday: number, thursday: number) => ({
    promised: [
      { date: '2027-03-01', quantity: monday },
      { date: '2027-03-04', quantity: thursday },
    ],
  });
  const book = simpleBook({
    supply: [onHand(9), due('2027-03-04', 30)],
    demand: [wants('A', 39, '2027-03-01', promised(9, 30)), wants('B', 7, '2027-03-01')],
  });
  const { later } = ripple(book, raised(book, 'B'), new Set(['B/1']));
  expect(later).toMatchObject([{ id: 'A/1', quantity: 7, from: '2027-03-01', to: null, moves: [{ quantity: 7, from: '2027-03-01', to: null }] }]);
});

test('a cancellation frees goods: who waits is offered them, first in turn; taking one offer leaves the rest', () => {
  const book = simpleBook({
    supply: [onHand(10)],
    demand: [wants('A', 10, '2027-03-01', told('2027-03-01', 10)), wants('B', 7, '2027-03-01'), wants('C', 7, '2027-03-01')],
  });
  const cancelled = { ...book, demand: book.demand.slice(1) };
  const offered = ripple(book, cancelled);
  expect(offered.later).toEqual([]);
  expect(offered.offers.map(({ id, quantity, from, to }) => [id, quantity, from, to])).toEqual([
    ['B/1', 7, null, '2027-03-01'],
    ['C/1', 3, null, '2027-03-01'],
  ]);
  const taken = ripple(book, cancelled, new Set(), new Set(['C/1']));
  expect(taken.earlier).toMatchObject([{ id: 'C/1', quantity: 7, to: '2027-03-01' }]);
  expect(openOffers(cancelled).map((row) => row.id)).toEqual(['B/1', 'C/1']);
});

test('of goods that one could take whole, everybody who could have them is named; taking them by another is possible', () => {
  const book = simpleBook({
    supply: [onHand(5)],
    demand: [wants('A', 5, '2027-03-01', told('2027-03-01', 5)), wants('B', 5, '2027-03-01'), wants('C', 4, '2027-03-01'), wants('D', 2, '2027-03-01')],
  });
  const cancelled = { ...book, demand: book.demand.slice(1) };
  const names = (rows: readonly { readonly id: string; readonly quantity: number; readonly instead?: true }[]) =>
    rows.map((row) => [row.id, row.quantity, row.instead ?? false]);
  const all = [
    ['B/1', 5, false],
    ['C/1', 4, true],
    ['D/1', 2, true],
  ];
  expect(names(ripple(book, cancelled).offers)).toEqual(all);
  expect(names(openOffers(cancelled))).toEqual(all);
  expect(ripple(book, cancelled, new Set(), new Set(['D/1'])).earlier).toMatchObject([{ id: 'D/1', quantity: 2 }]);
});

test('forty wait for what one can have: all forty are named, each with what it would get alone', () => {
  const waiting = Array.from({ length: 40 }, (_, at) => wants(`W${String(at).padStart(2, '0')}`, 5 + at, '2027-03-01'));
  const book = simpleBook({ supply: [onHand(5)], demand: [wants('A', 5, '2027-03-01', told('2027-03-01', 5)), ...waiting] });
  const offers = openOffers({ ...book, demand: book.demand.slice(1) });
  expect(offers.map((row) => row.quantity)).toEqual(Array(40).fill(5));
  expect(offers.filter((row) => !row.instead).map((row) => row.id)).toEqual(['W00/1']);
});

test('supply that is lost: the last in turn waits again', () => {
  const book = simpleBook({
    supply: [onHand(10)],
    demand: [wants('A', 5, '2027-03-01', told('2027-03-01', 5)), wants('B', 5, '2027-03-01', told('2027-03-01', 5))],
  });
  const { later } = ripple(book, { ...book, supply: [onHand(7)] });
  expect(later).toMatchObject([{ id: 'B/1', quantity: 3, from: '2027-03-01', to: null, days: null, after: [{ day: '2027-03-01', quantity: 2 }] }]);
});

describe('what must always hold', () => {
  test('no change, no ripple', () => {
    fc.assert(fc.property(anyBook, (book) => expect(ripple(book, book)).toEqual({ later: [], earlier: [], claimed: [], accepted: [], offers: [] })));
  });

  test('an order raised to the front is not made later, in a book of its own supply without complete orders', () => {
    fc.assert(
      fc.property(anyBook, fc.nat(4), (any, pick) => {
        const orders = any.orders.map((order) => ({ ...order, shipComplete: false }));
        const demand = any.demand.map((row) => (row.promised ? { ...row, promised: row.promised.map(({ date, quantity }) => ({ date, quantity })) } : row));
        const book = { ...any, orders, demand, items: any.items.map(({ id }) => ({ id })), supply: any.supply.map(({ for: _, ...row }) => row) };
        const id = orders[pick % orders.length]!.id;
        const first = { ...book, orders: orders.map((order) => (order.id === id ? { ...order, priority: -1e301 } : order)) };
        // One line an item and warehouse: lines of one order take from each other in file order.
        const own = demand.filter((row) => row.order === id);
        fc.pre(new Set(own.map((row) => `${row.item}/${row.warehouse}`)).size === own.length);
        const { later } = ripple(book, first, new Set(own.map((row) => row.id)));
        // A line that must leave whole may have been promised in parts before: leaving whole can be later.
        const parts = new Map(own.map((row) => [row.id, row.partial !== false]));
        expect(later.filter((row) => parts.get(row.id) === true)).toEqual([]);
      }),
    );
  });
});
