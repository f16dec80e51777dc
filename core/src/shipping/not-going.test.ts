import { whyNotGoing, type DueOrder } from './index';

const line = { line: 1, lineNo: 1, item: 'TNK', due: '4', covered: '1', draft: null };
const order: DueOrder = { order: 1, shipComplete: false, day: '2027-03-09', holds: [], lines: [line] };

test('an order that is covered leaves; what can be mended soonest is said first', () => {
  expect(whyNotGoing({ ...order, lines: [{ ...line, covered: '4' }] })).toBeNull();
  expect(whyNotGoing(order)).toEqual({ why: 'uncovered', lines: [line] });
  expect(whyNotGoing({ ...order, shipComplete: true })).toEqual({ why: 'incomplete', lines: [line] });
  const bought = { ...line, draft: { id: 9, number: 'P7' } };
  expect(whyNotGoing({ ...order, lines: [line, bought] })).toEqual({ why: 'draft_purchase', purchase: 9, number: 'P7', lines: [bought] });
  expect(whyNotGoing({ ...order, holds: ['credit'] })).toEqual({ why: 'held', holds: ['credit'] });
});
