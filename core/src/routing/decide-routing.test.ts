import { sampleInbound, sampleStock } from '../book/sample-rows';
import type { OpenLine } from '../orders';
import { type ChosenPart } from '../shortages';
import { decideRouting, type LineChoice } from './decide-routing';
import { planRouting } from './plan-routing';
import { poolsFor } from './routing-facts';
import { facts, routedLine } from './sample-facts';

const WAITS: OpenLine = { waiting: '10', promises: [], picks: [], dropShipments: [] };
const fromQuick = (line: number, quantity: string): LineChoice => ({ line, parts: [{ kind: 'transfer', quantity, warehouse: 'QUI' }] });
const standing = (...lines: readonly number[]) => new Map(lines.map((line) => [line, WAITS]));

test('what one line takes the next does not have', () => {
  const known = facts([routedLine(1), routedLine(2)], { stock: [sampleStock('12', { warehouse: 'QUI' })] });
  const { decided, left } = decideRouting(known, [fromQuick(2, '10'), fromQuick(1, '10')], standing(1, 2));
  expect(decided.map((row) => [row.line, row.route.shipDay, row.lifted.waiting])).toEqual([[1, '2027-03-11', '10']]);
  expect(left.map((row) => row.line)).toEqual([2]);
  expect(left[0]!.why).toMatch(/^transfer: /);
  // The facts are as they were: the same question has the same answer.
  expect(decideRouting(known, [fromQuick(2, '2'), fromQuick(1, '10')], standing(1, 2)).left).toEqual([]);
});

test('no more can be routed than is open, nor waited for than waits', () => {
  const known = facts([routedLine(1)], { inbound: [sampleInbound()] });
  const told: OpenLine = { ...WAITS, waiting: '0', promises: [{ day: '2027-03-16', quantity: '10' }] };
  const why = (parts: readonly ChosenPart[], open = told) => decideRouting(known, [{ line: 1, parts }], new Map([[1, open]])).left[0]?.why;
  expect(why([{ kind: 'cut', quantity: '11' }])).toBe('11 is more than the 10 of this line that can still be routed');
  expect(why([{ kind: 'backorder', quantity: '12' }], WAITS)).toBe('12 is more than the 10 of this line that can still be routed');
  expect(why([{ kind: 'cut', quantity: '4' }])).toBeUndefined();
});

test('what is cut comes off the promises, the last first, and is no longer owed', () => {
  const known = facts([routedLine(1)], { stock: [sampleStock('6')], inbound: [sampleInbound()] });
  const open: OpenLine = {
    ...WAITS,
    waiting: '0',
    promises: [
      { day: '2027-03-09', quantity: '6' },
      { day: '2027-03-16', quantity: '4' },
    ],
  };
  const { decided } = decideRouting(known, [{ line: 1, parts: [{ kind: 'cut', quantity: '5' }] }], new Map([[1, open]]));
  expect(decided[0]).toMatchObject({
    lost: '5',
    remains: [
      { day: '2027-03-09', remains: '5' },
      { day: '2027-03-16', remains: '0' },
    ],
  });
});

test('a day that was agreed to is kept, or the line is left as it is', () => {
  const known = facts([routedLine(1)], { stock: [sampleStock('12', { warehouse: 'QUI' })] });
  const by = (day: string) => decideRouting(known, [{ ...fromQuick(1, '10'), by: day }], standing(1)).left;
  expect(by('2027-03-11')).toEqual([]);
  expect(by('2027-03-10')).toEqual([{ line: 1, why: 'it would leave Thursday the 11th, and Wednesday the 10th was agreed to' }]);
});

test('an order that changed since it was looked at is left as it is', () => {
  const known = facts([routedLine(1)], { stock: [sampleStock('12', { warehouse: 'QUI' })] });
  const at = (version: number) => decideRouting(known, [{ ...fromQuick(1, '10'), version }], standing(1)).left;
  expect(at(4)).toEqual([]);
  expect(at(3)).toEqual([{ line: 1, why: 'order 20001 has changed since it was looked at' }]);
});

test('only what is released can be routed so', () => {
  const known = facts([routedLine(1, { state: 'discarded' })], {});
  expect(decideRouting(known, [fromQuick(1, '1')], standing(1)).left).toEqual([{ line: 1, why: 'order 20001 is discarded' }]);
});

test('a plan takes the best way for each, in turn, and gathers what it makes', () => {
  const known = facts([routedLine(1), routedLine(2)], { stock: [sampleStock('12', { warehouse: 'QUI' })] });
  const { rows, gathered, asks } = planRouting(known);
  expect(rows.map((row) => [row.line.id, row.route?.parts.map((part) => [part.kind, part.quantity]) ?? null])).toEqual([
    [1, [['transfer', '10']]],
    [2, null],
  ]);
  // Ten at 2.00, and 0.10 a kilogram to bring them over.
  expect(gathered).toMatchObject([{ kind: 'transfer', from: 'Quick Lane', to: 'Marl Hill', joins: null, lines: 1, value: '21' }]);
  expect(asks).toBe(0);
});

test('locked are the pools a way may take from: the line’s own, those it is brought over from, what goes instead here', () => {
  const known = facts([routedLine(1)], { items: ['JAR', 'TUB'] });
  expect(poolsFor(known, routedLine(1))).toEqual([
    { item: 'JAR', warehouse: 'MAR' },
    { item: 'JAR', warehouse: 'QUI' },
    { item: 'TUB', warehouse: 'MAR' },
  ]);
});
