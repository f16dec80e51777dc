import type { DemandPromise } from '../promise';
import type { SupplyInfo } from './how-sure';
import { costOfParts, peggedParts } from './line-cost';

const supplies = new Map([
  ['shelf', { cost: null }],
  ['P1/1', { cost: '0.35' }],
  ['P2/1', { cost: '0.40' }],
] as unknown as [string, SupplyInfo][]);
const promise = (uncovered: number, ...from: [string, number][]): DemandPromise => ({
  id: 'a',
  schedule: from.map(([supply, quantity]) => ({ date: '2027-03-09', quantity, kept: false, from: [{ supply, quantity }] })),
  uncovered,
  daysLate: 0,
});

test('what is bought costs what it is bought for, what is there the item’s cost', () => {
  const parts = peggedParts(promise(0, ['shelf', 30], ['P1/1', 50], ['P2/1', 20]), supplies, '100', '0.31');
  expect(parts).toEqual([
    { quantity: '50', each: '0.35', basis: 'purchase' },
    { quantity: '20', each: '0.40', basis: 'purchase' },
    { quantity: '30', each: '0.31', basis: 'standard' },
  ]);
  expect(costOfParts(parts)).toBe('34.8'); // 17.50 + 8.00 + 9.30
});

test('what waits for a purchase costs what buying it does, as its option said; no more of it than has no supply', () => {
  const parts = peggedParts(promise(40, ['shelf', 60]), supplies, '100', '0.31', [{ quantity: '50', each: '0.43' }]);
  expect(parts).toEqual([
    { quantity: '40', each: '0.43', basis: 'landed' },
    { quantity: '60', each: '0.31', basis: 'standard' },
  ]);
});

test('without supply or option the item’s cost is all there is', () => {
  expect(peggedParts(undefined, supplies, '12', '0.31')).toEqual([{ quantity: '12', each: '0.31', basis: 'standard' }]);
  expect(peggedParts(promise(12), supplies, '0', '0.31')).toEqual([]);
});
