import fc from 'fast-check';
import { anyExpiringBook, onHand, simpleBook, wants } from '../../test/books';
import { served, suits, type SlowGoods, type SlowNeed } from '../../test/slow-shelf';
import { dayNumber, isoDay } from '../calendar';
import { OpenBook, promiseBook, type OrderBook } from './index';
import { Shelf } from './shelf';

const day = (offset: number) => isoDay(dayNumber('2027-03-01') + offset);
const goods = fc.record({ available: fc.nat(8), expires: fc.option(fc.nat(14)), quantity: fc.integer({ min: 1, max: 9 }) });
const need = fc.record({ day: fc.nat(10), life: fc.nat(4), quantity: fc.integer({ min: 1, max: 9 }) });

/** As the flow that is the measure has them. */
const slowGoods = (rows: readonly { available: number; expires: number | null; quantity: number }[]): SlowGoods[] =>
  rows.map((row) => ({ available: day(row.available), expires: row.expires === null ? null : day(row.expires), quantity: BigInt(row.quantity) }));
const slowNeeds = (rows: readonly { day: number; life: number; quantity: number }[]): SlowNeed[] =>
  rows.map((row) => ({ day: day(row.day), until: day(row.day + row.life), quantity: BigInt(row.quantity) }));

function shelfOf(rows: readonly { available: number; expires: number | null; quantity: number }[]): Shelf {
  const all = rows.map((row) => ({ ...row, expires: row.expires ?? Infinity }));
  const shelf = new Shelf(all);
  for (const row of all) shelf.join(row.available, row.expires, row.quantity);
  return shelf;
}

describe('a shelf', () => {
  test('has just so much to promise on each day, with each life, as the maximum flow gives beside all that is committed', () => {
    fc.assert(
      fc.property(fc.array(goods, { minLength: 1, maxLength: 7 }), fc.array(need, { maxLength: 7 }), (rows, needs) => {
        const shelf = shelfOf(rows);
        const committed: typeof needs = [];
        const all = rows.reduce((sum, row) => sum + row.quantity, 0);
        for (const one of needs) {
          const flow = served(slowGoods(rows), slowNeeds([...committed, { ...one, quantity: all }]));
          const there = Number(flow) - committed.reduce((sum, row) => sum + row.quantity, 0);
          expect(shelf.available(one.day, one.life)).toBe(there);
          const quantity = Math.min(one.quantity, there);
          if (quantity === 0) continue;
          shelf.commit(one.day, one.life, quantity);
          committed.push({ ...one, quantity });
          expect(shelf.isServed()).toBe(true);
        }
      }),
    );
  });

  test('serves of what is kept on its own days as much as the maximum flow', () => {
    fc.assert(
      fc.property(fc.array(goods, { minLength: 1, maxLength: 7 }), fc.array(need, { minLength: 1, maxLength: 7 }), (rows, needs) => {
        const shelf = shelfOf(rows);
        needs.forEach((one, at) => shelf.keep(at, at, one.day, one.life, one.quantity));
        const kept = needs.map((_, at) => shelf.keptOf(at)!);
        expect(kept.reduce((sum, one) => sum + one.served, 0)).toBe(Number(served(slowGoods(rows), slowNeeds(needs))));
      }),
    );
  });

  test('goods that join make nothing that is kept later', () => {
    const lastOf = (shelf: Shelf, at: number) => {
      const { day: own, quantity, served: now, moved } = shelf.keptOf(at)!;
      const all = now + moved.reduce((sum, part) => sum + part.quantity, 0);
      return { broken: quantity - all, last: Math.max(own, ...moved.map((part) => part.day)) };
    };
    fc.assert(
      fc.property(fc.array(goods, { minLength: 2, maxLength: 7 }), fc.array(need, { minLength: 1, maxLength: 5 }), (rows, needs) => {
        const [late, ...first] = rows.map((row) => ({ ...row, expires: row.expires ?? Infinity }));
        const shelf = new Shelf([late!, ...first]);
        for (const row of first) shelf.join(row.available, row.expires, row.quantity);
        needs.forEach((one, at) => shelf.keep(at, at, one.day, one.life, one.quantity));
        const before = needs.map((_, at) => lastOf(shelf, at));
        shelf.join(late!.available, late!.expires, late!.quantity);
        needs.forEach((_, at) => expect(lastOf(shelf, at).broken).toBeLessThanOrEqual(before[at]!.broken));
      }),
    );
  });
});

