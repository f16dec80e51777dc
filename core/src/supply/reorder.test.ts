import fc from 'fast-check';
import { demandOf, economicQuantity, reorderPoint, scorecardOf, SERVICE_LEVELS, type ServiceLevel } from './index';

/** The distribution function of the standard normal distribution: Abramowitz and Stegun, Handbook of Mathematical Functions, 26.2.17. */
function normal(z: number): number {
  const t = 1 / (1 + 0.2316419 * z);
  const tail = t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return 1 - (Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)) * tail;
}

describe('when to buy', () => {
  test.each(Object.entries(SERVICE_LEVELS))('z of %s percent is the quantile of the normal distribution', (percent, z) => {
    expect(normal(z)).toBeCloseTo(Number(percent) / 100, 3);
  });

  test('a fixed lead time: d·L + z·σ·√L, by hand', () => {
    // 20 a day, deviation 5, nine days, 95 %: 180 + 1.645 · 5 · 3 = 204.675.
    const { expected, safety, point } = reorderPoint({ perDay: 20, deviation: 5 }, { days: 9, deviation: 0 }, '95');
    expect(expected).toBe(180);
    expect(safety).toBeCloseTo(24.675, 6);
    expect(point).toBeCloseTo(204.675, 6);
  });

  test('a lead time that varies adds what is asked for in the days it may be longer', () => {
    // √(9 · 5² + 20² · 2²) = √1825 = 42.72; · 1.645 = 70.27.
    expect(reorderPoint({ perDay: 20, deviation: 5 }, { days: 9, deviation: 2 }, '95').safety).toBeCloseTo(70.275, 2);
  });

  test('steady demand needs no safety; more service, longer or less certain times never need less', () => {
    expect(reorderPoint({ perDay: 3, deviation: 0 }, { days: 4, deviation: 0 }, '99')).toEqual({ expected: 12, safety: 0, point: 12 });
    const levels = (Object.keys(SERVICE_LEVELS) as ServiceLevel[]).sort((a, b) => Number(a) - Number(b));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 0, max: 200 }), fc.integer({ min: 0, max: 60 }), (d, s, l) => {
        const at = (level: ServiceLevel, more = 0, spread = 0) => reorderPoint({ perDay: d, deviation: s }, { days: l + more, deviation: spread }, level).point;
        for (const [place, level] of levels.entries()) if (place > 0) expect(at(level)).toBeGreaterThanOrEqual(at(levels[place - 1]!));
        expect(at('95', 1)).toBeGreaterThanOrEqual(at('95'));
        expect(at('95', 0, 3)).toBeGreaterThanOrEqual(at('95'));
      }),
    );
  });

  test('demand of a day has the mean and deviation of the sample, days without any among it', () => {
    // The worked sample of many textbooks: 2 4 4 4 5 5 7 9 has mean 5 and squares of 32; 32 / 7 for a sample.
    expect(demandOf([2, 4, 4, 4, 5, 5, 7, 9])).toEqual({ perDay: 5, deviation: Math.sqrt(32 / 7) });
    expect(demandOf([0, 0, 6, 0])).toEqual({ perDay: 1.5, deviation: 3 });
    expect(demandOf([])).toEqual({ perDay: 0, deviation: 0 });
    expect(demandOf([4])).toEqual({ perDay: 4, deviation: 0 });
  });
});

describe('how much', () => {
  test('the economic quantity, by hand', () => {
    // 4 a day for 250 days, 50 an order, 20 % of 10: √(2 · 1000 · 50 / 2) = 223.6.
    expect(economicQuantity(4, 10, { order: 50, holdingPercent: 20 })).toBeCloseTo(223.607, 3);
    expect(economicQuantity(0, 10, { order: 50, holdingPercent: 20 })).toBe(0);
    expect(economicQuantity(4, 10, { order: 50, holdingPercent: 0 })).toBe(0);
  });

  test('no other quantity costs less to order and hold', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 1, max: 200 }), fc.double({ min: 0.1, max: 10, noNaN: true }), (perDay, cost, factor) => {
        const costs = { order: 40, holdingPercent: 25 };
        const year = (quantity: number) => (perDay * 250 * costs.order) / quantity + (quantity / 2) * cost * 0.25;
        const best = economicQuantity(perDay, cost, costs);
        expect(year(best * factor)).toBeGreaterThanOrEqual(year(best) - 1e-6);
      }),
    );
  });
});

describe('a supplier’s scorecard', () => {
  const record = (promised: string, received: string) => ({ promised, received });

  test('on time, mean, median, the worst tenth and the months, by hand', () => {
    const card = scorecardOf([
      record('2027-01-11', '2027-01-11'),
      record('2027-01-18', '2027-01-17'),
      record('2027-01-25', '2027-02-01'),
      record('2027-02-08', '2027-02-10'),
    ]);
    expect(card).toEqual({
      receipts: 4,
      onTimePercent: 50,
      meanDays: 2,
      medianDays: 0,
      worstTenthDays: 7,
      spread: [
        { days: -1, receipts: 1 },
        { days: 0, receipts: 1 },
        { days: 2, receipts: 1 },
        { days: 7, receipts: 1 },
      ],
      months: [
        { month: '2027-01', receipts: 2, onTimePercent: 100 },
        { month: '2027-02', receipts: 2, onTimePercent: 0 },
      ],
    });
  });

  test('nothing is said of a supplier from whom nothing has come', () => {
    expect(scorecardOf([])).toEqual({ receipts: 0, onTimePercent: null, meanDays: null, medianDays: null, worstTenthDays: null, spread: [], months: [] });
  });
});
