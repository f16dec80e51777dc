import { daysLate, firstShipDay, leavesAgain } from './index';

// Common practice, no source. 2027-03-09 is a Tuesday.
const weekdays = { workdays: [1, 2, 3, 4, 5], cutoff: '14:00' };

test.each([
  ['before the cut-off goods leave today', '2027-03-09T13:59', '2027-03-09'],
  ['from the cut-off on they leave on the next working day', '2027-03-09T14:00', '2027-03-10'],
  ['on Friday after it, on Monday', '2027-03-12T15:00', '2027-03-15'],
  ['at the weekend, on Monday, whatever the time', '2027-03-13T08:00', '2027-03-15'],
])('%s', (_, now, day) => expect(firstShipDay(weekdays, now)).toBe(day));

test('a day that is closed is passed over; without a cut-off a day lasts until midnight', () => {
  expect(firstShipDay({ ...weekdays, closed: ['2027-03-15'] }, '2027-03-12T15:00')).toBe('2027-03-16');
  expect(firstShipDay({ workdays: [1, 2, 3, 4, 5] }, '2027-03-09T23:59')).toBe('2027-03-09');
});

test.each([
  ['goods that come on a working day and need no putting away leave the same day', '2027-03-09', 0, '2027-03-09'],
  ['with a day of putting away, the next working day', '2027-03-12', 1, '2027-03-15'],
  ['what comes on Saturday is taken in on Monday, and put away on Tuesday', '2027-03-13', 1, '2027-03-16'],
])('%s', (_, comes, receivingDays, day) => expect(leavesAgain(comes, { ...weekdays, receivingDays })).toBe(day));

test('late is counted in calendar days; early is not late', () => {
  expect([daysLate('2027-03-12', '2027-03-15'), daysLate('2027-03-12', '2027-03-12'), daysLate('2027-03-12', '2027-03-10')]).toEqual([3, 0, 0]);
});
