import fc from 'fast-check';
import { anyBook, due, onHand, simpleBook, wants } from '../../test/books';
import { promiseBook, replan, type OrderBook } from './index';

const told = (date: string, quantity: number) => ({ promised: [{ date, quantity }] });
const daysOf = (plan: ReturnType<typeof replan>) =>
  Object.fromEntries(plan.map((line) => [line.id, line.schedule.map(({ date, quantity }) => [date, quantity])]));
const hold = () => 'hold' as const;

/** Two orders for the last goods: A was told today, B the inbound's day (common practice, no source). */
const lastGoods = simpleBook({
  supply: [onHand(10), due('2027-03-09', 10)],
  demand: [wants('A', 10, '2027-03-01', told('2027-03-01', 10)), wants('B', 10, '2027-03-01', told('2027-03-09', 10))],
});
const raise = (book: OrderBook, id: string) => ({ ...book, orders: book.orders.map((order) => (order.id === id ? { ...order, priority: 1 } : order)) });

test('raising the second of two orders above the first swaps their days', () => {
  const plan = replan(raise(lastGoods, 'B'), (id) => (id === 'B/1' ? 'claim' : 'hold'));
  expect(daysOf(plan)).toEqual({ 'A/1': [['2027-03-09', 10]], 'B/1': [['2027-03-01', 10]] });
});

test('a claim takes nothing from those ahead of it', () => {
  expect(daysOf(replan(lastGoods, (id) => (id === 'B/1' ? 'claim' : 'hold')))).toEqual({ 'A/1': [['2027-03-01', 10]], 'B/1': [['2027-03-09', 10]] });
});

test('when supply slips, the first in turn hold their days and the last move no further than they must', () => {
  const book = simpleBook({
    supply: [onHand(4), due('2027-03-12', 10)],
    demand: [wants('A', 4, '2027-03-02', told('2027-03-05', 4)), wants('B', 6, '2027-03-02', told('2027-03-05', 6))],
  });
  expect(daysOf(replan(book, hold))).toEqual({ 'A/1': [['2027-03-05', 4]], 'B/1': [['2027-03-12', 6]] });
});

test('freed goods go to those who wait, in turn, and to those who are late; nobody is made later for it', () => {
  const book = simpleBook({
    supply: [onHand(10), due('2027-03-09', 5)],
    demand: [wants('A', 5, '2027-03-01', told('2027-03-09', 5)), wants('B', 8, '2027-03-01'), wants('C', 3, '2027-03-01', told('2027-03-01', 3))],
  });
  const plan = replan(book, () => 'improve');
  // A comes forward to today and leaves the inbound to B, which waits: 2 today, 5 when it comes.
  expect(daysOf(plan)).toEqual({
    'A/1': [['2027-03-01', 5]],
    'B/1': [
      ['2027-03-01', 2],
      ['2027-03-09', 5],
    ],
    'C/1': [['2027-03-01', 3]],
  });
  expect(plan[1]!.uncovered).toBe(1);
  // Where only B may take, A stays where it is.
  expect(daysOf(replan(book, (id) => (id === 'B/1' ? 'improve' : 'hold')))['B/1']).toEqual([['2027-03-01', 7]]);
});

test('a promise on goods bought for its line goes with them when they slip, and takes nobody else’s', () => {
  const bought = { id: 'PO1/1', item: 'JAR', warehouse: 'N', quantity: 5, date: '2027-03-20', for: 'A/1' };
  const book = simpleBook({
    supply: [onHand(5), bought],
    demand: [wants('A', 5, '2027-03-02', told('2027-03-10', 5)), wants('B', 5, '2027-03-15', told('2027-03-15', 5))],
  });
  expect(daysOf(replan(book, hold))).toEqual({ 'A/1': [['2027-03-20', 5]], 'B/1': [['2027-03-15', 5]] });
});

test('an order that leaves complete moves complete', () => {
  const book = simpleBook({
    items: [{ id: 'JAR' }, { id: 'LID' }],
    supply: [onHand(5), { id: 'PO', item: 'LID', warehouse: 'N', quantity: 5, date: '2027-03-11' }],
    orders: [{ id: 'A', entered: '2027-02-01T10:00', shipComplete: true }],
    demand: [
      { id: 'A/1', order: 'A', item: 'JAR', warehouse: 'N', quantity: 5, requested: '2027-03-02', ...told('2027-03-08', 5) },
      { id: 'A/2', order: 'A', item: 'LID', warehouse: 'N', quantity: 5, requested: '2027-03-02', ...told('2027-03-08', 5) },
    ],
  });
  expect(daysOf(replan(book, hold))).toEqual({ 'A/1': [['2027-03-11', 5]], 'A/2': [['2027-03-11', 5]] });
});