/** Every quantity of a book, whatever it was promised from. */
const scheduleOf = (book: OrderBook, mode: 'keep' | 'resequence') =>
  promiseBook(book, mode).promises.map(({ id, schedule, uncovered }) => ({ id, uncovered, schedule: schedule.map(({ from: _, ...entry }) => entry) }));

describe('goods that expire', () => {
  // Common practice, no source: what expires first goes first, what has expired is promised to nobody.
  test('go out first expired, first out, and never after their last day', () => {
    const book = simpleBook({
      supply: [
        { ...onHand(13, 'OLD'), expires: '2027-02-26' },
        { ...onHand(10, 'LATE'), expires: '2027-04-30' },
        { ...onHand(10, 'SOON'), expires: '2027-03-05' },
      ],
      demand: [wants('A', 12, '2027-03-02'), wants('B', 5, '2027-03-08'), wants('C', 9, '2027-03-08')],
    });
    const { promises } = promiseBook(book);
    expect(promises.map(({ schedule, uncovered }) => [schedule.map(({ from }) => from.map(({ supply, quantity }) => [supply, quantity])), uncovered])).toEqual([
      [
        [
          [
            ['SOON', 10],
            ['LATE', 2],
          ],
        ],
        0,
      ],
      [[[['LATE', 5]]], 0],
      [[[['LATE', 3]]], 6],
    ]);
  });

  // Common practice, no source: many customers ask for so many days of life on delivery.
  test('a customer who asks for life gets goods that have it', () => {
    const book = simpleBook({
      supply: [
        { ...onHand(10, 'SHORT'), expires: '2027-03-20' },
        { id: 'PO', item: 'JAR', warehouse: 'N', quantity: 10, date: '2027-03-09', expires: '2027-06-30' },
      ],
      demand: [wants('A', 10, '2027-03-02', { lifeDays: 30 }), wants('B', 10, '2027-03-02')],
    });
    expect(scheduleOf(book, 'keep').map(({ schedule }) => schedule.map(({ date, quantity }) => [date, quantity]))).toEqual([
      [['2027-03-09', 10]],
      [['2027-03-02', 10]],
    ]);
  });

  test('whose last days lie beyond every day are promised as goods that keep', () => {
    fc.assert(
      fc.property(anyExpiringBook, fc.constantFrom('keep' as const, 'resequence' as const), (book, mode) => {
        const far = { ...book, supply: book.supply.map((row) => (row.expires ? { ...row, expires: '2999-12-31' } : row)) };
        const keeps = { ...book, supply: book.supply.map(({ expires: _, ...row }) => row) };
        expect(scheduleOf(far, mode)).toEqual(scheduleOf(keeps, mode));
      }),
      { numRuns: 200 },
    );
  });

  test('nothing new makes a kept entry at risk or broken, and nothing is pegged to what it does not suit', () => {
    fc.assert(
      fc.property(anyExpiringBook, (book) => {
        const free = { ...book, supply: book.supply.filter((row) => row.for === undefined) };
        const sumOf = (row: (typeof book.demand)[number]) => (row.promised ?? []).reduce((sum, one) => sum + Math.round(one.quantity * 10_000), 0) / 10_000;
        const alone = { ...free, demand: free.demand.flatMap((row) => (sumOf(row) > 0 ? [{ ...row, quantity: sumOf(row) }] : [])) };
        expect(promiseBook(free).atRisk).toEqual(promiseBook(alone).atRisk);
        const { promises } = promiseBook(book);
        const supplies = new Map(book.supply.map((row) => [row.id, row]));
        promises.forEach(({ schedule }, at) => {
          for (const entry of schedule) {
            if (entry.assembled || entry.kept) continue;
            for (const { supply } of entry.from) {
              const { expires = null } = supplies.get(supply)!;
              const until = isoDay(dayNumber(entry.date) + (book.demand[at]!.lifeDays ?? 0));
              expect(suits({ available: '0000-01-01', expires }, { day: entry.date, until })).toBe(true);
            }
          }
        });
      }),
      { numRuns: 300 },
    );
  });

  test('tried on an open book are answered as the whole book is', () => {
    fc.assert(
      fc.property(anyExpiringBook, fc.constantFrom('keep' as const, 'resequence' as const), (book, mode) => {
        const last = book.demand[book.demand.length - 1]!;
        const { promised: _, ...demand } = last;
        const before = { ...book, demand: book.demand.slice(0, -1), supply: book.supply.filter((row) => row.for !== last.id) };
        const after = promiseBook({ ...before, demand: [...before.demand, demand] }, mode).promises;
        expect(new OpenBook(before, mode).try(demand).promise).toEqual(after[after.length - 1]);
      }),
      { numRuns: 200 },
    );
  });
});
