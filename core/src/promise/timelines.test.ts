import fc from 'fast-check';
import { Timelines } from './timelines';

/** PA and ATP read off a plain list of changes, day by day. */
function slowTimeline() {
  const changes: { day: number; quantity: number }[] = [];
  const projected = (day: number) => changes.filter((change) => change.day <= day).reduce((sum, change) => sum + change.quantity, 0);
  const available = (day: number) => Math.max(0, Math.min(...[day, ...changes.map((change) => change.day).filter((other) => other >= day)].map(projected)));
  return {
    supply: (day: number, quantity: number) => void changes.push({ day, quantity }),
    commit: (day: number, quantity: number) => void changes.push({ day, quantity: -quantity }),
    available,
    firstDay: (from: number, quantity: number) => {
      const days = [from, ...changes.map((change) => change.day).filter((day) => day > from)].sort((a, b) => a - b);
      return days.find((day) => available(day) >= quantity) ?? null;
    },
  };
}

const DAYS = 12;
const step = fc.record({ kind: fc.constantFrom('supply', 'commit'), day: fc.integer({ min: 0, max: DAYS }), quantity: fc.integer({ min: 1, max: 50 }) });

/** One pool's timeline with these supply days, spoken to in days. */
function oneTimeline(supplyDays: readonly number[]) {
  const available = Int32Array.from(new Set(supplyDays)).sort();
  const timelines = new Timelines(1);
  timelines.open(
    0,
    available.map((_, at) => at),
    0,
    available.length,
    available,
    new Float64Array(available.length),
  );
  timelines.build(0);
  const at = (day: number) => timelines.segmentOf(0, day);
  return {
    supply: (day: number, quantity: number) => timelines.change(0, at(day), quantity),
    commit: (day: number, quantity: number) => timelines.change(0, at(day), -quantity),
    available: (day: number) => timelines.available(0, at(day)),
    firstDay: (from: number, quantity: number) => {
      if (timelines.available(0, at(from)) >= quantity) return from;
      const segment = timelines.firstWith(0, quantity);
      return segment < 0 ? null : timelines.dayOf(0, segment);
    },
  };
}

test('the timeline answers as a plain list of changes does', () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
      const supplyDays = steps.filter((row) => row.kind === 'supply').map((row) => row.day);
      const [fast, slow] = [oneTimeline(supplyDays), slowTimeline()];
      for (const { kind, day, quantity } of steps) {
        fast[kind as 'supply' | 'commit'](day, quantity);
        slow[kind as 'supply' | 'commit'](day, quantity);
      }
      for (let day = -1; day <= DAYS + 1; day++) {
        expect(fast.available(day)).toBe(slow.available(day));
        for (const quantity of [1, 10, 60]) expect(fast.firstDay(day, quantity)).toBe(slow.firstDay(day, quantity));
      }
    }),
  );
});

test('what is loaded before it is built counts as what is changed after', () => {
  const timelines = new Timelines(3);
  const days = Int32Array.of(1, 5, 5, 9);
  const order = Int32Array.of(0, 1, 2, 3);
  timelines.open(2, order, 0, 4, days, Float64Array.of(10, 20, 5, 7));
  timelines.open(0, order, 3, 4, days, Float64Array.of(10, 20, 5, 7));
  timelines.load(2, timelines.segmentOf(2, 6), -12);
  timelines.build(2);
  timelines.build(0);
  expect([0, 1, 5, 9].map((day) => timelines.available(2, timelines.segmentOf(2, day)))).toEqual([0, 10, 23, 30]);
  expect([8, 9].map((day) => timelines.available(0, timelines.segmentOf(0, day)))).toEqual([0, 7]);
});

test('what is given back can be promised again', () => {
  const timeline = oneTimeline([1]);
  timeline.supply(1, 10);
  timeline.commit(3, 8);
  timeline.commit(3, -8);
  expect(timeline.available(1)).toBe(10);
});

test('a pool without supply has nothing, ever', () => {
  const timeline = oneTimeline([]);
  expect(timeline.available(5)).toBe(0);
  expect(timeline.firstDay(5, 1)).toBeNull();
});
