import fc from 'fast-check';
import { workCalendar } from '../calendar';
import { minus, sum } from '../money';
import { promiseBook } from '../promise';
import { SupplierOdds } from '../supply';
import { comingOf, inboundOf, liftLine, sparedByWarehouse, type Coming, type LineGoods, type Slipped } from './index';

const TODAY = '2027-03-09';
const sureness = {
  odds: new SupplierOdds(new Map(), []),
  dock: { calendar: workCalendar([1, 2, 3, 4, 5], []), receivingDays: 0 },
  today: TODAY,
  sure: 90,
};

/** A line of so many, told some days, with supply by day; asked for at once. */
function goods(
  quantity: number,
  promised: readonly (readonly [day: string, quantity: number])[],
  supply: readonly (readonly [day: string | null, quantity: number])[],
  slipped: readonly Pick<Slipped, 'id' | 'quantity' | 'leaves'>[] = [],
): LineGoods {
  const dropped = slipped.reduce((total, row) => total + Number(row.quantity), 0);
  const book = (owed: number) => ({
    asOf: `${TODAY}T09:00`,
    warehouses: [{ id: 'W', workdays: [1, 2, 3, 4, 5], receivingDays: 0 }],
    items: [{ id: 'A' }],
    supply: supply.map(([date, of], at) => ({ id: `S${at}`, item: 'A', warehouse: 'W', quantity: of, ...(date ? { date } : {}) })),
    orders: [{ id: '1', priority: 5, entered: '2027-03-01T09:00', shipComplete: false }],
    demand:
      owed > 0
        ? [
            {
              id: '1/1',
              order: '1',
              item: 'A',
              warehouse: 'W',
              quantity: owed,
              requested: TODAY,
              partial: true,
              promised: promised.map(([date, of]) => ({ date, quantity: of })),
            },
          ]
        : [],
  });
  const told = promised.reduce((total, [, of]) => total + of, 0);
  const plain = promiseBook(book(quantity));
  const owing = promiseBook(book(quantity + dropped));
  return {
    waiting: String(quantity - told),
    slipped: slipped.map((row) => ({ ...row, supplier: 'SUP', supplierName: 'Supplier', unitCost: '2' })),
    promise: owing.promises[0],
    supplies: new Map(supply.map((_, at) => [`S${at}`, { label: '', purchase: null, days: '', cost: null, awaited: null }])),
    risks: plain.atRisk,
    surely: owing.atRisk,
    sureness,
  };
}
const shown = (parts: readonly Coming[]) => parts.map(({ waits, day, quantity, insteadOf }) => [waits, day, quantity, ...(insteadOf ? [insteadOf] : [])]);

test('what was told comes on the day its goods allow; what waits on the day it could be promised', () => {
  const line = goods(
    20,
    [['2027-03-10', 10]],
    [
      [null, 4],
      ['2027-03-16', 8],
    ],
  );
  // 4 are here, 6 of the told come on the 16th with 2 of those that wait; 8 never.
  expect(shown(comingOf(line))).toEqual([
    [false, '2027-03-16', '6'],
    [false, '2027-03-10', '4'],
    [true, '2027-03-16', '2'],
    [true, null, '8'],
  ]);
});

test('what slipped leaves the warehouse where that has it sooner, after what the line waits for itself', () => {
  const line = goods(
    5,
    [],
    [
      [null, 7],
      ['2027-03-12', 2],
      ['2027-04-12', 9],
    ],
    [{ id: 3, quantity: '6', leaves: '2027-03-30' }],
  );
  const parts = comingOf(line);
  expect(shown(parts)).toEqual([
    [true, TODAY, '5'],
    [false, TODAY, '2', 3],
    [false, '2027-03-12', '2', 3],
    [false, '2027-03-30', '2'],
  ]);
  expect(parts.map((part) => part.unitCost)).toEqual([undefined, undefined, undefined, '2']);
  expect(inboundOf(parts, '11')).toMatchObject({
    days: [
      { day: TODAY, quantity: '5' },
      { day: TODAY, quantity: '2' },
      { day: '2027-03-12', quantity: '2' },
      { day: '2027-03-30', quantity: '2' },
    ],
    uncovered: '0',
  });
  // Five wait and come first; of the rest what comes last.
  expect(inboundOf(parts, '7')).toMatchObject({ days: [{ quantity: '5' }, { day: '2027-03-30', quantity: '2' }] });
  const waited = sparedByWarehouse(liftLine({ waiting: '5', promises: [], slipped: line.slipped }, '0', '11'), parts);
  expect(waited).toMatchObject({ ok: true, lifted: { slipped: [{ id: 3, cut: '4' }] }, kept: { waiting: '5', slipped: [{ id: 3, cut: '2' }] } });
});

test('of two that slipped the later is served from the warehouse first', () => {
  const slipped = [
    { id: 1, quantity: '4', leaves: '2027-03-20' },
    { id: 2, quantity: '4', leaves: '2027-03-30' },
  ];
  expect(shown(comingOf(goods(0, [], [[null, 5]], slipped)))).toEqual([
    [false, TODAY, '4', 2],
    [false, TODAY, '1', 1],
    [false, '2027-03-20', '3'],
  ]);
});

const whole = (most: number) => fc.integer({ min: 1, max: most });
const day = fc.integer({ min: 9, max: 31 }).map((n) => `2027-03-${String(n).padStart(2, '0')}`);
const anyGoods = fc
  .record({
    waiting: fc.integer({ min: 0, max: 9 }),
    promised: fc.uniqueArray(fc.tuple(day, whole(9)), { maxLength: 3, selector: ([on]) => on }),
    supply: fc.array(fc.tuple(fc.option(day), whole(12)), { maxLength: 4 }),
    slipped: fc.array(fc.record({ quantity: whole(9).map(String), leaves: day }), { maxLength: 2 }),
  })
  .map(({ waiting, promised, supply, slipped }) => {
    const days = [...promised].sort(([a], [b]) => (a < b ? -1 : 1));
    const told = days.reduce((total, [, of]) => total + of, 0);
    return goods(
      waiting + told,
      days,
      supply,
      slipped.map((row, at) => ({ ...row, id: at + 1 })),
    );
  });

test('all of a line comes once, nothing that slipped later than it leaves, and what is waited for is what was asked about', () => {
  fc.assert(
    fc.property(anyGoods, whole(40), (line, asked) => {
      const parts = comingOf(line);
      const told = (line.promise?.schedule ?? []).filter((entry) => entry.kept).map((entry) => String(entry.quantity));
      const open = sum([line.waiting, ...told, ...line.slipped.map((row) => row.quantity)]);
      expect(sum(parts.map((part) => part.quantity))).toBe(open);
      expect(sum(parts.filter((part) => part.waits).map((part) => part.quantity))).toBe(line.waiting);
      for (const { insteadOf, day: comes } of parts) if (insteadOf) expect(comes! < line.slipped.find((row) => row.id === insteadOf)!.leaves).toBe(true);
      const quantity = String(Math.min(asked, Number(open)));
      const { days, uncovered } = inboundOf(parts, quantity);
      expect(minus(quantity, sum([uncovered, ...days.map((row) => row.quantity)]))).toBe('0');
      expect(days.map((row) => row.day)).toEqual(days.map((row) => row.day).sort());
    }),
  );
});
