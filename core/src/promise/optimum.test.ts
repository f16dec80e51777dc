import fc from 'fast-check';
import { due, onHand, simpleBook, wants } from '../../test/books';
import { optimumOf } from '../../test/optimum';
import { dayNumber, isoDay } from '../calendar';
import { promiseBook, type OrderBook } from './index';

const FIRST = dayNumber('2027-03-01');
const day = fc.integer({ min: 0, max: 12 }).map((offset) => isoDay(FIRST + offset));
const supply = fc.array(fc.record({ day, quantity: fc.integer({ min: 1, max: 20 }) }), { maxLength: 4 });
const lines = fc.array(fc.record({ day, quantity: fc.integer({ min: 1, max: 12 }) }), { minLength: 1, maxLength: 6 });

/** A book of one item whose orders have their turn as listed. */
function bookOf(supplies: readonly { day: string; quantity: number }[], demands: readonly { day: string; quantity: number }[], partial: boolean): OrderBook {
  return simpleBook({
    supply: [onHand(5), ...supplies.map((row, at) => due(row.day, row.quantity, `PO${at}`))],
    demand: demands.map((row, at) => wants(`O${String(at).padStart(2, '0')}`, row.quantity, row.day, { partial })),
  });
}

function served(book: OrderBook) {
  let [covered, lateness] = [0, 0];
  promiseBook(book, 'resequence').promises.forEach((row, at) => {
    const target = Math.max(FIRST, dayNumber(book.demand[at]!.requested));
    for (const entry of row.schedule) {
      covered += entry.quantity;
      lateness += entry.quantity * (dayNumber(entry.date) - target);
    }
  });
  return { covered, lateness };
}

const RUNS = { numRuns: 150 };

describe('small books of one item against the optimum of a linear program (HiGHS)', () => {
  test('lines in parts: as much is covered as can be, and nobody could be later in total than the optimum says', async () => {
    await fc.assert(
      fc.asyncProperty(supply, lines, async (supplies, demands) => {
        const book = bookOf(supplies, demands, true);
        const [ours, best] = [served(book), await optimumOf(book, false)];
        expect(ours.covered).toBe(best.covered);
        expect(ours.lateness).toBeGreaterThanOrEqual(best.lateness);
      }),
      RUNS,
    );
  });

  test('lines in parts, all covered, whose turn comes in the order of the days asked for: the optimum itself', async () => {
    await fc.assert(
      fc.asyncProperty(supply, lines, async (supplies, demands) => {
        const wanted = demands.reduce((sum, row) => sum + row.quantity, 0);
        const enough = [...supplies, { day: '2027-03-20', quantity: wanted }];
        const book = bookOf(
          enough,
          [...demands].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0)),
          true,
        );
        expect(served(book)).toEqual(await optimumOf(book, false));
      }),
      RUNS,
    );
  });

  test('lines that leave whole: never more than the optimum of the integer program', async () => {
    await fc.assert(
      fc.asyncProperty(supply, lines, async (supplies, demands) => {
        const book = bookOf(supplies, demands, false);
        const [ours, best] = [served(book), await optimumOf(book, true)];
        expect(ours.covered).toBeLessThanOrEqual(best.covered);
        if (ours.covered === best.covered) expect(ours.lateness).toBeGreaterThanOrEqual(best.lateness);
      }),
      RUNS,
    );
  });

  test('the optimum is one to the last day: a solver that stops near it would be a poor judge', async () => {
    const quantities = [
      ['2027-03-04', 1],
      ['2027-03-02', 1],
      ['2027-03-03', 2],
      ['2027-03-01', 5],
      ['2027-03-01', 1],
    ] as const;
    const book = bookOf(
      [],
      quantities.map(([date, quantity]) => ({ day: date, quantity })),
      false,
    );
    expect(await optimumOf(book, true)).toEqual({ covered: 5, lateness: 0 });
  });

  // The examples of docs/promise.md.
  test('an earlier turn keeps its day though another would be served better: that is what a turn is', async () => {
    const book = simpleBook({ supply: [onHand(5), due('2027-03-08', 5)], demand: [wants('A', 5, '2027-03-05'), wants('B', 5, '2027-03-01')] });
    expect(served(book)).toEqual({ covered: 10, lateness: 5 * 7 });
    expect(await optimumOf(book, false)).toEqual({ covered: 10, lateness: 5 * 3 });
  });

  test('a small line that leaves whole can take what a larger one behind it would have needed', async () => {
    const book = simpleBook({
      supply: [onHand(10)],
      demand: [wants('A', 3, '2027-03-01', { partial: false }), wants('B', 10, '2027-03-01', { partial: false })],
    });
    expect(served(book).covered).toBe(3);
    expect((await optimumOf(book, true)).covered).toBe(10);
  });
});
