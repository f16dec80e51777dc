import fc from 'fast-check';
import { soldItem } from '../../test/sold-item';
import { anyBook, due, onHand, simpleBook, wants } from '../../test/books';
import { promiseBook } from '../promise';
import { WhatIf, type BookSlice } from './index';

/** A slice of a book in which the draft `D` stands last; `JAR` is sold by each and by the dozen. */
function sliceOf(book: BookSlice['book'], more: Partial<BookSlice> = {}): BookSlice {
  return {
    book,
    supplies: book.supply.map(({ id, date }) => ({
      id,
      label: date ? `purchase ${id}` : 'on hand',
      purchase: date ? 7 : null,
      cost: null,
      days: '',
      awaited: date ? { supplier: 'GLASS', supplierName: 'Glass works', expected: date } : null,
    })),
    // Of ten receipts eight came on their day and two four days late.
    odds: {
      suppliers: [
        {
          supplier: 'GLASS',
          late: [
            [0, 8],
            [4, 2],
          ],
        },
      ],
      all: [
        [0, 8],
        [4, 2],
      ],
    },
    sure: 90,
    item: soldItem(book.items[0]!.id, { description: 'Jar', listBreaks: [{ unit: 'EA', from: '100', price: '0.45' }] }),
    warehouses: book.warehouses.map((row) => ({ name: `House ${row.id}`, book: row })),
    draft: { id: 'D', day: '2027-03-03', deliverBy: false, transitDays: 1, warehouse: book.warehouses[0]!.id, currency: 'EUR', nextLine: 1, lines: [] },
    ...more,
  };
}

const draftOrder = { id: 'D', entered: '2027-03-01T09:30' };
const book = simpleBook({
  supply: [onHand(20), due('2027-03-08', 40)],
  demand: [wants('A', 10, '2027-03-02', { promised: [{ date: '2027-03-02', quantity: 10 }] })],
});
const withDraft = { ...book, orders: [...book.orders, draftOrder] };

function tried(slice: BookSlice, wish: Parameters<WhatIf['try']>[0]) {
  const result = new WhatIf(slice).try(wish);
  if (!result.ok) throw new Error(result.fault.message);
  return result.line;
}

test('a line says its days, its price and what to say, in the unit ordered', () => {
  const line = tried(sliceOf(withDraft), { quantity: '2', unit: 'DZN' });
  expect(line).toMatchObject({
    lineNo: 1,
    stockQuantity: '24',
    price: '6',
    priceSource: 'list price',
    amount: '12.00',
    marginPercent: '40.0',
    requested: '2027-03-03',
    uncovered: '0',
    daysLate: 5,
    state: 'late',
    holds: 80,
    safeDay: '2027-03-12',
  });
  expect(line.schedule.map(({ day, quantity }) => [day, quantity])).toEqual([
    ['2027-03-03', '10'],
    ['2027-03-08', '14'],
  ]);
  expect(line.holdsWords).toBe('Confidence 80 %; 90 % by Fri 12 Mar. Glass works, by 10 receipts.');
  expect(line.spoken).toBe('I can send 10 on Wednesday the 3rd; the other 14 leave on Monday the 8th.');
  expect(line.ticks).toEqual([{ day: '2027-03-08', quantity: '40', label: 'purchase PO-2027-03-08' }]);
});

test('a price break is reached by the quantity, and a delivery day is run back by the carrier', () => {
  expect(tried(sliceOf(withDraft), { quantity: '100' })).toMatchObject({ price: '0.45', priceSource: 'list, from 100' });
  const slice = sliceOf(withDraft);
  // Monday's delivery leaves on Friday: one working day on the way.
  expect(tried({ ...slice, draft: { ...slice.draft, deliverBy: true, day: '2027-03-08' } }, { quantity: '1' }).requested).toBe('2027-03-05');
});

test('the margin is by what the goods cost that serve the line', () => {
  const slice = sliceOf(withDraft);
  // 10 of 24 are on the shelf at 0.30; 14 come with a purchase at 0.36.
  const dearer = { ...slice, supplies: slice.supplies.map((row) => (row.purchase === null ? row : { ...row, cost: '0.36' })) };
  expect(tried(dearer, { quantity: '2', unit: 'DZN' }).marginPercent).toBe('33.0');
});

test.each([
  [{ quantity: '1', unit: 'KGM' }, 'unit', 'JAR is not sold by kg; it is sold by each, dozen'],
  [{ quantity: '0.00001', unit: 'DZN' }, 'quantity', 'Quantity 0.00001: dozen is sold whole. Use 1.'],
])('%j is refused', (wish, field, message) => expect(new WhatIf(sliceOf(withDraft)).try(wish)).toEqual({ ok: false, fault: { field, message } }));

test('a line that stands there already is tried in its place, not beside itself', () => {
  const standing = { ...withDraft, demand: [...withDraft.demand, { ...wants('D', 10, '2027-03-03'), id: 'D/1' }] };
  const slice = sliceOf(standing);
  const changed = tried({ ...slice, draft: { ...slice.draft, nextLine: 2 } }, { quantity: '9', replaces: 1 });
  expect(changed).toMatchObject({ lineNo: 1, state: 'covered', daysLate: 0 });
  // A line of its own finds the ten on hand gone.
  expect(tried({ ...slice, draft: { ...slice.draft, nextLine: 2 } }, { quantity: '9' })).toMatchObject({ lineNo: 2, daysLate: 5 });
});

test('whatever the book, a try says what the whole computation says of the book with the line', () => {
  fc.assert(
    fc.property(anyBook, fc.integer({ min: 1, max: 60 }), fc.boolean(), (any, quantity, shipComplete) => {
      const orders = [...any.orders, { ...draftOrder, entered: '9999-12-31T23:59', shipComplete }];
      const open = { ...any, orders };
      const line = tried(sliceOf(open), { quantity: String(quantity) });
      const demand = { id: 'D/1', order: 'D', item: any.items[0]!.id, warehouse: any.warehouses[0]!.id, quantity, requested: '2027-03-03' };
      const whole = promiseBook({ ...open, demand: [...any.demand, demand] }).promises.at(-1)!;
      expect(line.schedule.map((part) => [part.day, Number(part.quantity)])).toEqual(whole.schedule.map((entry) => [entry.date, entry.quantity]));
      expect([Number(line.uncovered), line.daysLate]).toEqual([whole.uncovered, whole.daysLate]);
    }),
    { numRuns: 300 },
  );
});
