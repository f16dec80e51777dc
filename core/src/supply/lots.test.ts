import { takeLots, withLot, type LotGoods } from './lots';

const lots: readonly LotGoods[] = [
  { expires: null, quantity: '5' },
  { expires: '2027-05-01', quantity: '4' },
  { expires: '2027-03-01', quantity: '3' },
  { expires: '2027-04-01', quantity: '2' },
];

// Common practice, no source: first expired, first out; what has expired is not sold.
test('what expires first goes first, what keeps after it, what has expired last of all', () => {
  const order = (quantity: string) => takeLots(lots, quantity, '2027-03-09').taken.map(({ expires, quantity: part }) => [expires, part]);
  expect(order('3')).toEqual([
    ['2027-04-01', '2'],
    ['2027-05-01', '1'],
  ]);
  expect(order('12')).toEqual([
    ['2027-04-01', '2'],
    ['2027-05-01', '4'],
    [null, '5'],
    ['2027-03-01', '1'],
  ]);
});

test('what does not last long enough is passed over', () => {
  expect(takeLots(lots, '3', '2027-04-15').taken.map((lot) => lot.expires)).toEqual(['2027-05-01']);
});

test('what is left is what is not taken', () => {
  expect(takeLots(lots, '2', '2027-03-09').left.map(({ expires, quantity }) => [expires, quantity])).toEqual([
    ['2027-05-01', '4'],
    [null, '5'],
    ['2027-03-01', '3'],
  ]);
});

test('a lot joins those of its day, and goes where nothing of it is left', () => {
  expect(withLot(lots, '2027-04-01', '3')).toContainEqual({ expires: '2027-04-01', quantity: '5' });
  expect(withLot(lots, '2027-04-01', '-2').some((lot) => lot.expires === '2027-04-01')).toBe(false);
});
