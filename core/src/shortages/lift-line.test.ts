import fc from 'fast-check';
import { minus, plus, sum } from '../money';
import { boundToLifted, leavingDays, liftLine, type Liftable, type RestsOn } from './lift-line';

const NOTHING = { waiting: '0', promises: [], slipped: [] };
const line: Liftable = {
  waiting: '5',
  promises: [
    { day: '2027-03-12', quantity: '4', leaves: '2027-03-12' },
    { day: '2027-03-12', quantity: '6', leaves: '2027-03-26' },
    { day: '2027-03-19', quantity: '10', leaves: '2027-03-19' },
    { day: '2027-03-17', quantity: '3', leaves: null },
  ],
  slipped: [{ id: 7, quantity: '8', leaves: '2027-03-30' }],
};

test.each<[string, string, object, object]>([
  ['2', '0', { ...NOTHING, waiting: '2' }, NOTHING],
  ['2', '3', { ...NOTHING, waiting: '2' }, { ...NOTHING, waiting: '3' }],
  ['8', '0', { ...NOTHING, waiting: '5', promises: [{ day: '2027-03-17', cut: '3' }] }, NOTHING],
  [
    '10',
    '9',
    { waiting: '5', promises: [{ day: '2027-03-17', cut: '3' }], slipped: [{ id: 7, cut: '2' }] },
    { ...NOTHING, slipped: [{ id: 7, cut: '6' }], promises: [{ day: '2027-03-12', cut: '3' }] },
  ],
])('of a line %s are lifted and %s waited for: what waits, what lost its supply, what leaves last', (lifts, keeps, lifted, kept) => {
  expect(liftLine(line, lifts, keeps)).toEqual({ ok: true, lifted, kept });
});

test('what comes in time is given up last, though it was told for a later day', () => {
  const result = liftLine(line, '22', '10');
  expect(result).toMatchObject({
    ok: true,
    lifted: { promises: [{ day: '2027-03-17' }, { day: '2027-03-12', cut: '6' }] },
    kept: { promises: [{ day: '2027-03-19', cut: '10' }] },
  });
});

test('more than is open is refused with the most there is', () => {
  expect(liftLine(line, '30', '6.5')).toEqual({ ok: false, most: '36' });
});

test('risks are of the day they were promised for; one that a book reads as another day is of the latest before it', () => {
  const promises = [
    { day: '2027-03-05', quantity: '4' },
    { day: '2027-03-12', quantity: '10' },
  ];
  expect(
    leavingDays(promises, [
      { day: '2027-03-12', quantity: '6', leaves: '2027-03-26' },
      { day: '2027-03-10', quantity: '3', leaves: null },
    ]),
  ).toEqual([
    { day: '2027-03-05', quantity: '1', leaves: '2027-03-05' },
    { day: '2027-03-12', quantity: '4', leaves: '2027-03-12' },
    { day: '2027-03-12', quantity: '6', leaves: '2027-03-26' },
    { day: '2027-03-05', quantity: '3', leaves: null },
  ]);
});

const quantity = fc.integer({ min: 1, max: 40 }).map((n) => String(n / 4));
const day = fc.integer({ min: 10, max: 28 }).map((n) => `2027-03-${n}`);
const anyLine = fc.record({
  waiting: fc.oneof(fc.constant('0'), quantity),
  promises: fc.array(fc.record({ day, quantity, leaves: fc.option(day) }), { maxLength: 5 }),
  slipped: fc.uniqueArray(fc.record({ id: fc.integer({ min: 1, max: 9 }), quantity, leaves: day }), { maxLength: 3, selector: (row) => row.id }),
});

test('all that is lifted and waited for is accounted for, and nothing that is promised is touched while something waits', () => {
  fc.assert(
    fc.property(anyLine, fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 400 }), (some, a, b) => {
      const [lifts, keeps] = [String(a / 4), String(b / 4)];
      const result = liftLine(some, lifts, keeps);
      const open = sum([some.waiting, ...some.promises.map((row) => row.quantity), ...some.slipped.map((row) => row.quantity)]);
      expect(result.ok).toBe(Number(lifts) + Number(keeps) <= Number(open));
      if (!result.ok) return;
      for (const [took, wanted] of [
        [result.lifted, lifts],
        [result.kept, keeps],
      ] as const)
        expect(Number(sum([took.waiting, ...took.promises.map((row) => row.cut), ...took.slipped.map((row) => row.cut)]))).toBe(Number(wanted));
      // Told days are given up only as far as they were told.
      for (const { day: told, cut } of result.lifted.promises)
        expect(Number(minus(sum(some.promises.filter((row) => row.day === told).map((row) => row.quantity)), plus(cut, '0')))).toBeGreaterThanOrEqual(0);
      if (Number(minus(some.waiting, plus(result.lifted.waiting, result.kept.waiting))) > 0)
        expect([...result.lifted.promises, ...result.kept.promises, ...result.lifted.slipped, ...result.kept.slipped]).toEqual([]);
    }),
  );
});

describe('what is bound to parts that go another way', () => {
  const rests: readonly RestsOn[] = [
    { supply: 'SHELF', bound: false, quantity: '8', leaves: '2027-03-12' },
    { supply: 'T1/1', bound: true, quantity: '4', leaves: '2027-03-12' },
    { supply: 'P1/1', bound: true, quantity: '6', leaves: '2027-03-26' },
    { supply: 'P2/1', bound: false, quantity: '3', leaves: '2027-03-30' },
    { supply: 'P1/1', bound: true, quantity: '1', leaves: '2027-03-19' },
  ];
  test.each<[string, string, string, [string, string][]]>([
    ['what leaves last goes first, also where anyone may have it', '0', '3', []],
    ['then what is bound', '0', '5', [['P1/1', '2']]],
    ['what has lost its supply goes before all', '2', '5', []],
    ['one supply twice', '0', '10', [['P1/1', '7']]],
    [
      'of one day what anyone may have goes first',
      '0',
      '19',
      [
        ['P1/1', '7'],
        ['T1/1', '1'],
      ],
    ],
    [
      'all of it',
      '9',
      '99',
      [
        ['P1/1', '7'],
        ['T1/1', '4'],
      ],
    ],
    ['nothing', '5', '0', []],
  ])('%s', (_, lost, lifts, freed) => expect([...boundToLifted(rests, lost, lifts)]).toEqual(freed));
});
