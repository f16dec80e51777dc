import fc from 'fast-check';
import { Timeline } from './timeline';

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

test('the timeline answers as a plain list of changes does', () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
      const supplyDays = steps.filter((row) => row.kind === 'supply').map((row) => row.day);
      const [fast, slow] = [new Timeline(supplyDays), slowTimeline()];
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

test('what is given back can be promised again', () => {
  const timeline = new Timeline([1]);
  timeline.supply(1, 10);
  timeline.commit(3, 8);
  timeline.commit(3, -8);
  expect(timeline.available(1)).toBe(10);
});

test('a pool without supply has nothing, ever', () => {
  const timeline = new Timeline([]);
  expect(timeline.available(5)).toBe(0);
  expect(timeline.firstDay(5, 1)).toBeNull();
});