test('who tries alone is told what it would get, and takes nothing', () => {
  const book = simpleBook({
    supply: [onHand(6), due('2027-03-09', 5)],
    demand: [wants('A', 5, '2027-03-01', told('2027-03-09', 5)), wants('B', 8, '2027-03-01'), wants('C', 3, '2027-03-01')],
  });
  expect(daysOf(replan(book, (id) => (id === 'C/1' ? 'hold' : 'alone')))).toEqual({ 'A/1': [['2027-03-01', 5]], 'B/1': [['2027-03-01', 6]], 'C/1': [] });
});

test('a line that is assembled in part and stands late keeps the goods of its own part: nobody else is given them', () => {
  const book = simpleBook({
    items: [{ id: 'SET', assembly: { days: 0, components: [{ item: 'JAR', quantity: 1 }] } }, { id: 'JAR' }],
    supply: [
      { id: 'PO', item: 'SET', warehouse: 'N', quantity: 2, date: '2027-03-09' },
      { id: 'PO2', item: 'JAR', warehouse: 'N', quantity: 3, date: '2027-03-09' },
    ],
    demand: [
      {
        ...wants('A', 5, '2027-03-02'),
        item: 'SET',
        promised: [
          { date: '2027-03-09', quantity: 2 },
          { date: '2027-03-09', quantity: 3, assembled: true },
        ],
      },
      { ...wants('B', 2, '2027-03-02'), item: 'SET' },
    ],
  });
  expect(daysOf(replan(book, () => 'improve'))).toEqual({ 'A/1': [['2027-03-09', 5]], 'B/1': [] });
});

describe('what must always hold', () => {
  const stances = fc.array(fc.constantFrom('hold' as const, 'improve' as const, 'claim' as const), { minLength: 8, maxLength: 8 });
  const scaled = (quantity: number) => Math.round(quantity * 10_000);

  /** The book with the plan's promises as what was promised. */
  const asPromised = (book: OrderBook, plan: ReturnType<typeof replan>) => ({
    ...book,
    demand: book.demand.map(({ promised: _, ...row }, at) => ({ ...row, promised: plan[at]!.schedule.map(({ date, quantity }) => ({ date, quantity })) })),
  });

  test('planned and uncovered add up to the quantity, and a plan of own supply can be kept: nothing of it is at risk', () => {
    fc.assert(
      fc.property(anyBook, stances, (any, chosen) => {
        const book = { ...any, items: any.items.map(({ id }) => ({ id })), demand: any.demand.map(plainPromises) };
        const plan = replan(book, (id) => chosen[Number(id.slice(1))]!);
        plan.forEach((line, at) => {
          const planned = line.schedule.reduce((sum, part) => sum + scaled(part.quantity), 0);
          expect(planned + scaled(line.uncovered)).toBe(scaled(book.demand[at]!.quantity));
        });
        if (book.supply.every((row) => row.for === undefined)) expect(promiseBook(asPromised(book, plan)).atRisk).toEqual([]);
      }),
    );
  });

  test('what a line would get alone is what it gets where it alone improves; trying changes nothing for the others', () => {
    fc.assert(
      fc.property(anyBook, stances, (book, chosen) => {
        const stanceOf = (id: string) => chosen[Number(id.slice(1))]!;
        const alone = replan(book, (id) => (stanceOf(id) === 'improve' ? 'alone' : stanceOf(id)));
        book.demand.forEach(({ id }, at) => {
          const single = replan(book, (other) => (other === id || stanceOf(other) !== 'improve' ? stanceOf(other) : 'hold'));
          expect(alone[at]).toEqual(single[at]);
        });
      }),
    );
  });

  test('where nothing is at risk, holding moves nothing and improving makes nobody later', () => {
    fc.assert(
      fc.property(anyBook, (any) => {
        const free = { ...any, items: any.items.map(({ id }) => ({ id })), supply: any.supply.map(({ for: _, ...row }) => row) };
        const orders = free.orders.map((order) => ({ ...order, shipComplete: false }));
        const book = { ...free, orders, demand: any.demand.map(plainPromises) };
        // What is promised is what can be: the answer of the engine itself.
        const promised = asPromised(book, promiseBook(book, 'resequence').promises as never);
        const before = replan(promised, hold);
        const after = replan(promised, () => 'improve');
        const days = (line: (typeof before)[number]) => line.schedule.map(({ date, quantity }) => [date, scaled(quantity)]);
        before.forEach((line, at) => {
          expect(days(line)).toEqual(promised.demand[at]!.promised.map(({ date, quantity }) => [date, scaled(quantity)]));
          const by = (plan: typeof line, day: string) => plan.schedule.filter((part) => part.date <= day).reduce((sum, part) => sum + scaled(part.quantity), 0);
          for (const { date } of [...line.schedule, ...after[at]!.schedule]) expect(by(after[at]!, date)).toBeGreaterThanOrEqual(by(line, date));
        });
      }),
    );
  });
});

function plainPromises<D extends { readonly promised?: readonly { readonly date: string; readonly quantity: number }[] }>(row: D): D {
  return row.promised ? { ...row, promised: row.promised.map(({ date, quantity }) => ({ date, quantity })) } : row;
}
