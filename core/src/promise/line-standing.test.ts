import { due, onHand, simpleBook, wants } from '../../test/books';
import { lineStandings, ordersThatTie } from './index';

const told = (...parts: readonly (readonly [string, number])[]) => ({ promised: parts.map(([date, quantity]) => ({ date, quantity })) });

test('what waits is short until the last of it could leave; without supply it has no day', () => {
  const book = simpleBook({
    supply: [onHand(4), due('2027-03-09', 3)],
    demand: [wants('A', 6, '2027-03-02'), wants('B', 5, '2027-03-02')],
  });
  expect(lineStandings(book).map((row) => row.short)).toEqual([
    [{ kind: 'waiting', quantity: 6, promisedDay: null, possibleDay: '2027-03-09' }],
    [{ kind: 'waiting', quantity: 5, promisedDay: null, possibleDay: null }],
  ]);
});

test('a promise whose goods come late is late, one whose goods are gone is broken; what is on hand for it can leave', () => {
  const book = simpleBook({
    supply: [onHand(4), due('2027-03-12', 3)],
    demand: [wants('A', 10, '2027-03-02', told(['2027-03-05', 4], ['2027-03-08', 6]))],
  });
  expect(lineStandings(book)).toEqual([
    {
      id: 'A/1',
      short: [
        { kind: 'late', quantity: 3, promisedDay: '2027-03-08', possibleDay: '2027-03-12' },
        { kind: 'broken', quantity: 3, promisedDay: '2027-03-08', possibleDay: null },
      ],
      onHand: 4,
      readyDay: '2027-03-05',
      whole: false,
    },
  ]);
});

test('a line that is promised in time is short of nothing; it is whole where all of it is on the shelf', () => {
  const book = simpleBook({ supply: [onHand(5), due('2027-03-03', 5)], demand: [wants('A', 5, '2027-03-02', told(['2027-03-02', 5]))] });
  expect(lineStandings(book)).toEqual([{ id: 'A/1', short: [], onHand: 5, readyDay: '2027-03-02', whole: true }]);
  const halves = simpleBook({ ...book, demand: [wants('A', 6, '2027-03-02', told(['2027-03-03', 6]))] });
  expect(lineStandings(halves)[0]).toMatchObject({ short: [], onHand: 5, whole: false });
});

test('a complete order ties its items together while a line of it waits, is late, or leaves on another day', () => {
  const book = (first: string | null, supply = [onHand(5), { id: 'L', item: 'LID', warehouse: 'N', quantity: 5 }]) =>
    simpleBook({
      items: [{ id: 'JAR' }, { id: 'LID' }],
      supply,
      orders: [{ id: 'A', entered: '2027-02-01T10:00', shipComplete: true }],
      demand: [
        wants('A', 5, '2027-03-02', first ? told([first, 5]) : {}),
        { id: 'A/2', order: 'A', item: 'LID', warehouse: 'N', quantity: 5, requested: '2027-03-02', ...told(['2027-03-08', 5]) },
      ],
    });
  const tie = (of: ReturnType<typeof book>) => [...ordersThatTie(of, lineStandings(of))];
  expect(tie(book('2027-03-08'))).toEqual([]);
  expect(tie(book('2027-03-05'))).toEqual(['A']);
  expect(tie(book(null))).toEqual(['A']);
  expect(tie(book('2027-03-08', [onHand(5)]))).toEqual(['A']);
  const loose = book(null);
  expect(tie({ ...loose, orders: [{ id: 'A', entered: '2027-02-01T10:00' }] })).toEqual([]);
});
