import fc from 'fast-check';
import { dayNumber, workCalendar } from '../calendar';
import { formatResult, promiseBook, type OrderBook } from './index';
import { anyBook, due, onHand, simpleBook, wants } from '../../test/books';

const scheduleOf = (book: OrderBook, id: string, mode: 'keep' | 'resequence' = 'keep') =>
  promiseBook(book, mode)
    .promises.find((row) => row.id === id)!
    .schedule.map(({ date, quantity }) => [date, quantity]);

describe('available to promise, as the handbooks teach it (from memory)', () => {
  test('on hand 100 and orders of 80 before the next receipt leave 20 to promise before it', () => {
    const book = simpleBook({
      supply: [onHand(100), due('2027-03-10', 100)],
      demand: [wants('A', 80, '2027-03-03', { promised: [{ date: '2027-03-03', quantity: 80 }] }), wants('B', 30, '2027-03-04')],
    });
    expect(scheduleOf(book, 'B/1')).toEqual([
      ['2027-03-04', 20],
      ['2027-03-10', 10],
    ]);
  });

  test('a receipt of 100 against orders of 70 until the next leaves 30 in its bucket', () => {
    const book = simpleBook({
      supply: [due('2027-03-05', 100)],
      demand: [wants('A', 70, '2027-03-08', { promised: [{ date: '2027-03-08', quantity: 70 }] }), wants('B', 31, '2027-03-06')],
    });
    expect(scheduleOf(book, 'B/1')).toEqual([['2027-03-06', 30]]);
  });

  test('a bucket whose orders exceed its receipt takes the difference from the buckets before it', () => {
    const book = simpleBook({
      supply: [onHand(50), due('2027-03-10', 20)],
      demand: [wants('A', 45, '2027-03-12', { promised: [{ date: '2027-03-12', quantity: 45 }] }), wants('B', 50, '2027-03-02')],
    });
    // 45 against a receipt of 20: 25 come from what is on hand, so 25 of the 50 are left.
    expect(scheduleOf(book, 'B/1')).toEqual([['2027-03-02', 25]]);
  });
});

describe('facts of the trade (common practice, no source)', () => {
  test('a quantity asked for by Friday that inbound covers only on Sunday is offered for Sunday; the day asked for stays', () => {
    const book = simpleBook({ supply: [due('2027-03-07', 10)], demand: [wants('A', 10, '2027-03-05')] });
    const [promise] = promiseBook(book).promises;
    expect(promise).toMatchObject({ schedule: [{ date: '2027-03-07', quantity: 10 }], daysLate: 2 });
    expect(book.demand[0]!.requested).toBe('2027-03-05');
  });

  test('two orders want the last goods: the first keeps today; raising the second above it swaps their days', () => {
    const book = simpleBook({ supply: [onHand(10), due('2027-03-09', 10)], demand: [wants('A', 10, '2027-03-01'), wants('B', 10, '2027-03-01')] });
    expect([scheduleOf(book, 'A/1'), scheduleOf(book, 'B/1')]).toEqual([[['2027-03-01', 10]], [['2027-03-09', 10]]]);
    const raised = { ...book, orders: book.orders.map((order) => (order.id === 'B' ? { ...order, priority: 1 } : order)) };
    expect([scheduleOf(raised, 'A/1'), scheduleOf(raised, 'B/1')]).toEqual([[['2027-03-09', 10]], [['2027-03-01', 10]]]);
  });

  test('5 bought for an order of 3 leave 2; a second order of 4 gets 2, and 2 stay owed', () => {
    const supply = [{ ...due('2027-03-03', 5, 'PO1/1'), for: 'A/1' }];
    const book = simpleBook({ supply, demand: [wants('A', 3, '2027-03-03'), wants('B', 4, '2027-03-03')] });
    const result = promiseBook(book);
    expect(result.promises.map((row) => [row.schedule.map((entry) => entry.quantity), row.uncovered])).toEqual([
      [[3], 0],
      [[2], 2],
    ]);
  });

  test('a later promise is never robbed for an earlier one: ATP looks ahead', () => {
    const book = simpleBook({
      supply: [onHand(10)],
      demand: [wants('A', 8, '2027-03-20', { promised: [{ date: '2027-03-20', quantity: 8 }] }), wants('B', 5, '2027-03-02')],
    });
    expect(scheduleOf(book, 'B/1')).toEqual([['2027-03-02', 2]]);
  });
});

