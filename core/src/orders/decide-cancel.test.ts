import { sum } from '../money';
import type { OrderBook } from '../promise';
import { bookAfterCancel, decideCancel, givenUp, type BoundToLine, type CancellableLine, type LineCut } from './decide-cancel';

/** Sold by the tray of 12: 60 are open, 24 promised for the 10th and 24 for the 16th, 12 wait. */
const line: CancellableLine = {
  id: 7,
  lineNo: 2,
  item: 'JAR',
  unit: 'TRAY',
  numerator: 12,
  denominator: 1,
  stockUnit: 'EA',
  stockStep: '1',
  open: '60',
  reserved: '0',
  stands: {
    waiting: '12',
    promises: [
      { day: '2027-03-10', quantity: '24' },
      { day: '2027-03-16', quantity: '24' },
    ],
    picks: [],
    dropShipments: [],
  },
};
const other: CancellableLine = { ...line, id: 8, lineNo: 3, open: '12', stands: { waiting: '12', promises: [], picks: [], dropShipments: [] } };
const cutOf = (decision: ReturnType<typeof decideCancel>): LineCut => {
  if (decision.does === 'refuse') throw new Error(decision.why);
  return decision.cuts[0]!;
};

describe('what a cancellation takes', () => {
  test('a quantity is said in the unit in which the line is sold', () =>
    expect(cutOf(decideCancel([line, other], { line: 7, quantity: '2' }))).toMatchObject({
      line: 7,
      quantity: '24',
      openAfter: '36',
      cut: { waiting: '12', promises: [{ day: '2027-03-16', remains: '12', cut: '12' }] },
    }));

  test('a line, and the order, go with all that is open', () => {
    expect(cutOf(decideCancel([line, other], { line: 8 }))).toMatchObject({ quantity: '12', openAfter: '0' });
    const whole = decideCancel([line, other], {});
    expect(whole.does === 'cancel' && whole.cuts.map((cut) => [cut.line, cut.quantity])).toEqual([
      [7, '60'],
      [8, '12'],
    ]);
  });

  test('what is closed already is passed over; where nothing is open it is refused', () => {
    const closed = { ...other, open: '0', stands: { ...other.stands, waiting: '0' } };
    const whole = decideCancel([line, closed], {});
    expect(whole.does === 'cancel' && whole.cuts.map((cut) => cut.line)).toEqual([7]);
    expect(decideCancel([closed], {})).toEqual({ does: 'refuse', field: null, why: 'Nothing of it is open: it is shipped or cancelled already.' });
  });

  test.each([
    [{ line: 9 }, 'line', 'there is no line 9 on this order'],
    [{ quantity: '1' }, 'quantity', 'a quantity is cancelled of one line: name it'],
    [{ line: 7, quantity: '6' }, 'quantity', '72 EA is more than the 60 still open on line 2'],
    [{ line: 7, quantity: '0.3' }, 'quantity', /3.6/],
  ])('%j is refused at its field', (wish, field, why) =>
    expect(decideCancel([line, other], wish)).toMatchObject({ does: 'refuse', field, why: typeof why === 'string' ? why : expect.stringMatching(why) }),
  );

  test('what is set aside for it is no more than what stays open; what suppliers still ship is told', () => {
    const dropped = { ...line, open: '66', reserved: '24', stands: { ...line.stands, dropShipments: [{ purchaseLine: 3, quantity: '6' }] } };
    expect(cutOf(decideCancel([dropped], { line: 7, quantity: '4' }))).toMatchObject({ openAfter: '18', reservedAfter: '18', stillDropped: '6' });
    expect(cutOf(decideCancel([dropped], { line: 7 }))).toMatchObject({ openAfter: '0', reservedAfter: '0', stillDropped: '0' });
  });
});

describe('what is bound to a line that is cut', () => {
  const cut: LineCut = {
    line: 7,
    quantity: '24',
    openAfter: '36',
    reservedAfter: '10',
    stillDropped: '6',
    cut: { waiting: '24', promises: [], picks: [], dropShipments: [] },
  };
  const bound: readonly BoundToLine[] = [
    { kind: 'purchase', name: 'P1/1', open: '15' },
    { kind: 'drop_ship', name: 'P2/1', open: '6' },
    { kind: 'transfer', name: 'T1/1', open: '15' },
  ];
  const rows = (freed: Record<string, string>) => givenUp(cut, bound, new Map(Object.entries(freed))).map(({ row, quantity }) => [row.name, quantity]);

  test('goes where it is more than the line still needs: what is due last', () => {
    // 36 stay open, 10 of them on the shelf and 6 shipped by a supplier: 20 of the 30 on their way are needed.
    expect(rows({})).toEqual([['T1/1', '10']]);
  });

  test('goes where the cancelled parts rested on it, and no drop shipment with them', () => {
    expect(rows({ 'P1/1': '4', 'P2/1': '6' })).toEqual([
      ['P1/1', '4'],
      ['T1/1', '6'],
    ]);
  });
});

test('the book after a cancellation lacks its demand; what was bought for it is closed, or free for anyone', () => {
  const book: OrderBook = {
    asOf: '2027-03-01T09:30',
    warehouses: [{ id: 'N', workdays: [1, 2, 3, 4, 5] }],
    items: [{ id: 'JAR' }],
    supply: [{ id: 'P1/1', item: 'JAR', warehouse: 'N', quantity: 30, date: '2027-03-10', for: 'A/1' }],
    orders: [{ id: 'A', entered: '2027-02-01T10:00' }],
    demand: [
      {
        id: 'A/1',
        order: 'A',
        item: 'JAR',
        warehouse: 'N',
        quantity: 30,
        requested: '2027-03-02',
        promised: [{ date: '2027-03-10', quantity: 30, boundQuantity: 30 }],
      },
    ],
  };
  const cut: LineCut = {
    line: 7,
    quantity: '12',
    openAfter: '18',
    reservedAfter: '0',
    stillDropped: '0',
    cut: { waiting: '0', promises: [{ day: '2027-03-10', remains: '18', cut: '12' }], picks: [], dropShipments: [] },
  };
  const after = (closes: boolean) => bookAfterCancel(book, new Map([['A/1', cut]]), new Map([['P1/1', '12']]), () => closes);
  expect(after(true).demand).toMatchObject([{ quantity: 18, promised: [{ date: '2027-03-10', quantity: 18, boundQuantity: 18 }] }]);
  expect(after(true).supply).toMatchObject([{ id: 'P1/1', quantity: 18, for: 'A/1' }]);
  const freed = after(false).supply;
  expect(freed).toMatchObject([{ quantity: 18 }, { id: 'P1/1/freed', quantity: 12 }]);
  expect(freed[1]).not.toHaveProperty('for');
  expect(sum(freed.map((row) => String(row.quantity)))).toBe('30');
  const gone = bookAfterCancel(book, new Map([['A/1', { ...cut, quantity: '30', openAfter: '0' }]]), new Map([['P1/1', '30']]), () => true);
  expect([gone.demand, gone.supply]).toEqual([[], []]);
});
