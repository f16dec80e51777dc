import { due, onHand, simpleBook, wants } from '../../test/books';
import { resequence } from './index';

const told = (date: string, quantity: number) => ({ promised: [{ date, quantity }] });

test('the whole book anew: who gains and who loses, and how late it is before and after, by customer', () => {
  const book = simpleBook({
    supply: [onHand(10), due('2027-03-09', 10)],
    orders: [
      { id: 'A', priority: 5, entered: '2027-02-01T10:00' },
      { id: 'B', priority: 1, entered: '2027-02-02T10:00' },
      { id: 'C', priority: 9, entered: '2027-02-03T10:00' },
    ],
    demand: [wants('A', 10, '2027-03-01', told('2027-03-01', 10)), wants('B', 10, '2027-03-01', told('2027-03-09', 10)), wants('C', 4, '2027-03-01')],
  });
  const worth = new Map([
    ['A/1', { owner: 1, unitValue: 2 }],
    ['B/1', { owner: 2, unitValue: 3 }],
    ['C/1', { owner: 3, unitValue: 1 }],
  ]);
  const seen: number[] = [];
  const result = resequence(book, worth, (done) => seen.push(done));
  expect(result.earlier).toMatchObject([{ id: 'B/1', from: '2027-03-09', to: '2027-03-01', days: -8 }]);
  expect(result.later).toMatchObject([{ id: 'A/1', from: '2027-03-01', to: '2027-03-09', days: 8 }]);
  expect(result.before).toEqual({ lateLines: 1, lateDays: 8, lateValue: 30, withoutDay: 1 });
  expect(result.after).toEqual({ lateLines: 1, lateDays: 8, lateValue: 20, withoutDay: 1 });
  expect(result.owners.map((row) => [row.owner, row.before.lateValue, row.after.lateValue])).toEqual([
    [2, 30, 0],
    [1, 0, 20],
  ]);
  expect(seen.length).toBeGreaterThan(0);
});