test('a promise kept on a purchase that slipped is at risk, with the day it comes; one without supply is broken', () => {
  const promised = (quantity: number) => ({ promised: [{ date: '2027-03-03', quantity }] });
  const late = simpleBook({ supply: [due('2027-03-12', 10)], demand: [wants('A', 10, '2027-03-03', promised(10))] });
  expect(promiseBook(late).atRisk).toEqual([{ id: 'A/1', date: '2027-03-03', quantity: 10, arrives: '2027-03-12' }]);
  const lost = simpleBook({ supply: [onHand(4)], demand: [wants('A', 10, '2027-03-03', promised(10))] });
  expect(promiseBook(lost).atRisk).toEqual([{ id: 'A/1', date: '2027-03-03', quantity: 6, arrives: null }]);
  expect(promiseBook(lost).orders).toEqual([{ id: 'A', date: null, waitingOn: ['A/1'] }]);
});

test('a promise that does not stand on what is bound keeps its goods from the pool, and what is bound comes for the later one', () => {
  const promised = [
    { date: '2027-03-12', quantity: 10, boundQuantity: 0 },
    { date: '2027-03-16', quantity: 5, boundQuantity: 5 },
  ];
  const demand = [wants('A', 15, '2027-03-10', { promised }), wants('B', 3, '2027-03-10')];
  const bought = { ...due('2027-03-16', 5), id: 'BOUND', for: 'A/1' };
  const book = simpleBook({ supply: [due('2027-03-12', 12), bought], demand });
  expect(promiseBook(book).atRisk).toEqual([]);
  expect(scheduleOf(book, 'B/1')).toEqual([['2027-03-12', 2]]);
  // Bought goods that slip are missed by whom they were bought for, and by nobody else.
  const slipped = simpleBook({ supply: [due('2027-03-12', 12), { ...bought, date: '2027-03-25' }], demand });
  expect(promiseBook(slipped).atRisk).toEqual([{ id: 'A/1', date: '2027-03-16', quantity: 5, arrives: '2027-03-25' }]);
  // Where it is not said, they stand for the earliest promise.
  const unsaid = demand.map((row) => ({ ...row, ...(row.promised ? { promised: row.promised.map(({ date, quantity }) => ({ date, quantity })) } : {}) }));
  expect(promiseBook({ ...book, demand: unsaid }).atRisk).toEqual([{ id: 'A/1', date: '2027-03-12', quantity: 5, arrives: '2027-03-16' }]);
});

test('an order that must leave complete waits for its last line, and its goods meanwhile serve nobody else', () => {
  const lines = [
    { id: 'A/1', order: 'A', item: 'JAR', warehouse: 'N', quantity: 5, requested: '2027-03-02' },
    { id: 'A/2', order: 'A', item: 'LID', warehouse: 'N', quantity: 5, requested: '2027-03-02' },
  ];
  const book = simpleBook({
    items: [{ id: 'JAR' }, { id: 'LID' }],
    supply: [onHand(5), { id: 'PO', item: 'LID', warehouse: 'N', quantity: 5, date: '2027-03-08' }],
    orders: [
      { id: 'A', entered: '2027-02-01T10:00', shipComplete: true },
      { id: 'B', entered: '2027-02-01T11:00' },
    ],
    demand: [...lines, wants('B', 1, '2027-03-02')],
  });
  expect([scheduleOf(book, 'A/1'), scheduleOf(book, 'A/2'), scheduleOf(book, 'B/1')]).toEqual([[['2027-03-08', 5]], [['2027-03-08', 5]], []]);
});

test('what own stock lacks is assembled, the components taken a day before', () => {
  const book = simpleBook({
    items: [{ id: 'HIVE', assembly: { days: 1, components: [{ item: 'BODY', quantity: 2 }] } }, { id: 'BODY' }],
    supply: [
      { id: 'H', item: 'HIVE', warehouse: 'N', quantity: 1 },
      { id: 'B', item: 'BODY', warehouse: 'N', quantity: 6 },
    ],
    demand: [{ id: 'A/1', order: 'A', item: 'HIVE', warehouse: 'N', quantity: 4, requested: '2027-03-03' }],
  });
  expect(promiseBook(book).promises[0]!.schedule).toEqual([
    { date: '2027-03-03', quantity: 1, kept: false, from: [{ supply: 'H', quantity: 1 }] },
    { date: '2027-03-03', quantity: 3, kept: false, assembled: true, from: [{ supply: 'B', quantity: 6 }] },
  ]);
});

