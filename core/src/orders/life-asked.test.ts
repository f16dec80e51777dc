import { lifeAsked } from './life-asked';

// Common practice, no source: many customers ask for a least life left on delivery.
test('the greater of what item and customer ask for, and the days on the way with a weekend among them', () => {
  expect(lifeAsked({ item: 0, customer: null, transitDays: 0 })).toBe(2);
  expect(lifeAsked({ item: 30, customer: null, transitDays: 1 })).toBe(33);
  expect(lifeAsked({ item: 30, customer: 60, transitDays: 3 })).toBe(65);
  expect(lifeAsked({ item: 90, customer: 60, transitDays: 6 })).toBe(90 + 10);
});
