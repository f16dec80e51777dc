import { beyondTolerance, differsBy, type AnsweredLine } from './index';

const TODAY = '2027-03-09';
const line: AnsweredLine = { lineNo: 1, item: 'LID', quantity: '40', open: '40', cost: '0.33', expectedDay: '2027-03-16', dropShip: false };
const answer = { answer: 'accepted' as const, quantity: null, price: null, day: null };
const tolerance = { percent: '10', days: 14 };
const kinds = (more: Partial<typeof answer> | object, of: Partial<AnsweredLine> = {}, cleared: { least: string; most: string } | null = null) =>
  beyondTolerance({ ...line, ...of }, { ...answer, ...more }, tolerance, cleared, TODAY).map((row) => row.about);

test('an answer within the supplier’s terms holds by itself, up to the very edge', () => {
  expect(kinds({ price: '0.363', day: '2027-03-30', quantity: '40' })).toEqual([]);
  expect(kinds({ price: '0.3631' })).toEqual(['cost_apart']);
  expect(kinds({ day: '2027-03-31' })).toEqual(['day_apart']);
  expect(kinds({ quantity: '41' })).toEqual(['over_ordered']);
});

test('all that is beyond is named, and what is open no more or refused holds', () => {
  expect(kinds({ quantity: '50', price: '0.5', day: '2027-05-01' })).toEqual(['over_ordered', 'cost_apart', 'day_apart']);
  expect(kinds({ answer: 'refused', price: '9' })).toEqual([]);
  expect(kinds({ price: '9' }, { open: '0' })).toEqual([]);
});

test('of a drop shipment the customer’s order bounds the quantity; a day that has passed is not taken at all', () => {
  expect(kinds({ quantity: '60' }, { dropShip: true })).toEqual([]);
  expect(kinds({ day: '2027-03-01' })).toEqual([]);
});

test('step by step a cost goes no further from what was cleared than at once', () => {
  const cleared = { least: '0.30', most: '0.30' };
  // 0.34 is 6 % from the 0.32 that stands, and 13 % from the 0.30 that was cleared.
  expect(kinds({ price: '0.34' }, { cost: '0.32' }, cleared)).toEqual(['cost_outside']);
  expect(kinds({ price: '0.33' }, { cost: '0.32' }, cleared)).toEqual([]);
});

test('from nothing, any cost is apart', () => {
  expect(differsBy('0.01', '0', '100')).toBe(true);
  expect(differsBy('0', '0.00', '0')).toBe(false);
  expect(differsBy('90', '100', '10')).toBe(false);
  expect(differsBy('89.99', '100', '10')).toBe(true);
});
