import { dropMoves, type DroppedChange } from './drop-moves';

// 2027-03-09 is a Tuesday.
const TODAY = '2027-03-09';
const change = (more: Partial<DroppedChange> = {}): DroppedChange => ({ line: 1, told: '2027-03-11', open: '10', day: '2027-03-11', left: '10', ...more });
const moved = (...changes: DroppedChange[]) =>
  dropMoves(changes, TODAY).map(({ line, after }) => [line, ...after.map(({ day, quantity }) => `${quantity} ${day}`)]);

test('a drop shipment that leaves as told moves nobody', () => {
  expect(moved(change())).toEqual([]);
});

test('one that leaves later or earlier moves its own customer, whole', () => {
  expect(moved(change({ day: '2027-03-18' }), change({ line: 2, day: '2027-03-10' }))).toEqual([
    [1, '10 2027-03-18'],
    [2, '10 2027-03-10'],
  ]);
});

test('what is not sent any more has no day; a part of it stays with its day', () => {
  expect(moved(change({ left: '0' }))).toEqual([[1]]);
  expect(moved(change({ left: '4' }))).toEqual([[1, '4 2027-03-11']]);
});

test('two shipments of one line are one promise of two days', () => {
  expect(moved(change({ day: '2027-03-25', open: '6', left: '6' }), change({ open: '4', left: '4' }))).toEqual([[1, '4 2027-03-11', '6 2027-03-25']]);
});

test('a day that has passed is the next on which carriers drive', () => {
  expect(moved(change({ day: '2027-03-01' }))).toEqual([[1, '10 2027-03-09']]);
});
