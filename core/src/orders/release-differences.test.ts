import { releaseDifferences, type WouldBePromised } from './release-differences';

const line = (more: Partial<WouldBePromised>): WouldBePromised => ({
  lineNo: 1,
  item: 'JAR',
  alternative: false,
  schedule: [{ day: '2027-03-12', arrives: null }],
  uncovered: '0',
  daysLate: 0,
  ...more,
});

test('a line that leaves when it is requested differs in nothing', () => {
  expect(releaseDifferences([line({})])).toEqual([]);
});

test('what leaves later is told with its last day, also where a supply arrives after its day', () => {
  const parts = [
    { day: '2027-03-12', arrives: '2027-03-18' },
    { day: '2027-03-15', arrives: null },
  ];
  expect(releaseDifferences([line({ lineNo: 2, schedule: parts, daysLate: 6 })])).toEqual([
    { kind: 'late', lineNo: 2, item: 'JAR', day: '2027-03-18', daysLate: 6 },
  ]);
});

test('what has no day is told as short, however early the rest is', () => {
  expect(releaseDifferences([line({ uncovered: '30', daysLate: null })])).toEqual([{ kind: 'short', lineNo: 1, item: 'JAR', quantity: '30' }]);
  expect(releaseDifferences([line({ alternative: true, uncovered: '30' })])).toEqual([]);
});
