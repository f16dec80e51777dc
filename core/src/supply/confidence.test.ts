import fc from 'fast-check';
import { dayNumber, isoDay, workCalendar } from '../calendar';
import { ArrivalOdds, daysToSpare, latenessOf, safeDay } from './index';

const WEEK = { calendar: workCalendar([1, 2, 3, 4, 5], []), receivingDays: 1 };
const days = fc.array(fc.integer({ min: -3, max: 20 }), { maxLength: 30 }).map((list) => list.sort((a, b) => a - b));

describe('how late goods come', () => {
  test('a record is the days between the day given and the day they came', () => {
    expect(
      latenessOf([
        { promised: '2027-03-01', received: '2027-03-03' },
        { promised: '2027-03-01', received: '2027-02-26' },
      ]),
    ).toEqual([-3, 2]);
  });

  test('few receipts lean on all suppliers, many on their own: (n F + k G) / (n + k), by hand', () => {
    const all = [0, 0, 0, 0, 5, 5, 5, 5, 5, 5]; // 4 of 10 on time
    expect(new ArrivalOdds([], all, 10).within(0)).toBeCloseTo(0.4);
    expect(new ArrivalOdds([0, 0], all, 10).within(0)).toBeCloseTo((2 + 4) / 12);
    expect(new ArrivalOdds(Array<number>(90).fill(0), all, 10).within(0)).toBeCloseTo((90 + 4) / 100);
  });

  test('what has not come by now cannot have come before: the odds are those of the rest', () => {
    const odds = new ArrivalOdds([0, 0, 1, 4], [], 10);
    expect(odds.withinAfter(1, -5)).toBe(0.75);
    expect(odds.withinAfter(1, 1)).toBe(0.5); // of the two that were not there on the day, one came a day late
    expect(odds.withinAfter(9, 5)).toBe(0); // later than anything on record
    expect(odds.daysFor(0.9, 0)).toBe(4);
    expect(odds.daysFor(0.5, 0)).toBe(0);
    expect(odds.daysFor(0.5, 5)).toBeNull();
  });

  test('their spread is that of the supplier’s own record, in working days, and of all where there is too little of it', () => {
    // 0 and 7 days late: sample deviation √24.5 = 4.95 calendar days, five of seven of them working days.
    expect(new ArrivalOdds([0, 7], [0, 0]).deviation).toBeCloseTo((Math.sqrt(24.5) * 5) / 7);
    expect(new ArrivalOdds([9], [0, 7]).deviation).toBeCloseTo((Math.sqrt(24.5) * 5) / 7);
    expect(new ArrivalOdds([], []).deviation).toBe(0);
  });

  test('odds grow with the days, reach 1, and the day for a confidence is the least that has it', () => {
    fc.assert(
      fc.property(days, days, fc.integer({ min: -10, max: 5 }), fc.integer({ min: 1, max: 99 }), (own, all, waited, percent) => {
        fc.pre(own.length + all.length > 0);
        const odds = new ArrivalOdds(own, all);
        for (let day = -5; day < 22; day++) expect(odds.within(day + 1)).toBeGreaterThanOrEqual(odds.within(day));
        expect(odds.within(30)).toBeCloseTo(1);
        const found = odds.daysFor(percent / 100, waited);
        if (found === null) return expect(odds.withinAfter(30, waited)).toBe(0);
        expect(odds.withinAfter(found, waited)).toBeGreaterThanOrEqual(percent / 100 - 1e-9);
        expect(Math.max(0, odds.withinAfter(found - 1, waited))).toBeLessThan(percent / 100);
      }),
    );
  });
});

describe('how sure a promise is', () => {
  test('goods due on Monday, put away in a day, may be two days late for a promise on Thursday', () => {
    expect(daysToSpare('2027-03-15', '2027-03-18', WEEK)).toBe(2);
    expect(daysToSpare('2027-03-15', '2027-03-16', WEEK)).toBe(0);
    // Over a weekend: what comes on Saturday counts on Monday and leaves on Tuesday.
    expect(daysToSpare('2027-03-15', '2027-03-23', WEEK)).toBe(7);
    expect(daysToSpare('2027-03-15', '2027-03-15', WEEK)).toBe(-3);
  });

  test('the safe day is the first that holds as often as asked', () => {
    const odds = new ArrivalOdds([0, 0, 0, 0, 0, 0, 0, 0, 2, 7], []);
    const due = [{ expected: '2027-03-15', odds }];
    expect(safeDay(due, '2027-03-16', WEEK, '2027-03-09', 0.8)).toEqual({ holds: 0.8, safe: '2027-03-16' });
    expect(safeDay(due, '2027-03-16', WEEK, '2027-03-09', 0.9)).toEqual({ holds: 0.8, safe: '2027-03-18' });
    expect(safeDay(due, '2027-03-16', WEEK, '2027-03-09', 0.99).safe).toBe('2027-03-23');
  });

  test('two suppliers must both be in time', () => {
    const odds = new ArrivalOdds([0, 5], []);
    const both = ['2027-03-15', '2027-03-15'].map((expected) => ({ expected, odds }));
    expect(safeDay(both, '2027-03-16', WEEK, '2027-03-09', 0.9).holds).toBe(0.25);
  });
});

/** A supplier whose lateness is known: on time 7 times in 10, else 1 to 10 days late, all alike. Invented. */
const SHARE_ON_TIME = 0.7;
const drawLateness = (dice: () => number) => (dice() < SHARE_ON_TIME ? 0 : 1 + Math.floor(dice() * 10));

/** A plain generator of numbers from 0 to 1 (mulberry32), so that the table is the same on every machine. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** How often promises made at a confidence hold, on receipts drawn from a known distribution: the table of docs/promise.md. */
export function calibration(confidence: number, receipts: number, trials: number): number {
  const dice = seeded(Math.round(confidence * 1000) + receipts);
  const draw = (count: number) => Array.from({ length: count }, () => drawLateness(dice)).sort((a, b) => a - b);
  let held = 0;
  for (let trial = 0; trial < trials; trial++) {
    const odds = new ArrivalOdds(draw(receipts), draw(200));
    const allowed = odds.daysFor(confidence, -20)!;
    if (drawLateness(dice) <= allowed) held++;
  }
  return held / trials;
}

describe('promises hold as often as they say, on simulated receipts with a known distribution', () => {
  const TRIALS = 2000;
  test.each([0.75, 0.8, 0.85, 0.9, 0.95])('at %d', (confidence) => {
    for (const receipts of [3, 40]) {
      const share = calibration(confidence, receipts, TRIALS);
      // Days are whole, so a promise holds at least as often as asked, up to one day's share (3 in 100) more. Below: the
      // error of the estimate and of the count, three standard deviations of each at the smallest record.
      expect(share).toBeGreaterThanOrEqual(confidence - 0.035);
      expect(share).toBeLessThanOrEqual(confidence + 0.03 + 0.035);
    }
  });

  test('the allowance is the exact quantile once the record is long', () => {
    const dice = seeded(1);
    const odds = new ArrivalOdds(
      Array.from({ length: 20_000 }, () => drawLateness(dice)).sort((a, b) => a - b),
      [],
    );
    // P(late ≤ d) = 0.7 + 0.03 d: 90 % is reached 7 days late.
    expect(odds.daysFor(0.9, -20)).toBe(7);
    expect(isoDay(dayNumber('2027-03-15') + 7)).toBe('2027-03-22');
  });
});
