import fc from 'fast-check';
import { solve } from '../../test/solver';
import { chooseBins, type BinGoods } from './choose-bins';
import { allocate, type FreePlace, type PickWant } from './index';

const place = (id: number, bin: string, free: number, more: Partial<FreePlace> = {}): FreePlace => ({
  id,
  item: 'SYR',
  warehouse: 'MAR',
  bin,
  walk: id,
  lot: '',
  expires: null,
  free: String(free),
  ...more,
});
const want = (quantity: number, more: Partial<PickWant> = {}): PickWant => ({
  key: 1,
  item: 'SYR',
  warehouse: 'MAR',
  quantity: String(quantity),
  until: '2027-03-09',
  units: [],
  ...more,
});
const taken = (wants: readonly PickWant[], places: readonly FreePlace[]) => allocate(wants, places).taken.map((row) => [row.key, row.place, row.quantity]);

describe('first expiry, first out (common practice)', () => {
  const lots = [
    place(1, 'A', 10, { lot: 'L3', expires: '2027-12-31' }),
    place(2, 'B', 4, { lot: 'L1', expires: '2027-04-30' }),
    place(3, 'C', 4, { lot: 'L2', expires: '2027-06-30' }),
    place(4, 'D', 9, { lot: 'L0', expires: '2027-03-08' }),
  ];

  test('lots leave in the sequence of their last days; what has expired never does', () => {
    expect(taken([want(9)], lots)).toEqual([
      [1, 1, '1'],
      [1, 2, '4'],
      [1, 3, '4'],
    ]);
  });

  test('a customer who asks for so much life gets none that ends before', () => {
    expect(taken([want(6, { until: '2027-06-01' })], lots)).toEqual([
      [1, 1, '2'],
      [1, 3, '4'],
    ]);
  });

  test('a lot or bin chosen by hand is taken before any other line takes it; what it lacks is short', () => {
    expect(allocate([want(4), want(6, { key: 2, lot: 'L1' })], lots)).toEqual({
      taken: [
        { key: 2, place: 2, quantity: '4' },
        { key: 1, place: 3, quantity: '4' },
      ],
      short: [{ key: 2, quantity: '2' }],
    });
  });

  test('lines that ask for less life leave the longer one to those that need it', () => {
    const both = [want(4, { key: 1, until: '2027-03-09' }), want(4, { key: 2, until: '2027-06-01' })];
    expect(allocate(both, lots.slice(1, 3)).short).toEqual([]);
    expect(allocate([...both].reverse(), lots.slice(1, 3)).short).toEqual([]);
  });
});

test('whole handling units come first, then the fewest bins, then the nearest ones', () => {
  // 48 in trays of 24: two whole trays from B and C rather than 40 and 8 loose from A.
  const bins = [place(1, 'A', 23), place(2, 'B', 24), place(3, 'C', 30), place(4, 'D', 24)];
  expect(taken([want(48, { units: ['24'] })], bins)).toEqual([
    [1, 2, '24'],
    [1, 3, '24'],
  ]);
  expect(taken([want(20)], bins)).toEqual([[1, 1, '20']]);
});

test('quantities of four decimals add up exactly', () => {
  const result = allocate([want(0.3)], [place(1, 'A', 0.1), place(2, 'B', 0.2)]);
  expect(result).toEqual({
    taken: [
      { key: 1, place: 1, quantity: '0.1' },
      { key: 1, place: 2, quantity: '0.2' },
    ],
    short: [],
  });
});

const bins = fc.array(fc.record({ walk: fc.integer({ min: 1, max: 40 }), holds: fc.integer({ min: 0, max: 30 }) }), { minLength: 1, maxLength: 9 });
const cases = fc
  .tuple(bins, fc.integer({ min: 1, max: 120 }), fc.constantFrom(0, 4, 6, 12))
  .filter(([all, quantity]) => all.reduce((sum, bin) => sum + bin.holds, 0) >= quantity);

/** What taking so much from bins comes to: whole units, bins, sum of places on the walk. */
function measure(all: readonly BinGoods[], parts: readonly number[], unit: number) {
  return {
    whole: unit === 0 ? 0 : parts.reduce((sum, part) => sum + Math.floor(part / unit), 0),
    used: parts.filter((part) => part > 0).length,
    walk: all.reduce((sum, bin, at) => sum + (parts[at]! > 0 ? bin.walk : 0), 0),
  };
}

