import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { simpleBook, wants } from '../../test/books';
import { compileBook } from './index';

test('columns do not hold the objects they were read from: a book of a million rows would stay in memory twice', async () => {
  const rows: WeakRef<object>[] = [];
  const compile = () => {
    const book = simpleBook({ supply: [], demand: [wants('A', 4, '2027-03-01')] });
    rows.push(new WeakRef(book.demand[0]!), new WeakRef(book));
    return compileBook(book);
  };
  const columns = compile();
  // What was looked at through a weak reference lives until the end of the turn.
  await new Promise((resolve) => setTimeout(resolve));
  setFlagsFromString('--expose-gc');
  (runInNewContext('gc') as () => void)();
  expect(rows.map((row) => row.deref())).toEqual([undefined, undefined]);
  expect(columns.lineIds).toEqual(['A/1']);
});

test('promised entries of one day are one entry, and the columns end with the last of them', () => {
  const promised = ['2027-03-02', '2027-03-01', '2027-03-02'].map((date) => ({ date, quantity: 1 }));
  const { promisedFrom, promisedDay, promisedQuantity } = compileBook(simpleBook({ supply: [], demand: [wants('A', 4, '2027-03-01', { promised })] }));
  expect([...promisedFrom]).toEqual([0, 2]);
  expect(promisedDay).toHaveLength(2);
  expect([...promisedQuantity]).toEqual([1, 2]);
});

test('what of promises of one day stands on bound goods is one quantity; one that does not say stands on them whole', () => {
  const promised = [
    { date: '2027-03-02', quantity: 2, boundQuantity: 0.5 },
    { date: '2027-03-01', quantity: 1 },
    { date: '2027-03-02', quantity: 1 },
  ];
  const { promisedBound, scale } = compileBook(simpleBook({ supply: [], demand: [wants('A', 4, '2027-03-01', { promised })] }));
  expect([...promisedBound!].map((quantity) => quantity / scale)).toEqual([1, 1.5]);
  expect(compileBook(simpleBook({ supply: [], demand: [wants('A', 4, '2027-03-01', { promised: promised.slice(1) })] })).promisedBound).toBeNull();
});
