import type { OrderBook } from '../promise';
import { bookAfterLoss } from './index';

const supply = [
  { id: 'a', item: 'SYR', warehouse: 'MAR', quantity: 4, for: 'd1', expires: '2027-05-01' },
  { id: 'b', item: 'SYR', warehouse: 'MAR', quantity: 6, for: 'd1', expires: '2027-09-01' },
  { id: 'c', item: 'SYR', warehouse: 'MAR', quantity: 9 },
  { id: 'd', item: 'SYR', warehouse: 'MAR', quantity: 9, for: 'd1', date: '2027-03-20' },
];
const book = { supply } as unknown as OrderBook;
const left = (lost: number, expires: string | null = null) => bookAfterLoss(book, 'd1', lost, expires).supply.map((row) => [row.id, row.quantity]);

test('what is lost is taken off what is set aside for the line, of its lot first; free and inbound goods stay', () => {
  expect(left(5, '2027-09-01')).toEqual([
    ['a', 4],
    ['b', 1],
    ['c', 9],
    ['d', 9],
  ]);
  expect(left(8, '2027-09-01')).toEqual([
    ['a', 2],
    ['c', 9],
    ['d', 9],
  ]);
  expect(left(0.3, '2027-05-01')[0]).toEqual(['a', 3.7]);
});
