import { stackedByDay } from './stacked-by-day';

it('stacks what leaves on one day downwards and what comes upwards, each day from 0', () => {
  const steps = [
    { day: '2027-03-15', change: '8' },
    { day: '2027-03-15', change: '-4' },
    { day: '2027-03-15', change: '-3' },
    { day: '2027-03-16', change: '-2' },
  ];
  expect(stackedByDay(steps).map(({ from, to }) => [from, to])).toEqual([
    [0, 8],
    [0, -4],
    [-4, -7],
    [0, -2],
  ]);
});
