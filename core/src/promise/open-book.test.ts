import fc from 'fast-check';
import { anyBook, onHand, simpleBook, wants } from '../../test/books';
import { OpenBook, promiseBook, type BookDemand, type DemandPromise, type OrderBook } from './index';

const modes = fc.constantFrom('keep' as const, 'resequence' as const);

/** What a trial must answer, by promising the whole book twice. */
function tryAnew(book: OrderBook, demand: BookDemand, mode: 'keep' | 'resequence') {
  const before = promiseBook(book, mode).promises;
  const after = promiseBook({ ...book, demand: [...book.demand, demand] }, mode).promises;
  const changed = before
    .map((row, at) => ({ id: row.id, before: days(row), after: days(after[at]!) }))
    .filter((row) => JSON.stringify(row.before) !== JSON.stringify(row.after));
  return { promise: after[after.length - 1]!, changed };
}

function days({ schedule }: DemandPromise) {
  const byDay = new Map<string, number>();
  for (const entry of schedule) byDay.set(entry.date, (byDay.get(entry.date) ?? 0) + Math.round(entry.quantity * 10_000));
  return [...byDay].map(([date, quantity]) => ({ date, quantity: quantity / 10_000 }));
}

test('a trial answers what promising the whole book before and after would', () => {
  fc.assert(
    fc.property(anyBook, modes, fc.nat(), (book, mode, pick) => {
      // The last line of the book is taken out and tried: it belongs behind the lines of its order, as a trial does.
      const last = book.demand[book.demand.length - 1]!;
      const { promised: _, ...demand } = { ...last, quantity: (pick % 30) + 1 };
      const before = { ...book, demand: book.demand.slice(0, -1), supply: book.supply.filter((row) => row.for !== last.id) };
      const trial = new OpenBook(before, mode).try(demand);
      const anew = tryAnew(before, demand, mode);
      expect(trial.promise).toEqual(anew.promise);
      expect(trial.changed).toEqual(anew.changed);
    }),
    { numRuns: 400 },
  );
});

test('one open book answers many trials, each as if it were the only one', () => {
  const book = simpleBook({ supply: [onHand(10)], demand: [wants('A', 4, '2027-03-01'), wants('B', 1, '2027-03-01')] });
  const open = new OpenBook(book, 'resequence');
  const more = (quantity: number) => open.try(wants('A', quantity, '2027-03-01', { id: 'A/2' }));
  expect(more(5).promise.uncovered).toBe(0);
  expect(more(6).changed).toEqual([{ id: 'B/1', before: [{ date: '2027-03-01', quantity: 1 }], after: [] }]);
  expect(more(5).changed).toEqual([]);
});

test('a fraction tried on a book of whole units changes only what it changes', () => {
  const book = simpleBook({ supply: [onHand(10)], demand: [wants('A', 4, '2027-03-01'), wants('B', 6, '2027-03-01'), wants('C', 1, '2027-03-01')] });
  const open = new OpenBook(book);
  const { promise, changed } = open.try(wants('A', 0.5, '2027-03-01', { id: 'A/2' }));
  expect(promise.schedule.map((entry) => entry.quantity)).toEqual([0.5]);
  expect(changed).toEqual([{ id: 'B/1', before: [{ date: '2027-03-01', quantity: 6 }], after: [{ date: '2027-03-01', quantity: 5.5 }] }]);
});