/** The same aims as a mixed integer program: each counts more than all that follow it together. */
async function optimum(all: readonly BinGoods[], quantity: number, unit: number) {
  const at = all.map((_, index) => index);
  const wholes = unit === 0 ? [] : at.map((index) => `- 1000000 w${index}`);
  const program = [
    'Minimize',
    ` cost: ${[...wholes, ...at.map((index) => `+ ${10_000 + all[index]!.walk} u${index}`)].join(' ')}`,
    'Subject To',
    ` all: ${at.map((index) => `t${index}`).join(' + ')} = ${quantity}`,
    ...at.map((index) => ` holds${index}: t${index} - ${all[index]!.holds} u${index} <= 0`),
    ...(unit === 0 ? [] : at.map((index) => ` unit${index}: ${unit} w${index} - t${index} <= 0`)),
    'General',
    ` ${[...at.map((index) => `t${index}`), ...(unit === 0 ? [] : at.map((index) => `w${index}`))].join(' ')}`,
    'Binary',
    ` ${at.map((index) => `u${index}`).join(' ')}`,
    'End',
  ].join('\n');
  const value = await solve(program);
  return {
    whole: unit === 0 ? 0 : at.reduce((sum, index) => sum + Math.round(value(`w${index}`)), 0),
    used: at.reduce((sum, index) => sum + Math.round(value(`u${index}`)), 0),
    walk: at.reduce((sum, index) => sum + (Math.round(value(`u${index}`)) === 1 ? all[index]!.walk : 0), 0),
  };
}

describe('which bins, against an exact solver (HiGHS)', () => {
  test('as many whole units, as few bins and as short a walk as there can be', async () => {
    await fc.assert(
      fc.asyncProperty(cases, async ([all, quantity, unit]) => {
        const parts = chooseBins(all, quantity, unit);
        expect(parts.reduce((sum, part) => sum + part, 0)).toBe(quantity);
        expect(parts.every((part, at) => part >= 0 && part <= all[at]!.holds)).toBe(true);
        expect(measure(all, parts, unit)).toEqual(await optimum(all, quantity, unit));
      }),
      { numRuns: 150 },
    );
  });
});

test('whatever is wanted: nothing is taken twice, nothing expired, and a line is short only where nothing that lasts is left', () => {
  const days = fc.constantFrom(null, '2027-03-01', '2027-03-20', '2027-05-01', '2027-09-01');
  const places = fc.array(fc.record({ free: fc.integer({ min: 0, max: 30 }), expires: days, walk: fc.integer({ min: 1, max: 9 }) }), { maxLength: 8 });
  const wants = fc.array(fc.record({ quantity: fc.integer({ min: 1, max: 40 }), until: fc.constantFrom('2027-03-09', '2027-04-15', '2027-08-01') }), {
    maxLength: 4,
  });
  fc.assert(
    fc.property(places, wants, (shelves, lines) => {
      const all = shelves.map(({ free, expires, walk }, at) => place(at, `B${at}`, free, { expires, walk, lot: `L${at}` }));
      const asked = lines.map(({ quantity, until }, key) => want(quantity, { key, until }));
      const { taken: parts, short } = allocate(asked, all);
      for (const row of all)
        expect(parts.filter((part) => part.place === row.id).reduce((sum, part) => sum + Number(part.quantity), 0)).toBeLessThanOrEqual(Number(row.free));
      for (const part of parts) {
        const { expires } = all[part.place]!;
        expect(expires === null || expires >= asked[part.key]!.until).toBe(true);
      }
      for (const line of asked) {
        const got = parts.filter((part) => part.key === line.key).reduce((sum, part) => sum + Number(part.quantity), 0);
        const missing = Number(short.find((row) => row.key === line.key)?.quantity ?? 0);
        expect(got + missing).toBe(Number(line.quantity));
        if (missing === 0) continue;
        const left = all
          .filter((row) => row.expires === null || row.expires >= line.until)
          .map((row) => Number(row.free) - parts.filter((part) => part.place === row.id).reduce((sum, part) => sum + Number(part.quantity), 0));
        expect(left.reduce((sum, free) => sum + free, 0)).toBe(0);
      }
    }),
  );
});
