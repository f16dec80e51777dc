import type { NotGoingRow } from '@nockwright/contract/shipping';
import { mendOf, notGoingWords } from './not-going-words';
import { trialWords } from './rules/stop-words';

const row: NotGoingRow = {
  order: 7,
  number: '20312',
  customer: 'Wether Hill',
  customerId: 1,
  warehouse: 'MAR',
  day: '2027-03-09',
  why: 'uncovered',
  holds: [],
  purchase: null,
  lines: [{ line: 70, lineNo: 1, item: 'TNK', missing: '4' }],
};

it('says why an order does not leave, and leads to what mends it', () => {
  expect([notGoingWords(row), mendOf(row)]).toEqual(['Not on hand: 4 TNK.', { words: 'Find options', link: ['/shortages'], query: { lines: '70' } }]);
  const held: NotGoingRow = { ...row, why: 'held', holds: ['credit', 'below_floor'], lines: [] };
  expect([notGoingWords(held), mendOf(held).link]).toEqual(['On hold: credit, margin below the floor.', ['/orders', 7]]);
  const draft: NotGoingRow = { ...row, why: 'draft_purchase', purchase: { id: 9, number: 'P7627' } };
  expect([notGoingWords(draft), mendOf(draft)]).toEqual([
    'Purchase order P7627 is not sent yet. Missing: 4 TNK.',
    { words: 'Send P7627', link: ['/supply', 9] },
  ]);
  expect(notGoingWords({ ...row, why: 'incomplete' })).toBe('Ships complete, and waits for 4 TNK.');
});

it('a trial of rules is one sentence', () => {
  const by = { value: 8, first_order: 0, instructions: 0, below_floor: 0, new_address: 6, shipments: 0 };
  expect(trialWords({ orders: 612, stopped: 14, by })).toBe('Would have stopped 14 of 612 orders of the last 90 days: large value 8, new address 6.');
  expect(trialWords({ orders: 0, stopped: 0, by })).toBe('No order was shipped in the last 90 days.');
});