describe('what must always hold', () => {
  const modes = fc.constantFrom('keep' as const, 'resequence' as const);
  const scaled = (quantity: number) => Math.round(quantity * 10_000);

  test('scheduled and uncovered add up to the quantity; the same book gives the same bytes', () => {
    fc.assert(
      fc.property(anyBook, modes, (book, mode) => {
        const result = promiseBook(book, mode);
        for (const [at, row] of result.promises.entries()) {
          const scheduled = row.schedule.reduce((sum, entry) => sum + scaled(entry.quantity), 0);
          expect(scheduled + scaled(row.uncovered)).toBe(scaled(book.demand[at]!.quantity));
        }
        expect(formatResult(promiseBook(JSON.parse(JSON.stringify(book)) as OrderBook, mode))).toBe(formatResult(result));
      }),
    );
  });

  test('no supply is pegged beyond its quantity, nor for a day it is not there, except at risk', () => {
    fc.assert(
      fc.property(anyBook, modes, (book, mode) => {
        const result = promiseBook(book, mode);
        const pegged = new Map<string, number>();
        for (const [at, row] of result.promises.entries()) {
          for (const entry of row.schedule) {
            for (const { supply, quantity } of entry.from) {
              pegged.set(supply, (pegged.get(supply) ?? 0) + scaled(quantity));
              const late = availableDay(book, supply) > dayNumber(entry.date);
              if (late) expect(result.atRisk.some((risk) => risk.id === book.demand[at]!.id && risk.date === entry.date)).toBe(true);
            }
          }
        }
        for (const supply of book.supply) expect(pegged.get(supply.id) ?? 0).toBeLessThanOrEqual(scaled(supply.quantity));
      }),
    );
  });

  test('a new promise makes nothing at risk that is not so with the kept promises alone', () => {
    fc.assert(
      fc.property(anyBook, (book) => {
        // The kept promises alone: every line is only as large as what was promised of it.
        const demand = book.demand.flatMap((row) => (row.promised ? [{ ...row, quantity: row.promised.reduce((sum, entry) => sum + entry.quantity, 0) }] : []));
        const supply = book.supply.filter((row) => row.for === undefined || demand.some((line) => line.id === row.for));
        const free = book.supply.every((row) => row.for === undefined);
        fc.pre(free);
        expect(promiseBook(book).atRisk).toEqual(promiseBook({ ...book, supply, demand }).atRisk);
      }),
    );
  });

  test('raising an order makes none of its lines later, in a book without bound supply', () => {
    const raised = fc.record({ book: anyBook, at: fc.nat(4) });
    fc.assert(
      fc.property(raised, modes, ({ book: any, at }, mode) => {
        const order = any.orders[at % any.orders.length]!;
        // As the law says: one line an item and warehouse, none of them a component of another, not ship-complete.
        const seen = new Set<string>();
        const demand = any.demand.filter((row) => row.order !== order.id || (!seen.has(row.item + row.warehouse) && seen.add(row.item + row.warehouse)));
        const items = any.items.map(({ id }) => ({ id }));
        const plain = demand.map(({ promised, ...row }) => (promised ? { ...row, promised: promised.map(({ date, quantity }) => ({ date, quantity })) } : row));
        const book = { ...any, items, demand: plain, supply: any.supply.map(({ for: _, ...row }) => row) };
        const with_ = (priority: number) => ({
          ...book,
          orders: book.orders.map((row) => (row.id === order.id ? { ...row, priority, shipComplete: false } : row)),
        });
        const before = promiseBook(with_(order.priority ?? 5), mode);
        const after = promiseBook(with_(-1e301), mode);
        book.demand.forEach((row, line) => {
          if (row.order !== order.id) return;
          expect(after.promises[line]!.daysLate ?? Infinity).toBeLessThanOrEqual(before.promises[line]!.daysLate ?? Infinity);
          expect(after.promises[line]!.uncovered).toBeLessThanOrEqual(before.promises[line]!.uncovered);
        });
      }),
    );
  });

  test('in resequence nothing is at risk: every promise is made on what there is', () => {
    fc.assert(fc.property(anyBook, (book) => expect(promiseBook(book, 'resequence').atRisk).toEqual([])));
  });
});

/** By the rules for dates, read again: arrival on a working day, then put away, never before the first ship day. */
function availableDay(book: OrderBook, supplyId: string): number {
  const supply = book.supply.find((row) => row.id === supplyId)!;
  const warehouse = book.warehouses.find((row) => row.id === supply.warehouse)!;
  const calendar = workCalendar(warehouse.workdays, (warehouse.closed ?? []).map(dayNumber));
  const today = dayNumber(book.asOf.slice(0, 10));
  const beforeCutoff = warehouse.cutoff === undefined || book.asOf.slice(11) < warehouse.cutoff;
  const first = calendar.isWorkingDay(today) && beforeCutoff ? today : calendar.ceil(today + 1);
  if (supply.date === undefined) return first;
  const arrival = dayNumber(supply.date) < today ? today + 1 : dayNumber(supply.date);
  return Math.max(first, calendar.offset(calendar.ceil(arrival), warehouse.receivingDays ?? 0));
}
