import { workCalendar } from '../calendar';
import { due, onHand, simpleBook, wants } from '../../test/books';
import { promiseBook, type OrderBook } from '../promise';
import { SupplierOdds } from '../supply';
import { howSure, linePromise, requestedShipDay, type SchedulePart, type SupplyInfo } from './index';

const ODDS = new SupplierOdds(new Map([['GLASS', [0, 0, 0, 0, 0, 0, 0, 0, 4, 4]]]), []);

function infoOf(book: OrderBook): ReadonlyMap<string, SupplyInfo> {
  return new Map(
    book.supply.map(({ id, date }) => [
      id,
      {
        label: date ? `purchase ${id}` : 'on hand',
        purchase: date ? 7 : null,
        cost: null,
        days: '',
        awaited: date ? { supplier: 'GLASS', supplierName: 'Glass works', expected: date } : null,
      },
    ]),
  );
}

/** The promise of the first line of a book, told; the line asks for the 3rd. */
function told(book: OrderBook, more: Partial<Parameters<typeof linePromise>[0]> = {}) {
  const result = promiseBook(book);
  return linePromise({
    demand: book.demand[0]?.id,
    promise: result.promises[0],
    atRisk: result.atRisk,
    item: 'JAR',
    asked: { day: '2027-03-03', deliverBy: false, transitDays: 1 },
    warehouse: { name: 'Marrowby', book: book.warehouses[0]! },
    open: String(book.demand[0]?.quantity ?? 0),
    shipped: '0',
    dropShips: [],
    dropShippers: new Map(),
    book,
    supplies: infoOf(book),
    localTime: book.asOf,
    sureness: { odds: ODDS, sure: 90 },
    ...more,
  });
}

test('from the shelf: covered, sure, and nothing to add', () => {
  const line = told(simpleBook({ supply: [onHand(10)], demand: [wants('A', 4, '2027-03-03')] }));
  expect(line).toMatchObject({
    state: 'covered',
    stateWords: 'covered',
    stateDays: 'Wed 3 Mar',
    holds: 100,
    safeDay: '2027-03-03',
    holdsWords: '',
    uncovered: '0',
  });
  expect(line.why).toEqual(['Requested to ship from Marrowby by Wed 3 Mar.']);
  expect(line.spoken).toBe('All 4 leave on Wednesday the 3rd.');
});

test('a promise at risk says when its goods really come, and is late by that day', () => {
  const promised = [{ date: '2027-03-03', quantity: 4 }];
  const line = told(simpleBook({ supply: [due('2027-03-09', 10)], demand: [wants('A', 4, '2027-03-03', { promised })] }));
  expect(line.schedule[0]).toMatchObject({ day: '2027-03-03', kept: true, arrives: '2027-03-09', broken: false });
  expect(line).toMatchObject({ state: 'late', stateWords: 'late', stateDays: 'Tue 9 Mar', daysLate: 6 });
  expect(line.ticks).toEqual([{ day: '2027-03-09', quantity: '10', label: 'purchase PO-2027-03-09' }]);
});

test('a promise whose supply is gone is no promise', () => {
  const line = told(simpleBook({ supply: [], demand: [wants('A', 4, '2027-03-03', { promised: [{ date: '2027-03-03', quantity: 4 }] })] }));
  expect(line).toMatchObject({ state: 'uncovered', stateWords: '4 lost their supply', daysLate: null });
  expect(line.spoken).toBe('Nothing is left to send.');
});

test('what has no cover is told with what has', () => {
  const line = told(simpleBook({ supply: [onHand(3)], demand: [wants('A', 4, '2027-03-03')] }));
  expect(line).toMatchObject({ state: 'uncovered', stateWords: '1 backordered', stateDays: 'Wed 3 Mar', uncovered: '1' });
  expect(line.why[1]).toBe('No supply yet for 1: nothing on hand or inbound is available.');
});

test('what the supplier ships stands among the days, and can make the line late', () => {
  const part: SchedulePart = {
    day: '2027-03-05',
    quantity: '6',
    kept: true,
    dropShip: true,
    arrives: null,
    broken: false,
    holds: 80,
    safeDay: '2027-03-09',
    from: [{ quantity: '6', label: 'Glass works ships', purchase: 9, days: '' }],
  };
  const book = simpleBook({ supply: [onHand(4)], demand: [wants('A', 4, '2027-03-03')] });
  const line = told(book, { dropShips: [part], dropShippers: new Map([['GLASS', 'Glass works']]), open: '10' });
  expect(line.schedule.map((entry) => [entry.day, entry.dropShip])).toEqual([
    ['2027-03-03', false],
    ['2027-03-05', true],
  ]);
  expect(line).toMatchObject({ state: 'late', daysLate: 2, holds: 80, safeDay: '2027-03-09' });
  expect(line.holdsWords).toBe('Confidence 80 %; 90 % by Tue 9 Mar. Glass works, by 10 receipts.');
});

test('nothing of it is open any more: shipped or cancelled', () => {
  const book = simpleBook({ supply: [], demand: [wants('A', 1, '2027-03-03')] });
  const gone = { demand: undefined, promise: undefined, open: '0' };
  expect(told(book, { ...gone, shipped: '4' })).toMatchObject({ state: 'done', stateWords: 'shipped', why: [], spoken: 'Nothing of this line is open.' });
  expect(told(book, gone)).toMatchObject({ state: 'done', stateWords: 'cancelled' });
});

test.each([
  ['2027-03-01T14:00', ': the cut-off of 14:00 has passed', 'Tue 2 Mar'],
  ['2027-03-06T09:00', ', the next working day', 'Mon 8 Mar'],
])('at %s nothing can leave today, and why', (asOf, why, day) => {
  const base = simpleBook({ asOf, supply: [onHand(4)], demand: [wants('A', 4, '2027-03-03')] });
  const book = { ...base, warehouses: [{ id: 'N', workdays: [1, 2, 3, 4, 5], cutoff: '14:00' }] };
  expect(told(book).why[1]).toBe(`Nothing can ship from Marrowby before ${day}${why}.`);
});

test('a delivery day is run back over the carrier’s week, a ship day is what it is', () => {
  expect(requestedShipDay({ day: '2027-03-08', deliverBy: true, transitDays: 1 })).toBe('2027-03-05');
  expect(requestedShipDay({ day: '2027-03-07', deliverBy: true, transitDays: 1 })).toBe('2027-03-04');
  expect(requestedShipDay({ day: '2027-03-07', deliverBy: false, transitDays: 1 })).toBe('2027-03-07');
});

test('a supplier without a record is as suppliers are in general, and records survive being sent as counts', () => {
  const odds = new SupplierOdds(new Map([['GLASS', [0, 0, 3]]]), [0, 0, 3, 5]);
  const sent = SupplierOdds.fromCounts(odds.counts(['GLASS', 'NEW']));
  for (const supplier of ['GLASS', 'NEW', 'OTHER'])
    for (const days of [-1, 0, 2, 3, 5]) expect(sent.of(supplier).within(days)).toBe(odds.of(supplier).within(days));
  expect(odds.of('NEW').within(3)).toBe(0.75);
  const awaited = { supplier: 'NEW', supplierName: 'New', expected: '2027-03-03' };
  const dock = { calendar: workCalendar([1, 2, 3, 4, 5, 6, 7], []), receivingDays: 0 };
  expect(howSure([{ label: '', purchase: null, cost: null, days: '', awaited }], '2027-03-03', { odds, dock, today: '2027-03-01', sure: 90 })).toEqual({
    holds: 50,
    safeDay: '2027-03-08',
  });
});
