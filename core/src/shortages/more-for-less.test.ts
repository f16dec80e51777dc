import fc from 'fast-check';
import { chosenRoute, routesFor, type Shortage, type SupplierOffer } from './index';
import { join, moreForLess } from './supplier-terms';

const offer = (over: Partial<SupplierOffer>): SupplierOffer => ({
  supplier: 'HAL',
  name: 'Halewood',
  cost: '10',
  leadDays: 3,
  minimum: '1',
  multiple: '1',
  dropShips: false,
  dropShipFee: '0',
  ...over,
});
const shortage = (quantity: string, ...offers: SupplierOffer[]): Shortage => ({
  now: '2027-03-09T09:30',
  quantity,
  requested: '2027-03-10',
  warehouse: { workdays: [1, 2, 3, 4, 5], closed: [], receivingDays: 1 },
  transitDays: 1,
  unitPrice: '20',
  unitCost: '10',
  currency: 'EUR',
  inbound: { days: [], uncovered: quantity },
  offers,
});

// The two cases as they were found, worked by hand.
test('up to free freight: 66 for 660 and 37 freight are 697; 69 for 690 travel free', () => {
  const free = offer({ freight: '37', freightFreeFrom: '690' });
  expect(moreForLess('66', free)).toEqual({ more: '3', whole: '690', without: '697' });
  expect(moreForLess('69', free)).toBeNull();
});

test('up to a break: 96 at 15.00 are 1440; 100 at 14.16 are 1416', () => {
  const breaks = offer({ cost: '15', breaks: [{ from: '100', cost: '14.16' }] });
  expect(moreForLess('96', breaks)).toEqual({ more: '4', whole: '1416', without: '1440' });
  expect(moreForLess('94', breaks)).toBeNull(); // 94 are 1410
});

test('what a draft has already counts: its other goods for the freight, its own for the break', () => {
  const draft = { number: 'P1', value: '750', needed: '50', bought: '50' };
  const breaks = offer({ cost: '15', breaks: [{ from: '100', cost: '14.16' }], draft });
  expect(moreForLess('46', breaks)).toEqual({ more: '4', whole: '1416', without: '1440' });
});

test('it is an option of its own: the line costs less, the rest is stock, and it is chosen by what it buys', () => {
  const short = shortage('66', offer({ freight: '37', freightFreeFrom: '690' }));
  const options = routesFor(short).filter(({ parts }) => parts.length === 1 && parts[0]!.kind === 'special_order');
  expect(options.map(({ parts: [part], unitCost }) => [part!.quantity, part!.buys, part!.more, unitCost, part!.remarks[0]])).toEqual([
    ['66', '69', '3', '10', { kind: 'more_for_less', whole: '690.00', without: '697.00', more: '3' }],
    ['66', '66', '0', '10.5606', { kind: 'due', day: '2027-03-12', bound: true }],
  ]);
  const wish = { kind: 'special_order', quantity: '66', supplier: 'HAL' } as const;
  expect(chosenRoute(short, [{ ...wish, more: '3' }])).toMatchObject({ ok: true, route: { unitCost: '10' } });
  expect(chosenRoute(short, [wish])).toMatchObject({ ok: true, route: { unitCost: '10.5606' } });
  expect(chosenRoute(short, [{ ...wish, more: '4' }])).toMatchObject({ ok: false, why: expect.stringContaining('look again') });
});

test('no quantity a person could buy comes to less than what is offered', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 120 }),
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 0, max: 60 }),
      fc.option(fc.integer({ min: 1, max: 2000 }), { nil: null }),
      fc.integer({ min: 2, max: 150 }),
      fc.integer({ min: 600, max: 1000 }),
      (needed, multiple, freight, freeFrom, from, cents) => {
        const one = offer({
          multiple: String(multiple),
          freight: String(freight),
          freightFreeFrom: freeFrom === null ? null : String(freeFrom),
          breaks: [{ from: String(from), cost: (cents / 100).toFixed(2) }],
        });
        const whole = (bought: number) => {
          const goods = bought * (bought >= from ? cents / 100 : 10);
          return goods + (freeFrom !== null && goods >= freeFrom ? 0 : freight);
        };
        const plain = Number(join(String(needed), one).buys);
        let least = whole(plain);
        for (let bought = plain; bought < plain + 400; bought += multiple) least = Math.min(least, whole(bought));
        const found = moreForLess(String(needed), one);
        expect(Number(found?.whole ?? whole(plain))).toBeCloseTo(least, 6);
      },
    ),
    { numRuns: 500 },
  );
});
