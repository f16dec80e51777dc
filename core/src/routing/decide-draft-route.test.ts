import { sampleStock } from '../book/sample-rows';
import type { ChosenPart } from '../shortages';
import { decideDraftRoute, type DraftStanding } from './decide-draft-route';
import { facts, routedLine } from './sample-facts';

type Part = ChosenPart & { readonly shipTo?: number };

/** Ten JAR of a draft, sold in dozens where `dozen`, and twelve at the other warehouse. */
function decide(parts: readonly Part[], more: { readonly planned?: string; readonly dozen?: boolean; readonly by?: string } = {}) {
  const units = more.dozen ? { numerator: 12, denominator: 1, stock_quantity: '24', unit: 'each' } : {};
  const line = routedLine(1, { state: 'draft', number: null, ...units });
  const known = facts([line], { stock: [sampleStock('12', { warehouse: 'QUI' })] });
  const standing: DraftStanding = { planned: more.planned ?? '0', addresses: [5] };
  return decideDraftRoute(known, line, { parts, ...(more.by ? { by: more.by } : {}) }, standing);
}

const transfer = (quantity: string): Part => ({ kind: 'transfer', quantity, warehouse: 'QUI' });

test('what is chosen is planned, at what it costs, and nothing is taken off the line', () => {
  expect(decide([transfer('10')])).toMatchObject({
    ok: true,
    quantity: null,
    replaced: [],
    plans: [{ part: transfer('10'), unitCost: '2.1', workDays: null }],
  });
});

test('no more is planned than has no route yet', () => {
  expect(decide([transfer('10')], { planned: '4' })).toEqual({ ok: false, field: '', why: '10 is more than the 6 of this line without a route' });
  expect(decide([transfer('6')], { planned: '4' })).toMatchObject({ ok: true });
});

test('a way that cannot be is named with its part', () => {
  expect(decide([transfer('4'), { kind: 'transfer', quantity: '6', warehouse: 'ABB' }])).toMatchObject({
    ok: false,
    field: expect.stringMatching(/^\[\d\]\.\w+$/) as string,
  });
});

test('a day that was agreed to is kept as on a released line', () => {
  expect(decide([transfer('10')], { by: '2027-03-11' })).toMatchObject({ ok: true });
  expect(decide([transfer('10')], { by: '2027-03-10' })).toEqual({
    ok: false,
    field: '',
    why: 'it would leave Thursday the 11th, and Wednesday the 10th was agreed to',
  });
});

test('what is cut is no longer ordered, in the unit it was ordered in, or not at all', () => {
  expect(decide([{ kind: 'cut', quantity: '4' }])).toMatchObject({ ok: true, quantity: '6', plans: [] });
  expect(decide([{ kind: 'cut', quantity: '10' }])).toMatchObject({ ok: true, quantity: '0' });
  expect(decide([{ kind: 'cut', quantity: '12' }], { dozen: true })).toMatchObject({ ok: true, quantity: '1' });
  // 19 each are 1.58333… dozens.
  expect(decide([{ kind: 'cut', quantity: '5' }], { dozen: true })).toMatchObject({ ok: false, why: expect.stringContaining('no exact number') as string });
});

test('only a drop shipment has an address of its own, and one of the customer', () => {
  expect(decide([{ ...transfer('10'), shipTo: 5 }])).toEqual({ ok: false, field: '[0].shipTo', why: 'only a drop shipment goes to an address of its own' });
});
