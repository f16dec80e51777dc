import fc from 'fast-check';
import { minus, plus, sum } from '../money';
import { cutLine, meetPromises, readQuickLine, shipLine, type OpenLine } from './index';

const line: OpenLine = {
  waiting: '5',
  promises: [
    { day: '2027-03-10', quantity: '10' },
    { day: '2027-03-16', quantity: '8' },
  ],
  picks: [{ shipment: 7, quantity: '4' }],
  dropShipments: [{ purchaseLine: 3, quantity: '6' }],
};

describe('cutting a line', () => {
  const cutOf = (quantity: string) => {
    const result = cutLine(line, quantity);
    if (!result.ok) throw new Error(`at most ${result.most}`);
    return result.cut;
  };

  test('takes what waits first, then the latest promise', () => {
    expect(cutOf('5')).toEqual({ waiting: '5', promises: [], picks: [], dropShipments: [] });
    expect(cutOf('7')).toMatchObject({ waiting: '5', promises: [{ day: '2027-03-16', remains: '6', cut: '2' }] });
  });

  test('takes drop shipments before what is being picked', () => {
    // 5 wait, 14 are promised and not picked, 6 are on the supplier: what is picked comes last.
    expect(cutOf('25')).toMatchObject({ dropShipments: [{ purchaseLine: 3, cut: '6' }], picks: [] });
    expect(cutOf('27')).toMatchObject({ picks: [{ shipment: 7, cut: '2' }], promises: [{ remains: '0' }, { day: '2027-03-10', remains: '2', cut: '8' }] });
  });

  test('more than is open is refused with the most there is', () => expect(cutLine(line, '29.5')).toEqual({ ok: false, most: '29' }));

  test('always takes exactly what was asked, and a pick only with its promise', () => {
    const small = fc.integer({ min: 0, max: 20 });
    fc.assert(
      fc.property(
        small,
        fc.array(fc.integer({ min: 1, max: 20 }), { maxLength: 4 }),
        small,
        small,
        fc.integer({ min: 0, max: 1000 }),
        (waiting, promised, picked, dropped, share) => {
          const total = promised.reduce((a, b) => a + b, 0);
          const picks = Math.min(picked, total);
          const open: OpenLine = {
            waiting: String(waiting),
            promises: promised.map((quantity, at) => ({ day: `2027-03-${10 + at}`, quantity: String(quantity) })),
            picks: picks > 0 ? [{ shipment: 1, quantity: String(picks) }] : [],
            dropShipments: dropped > 0 ? [{ purchaseLine: 1, quantity: String(dropped) }] : [],
          };
          const asked = String(Math.floor(((waiting + total + dropped) * share) / 1000));
          const result = cutLine(open, asked);
          if (!result.ok) throw new Error('refused');
          const { cut } = result;
          const fromPromises = sum(cut.promises.map((row) => row.cut));
          expect(sum([cut.waiting, fromPromises, ...cut.dropShipments.map((row) => row.cut)])).toBe(asked);
          const stillPromised = minus(String(total), fromPromises);
          const stillPicked = minus(String(picks), sum(cut.picks.map((row) => row.cut)));
          expect(Number(stillPicked)).toBeLessThanOrEqual(Number(stillPromised));
        },
      ),
    );
  });
});

test('what leaves meets the earliest promises first', () => {
  expect(meetPromises(line.promises, '12')).toEqual([
    { day: '2027-03-10', remains: '0' },
    { day: '2027-03-16', remains: '6' },
  ]);
  expect(plus('0', meetPromises(line.promises, '4')[0]!.remains)).toBe('6');
});

test('of a line that leaves in part what came in for it goes first; what is left for it is never more than is open', () => {
  const promises = [
    { day: '2027-03-12', quantity: '4' },
    { day: '2027-03-10', quantity: '6' },
  ];
  const standing = { stockQuantity: '12', shipped: '2', cancelled: '0', reserved: '7', promises };
  expect(shipLine(standing, '5')).toEqual({ shipped: '7', reserved: '2', remains: [{ day: '2027-03-10', remains: '1' }] });
  expect(shipLine(standing, '8')).toEqual({
    shipped: '10',
    reserved: '0',
    remains: [
      { day: '2027-03-10', remains: '0' },
      { day: '2027-03-12', remains: '2' },
    ],
  });
  // The rest was cancelled meanwhile: what came in for it is anyone's.
  expect(shipLine({ ...standing, cancelled: '4' }, '5').reserved).toBe('1');
});

describe('the quick line', () => {
  const today = '2027-03-09';
  const read = (text: string) => {
    const { item, quantity, unit, day } = readQuickLine(text, today);
    return [item, quantity, unit?.code ?? null, day?.day ?? null];
  };

  test.each([
    ['jar-340 20 tray fri', ['jar-340', '20', 'XTY', '2027-03-12']],
    ['3 dozen brush', ['brush', '3', 'DZN', null]],
    ['3 dozen jar 454', ['jar 454', '3', 'DZN', null]],
    ['3 bx fnd-dn-w fri', ['fnd-dn-w', '3', 'XBX', '2027-03-12']],
    ['12 brush', ['brush', '12', null, null]],
    ['jar 454 1,200', ['jar 454', '1200', null, null]],
    ['lid 1.200', ['lid', null, null, null]],
    ['2 jar 454', ['jar 454', null, null, null]],
    ['jar hex 340 20', ['jar hex 340', '20', null, null]],
    ['frm-dn 50', ['frm-dn', '50', null, null]],
    ['jar 5 fri tray', ['jar', '5', 'XTY', '2027-03-12']],
    ['jar 5 trays 12 mar', ['jar', '5', 'XTY', '2027-03-12']],
    ['jar 5 12 mar', ['jar', '5', null, '2027-03-12']],
    ['clip 3 dozen +3', ['clip', '3', 'DZN', '2027-03-12']],
    ['lid 063 480 each', ['lid 063', '480', 'EA', null]],
    ['fondant 2.5', ['fondant', '2.5', null, null]],
    ['jar hex', ['jar hex', null, null, null]],
    ['20 jar', ['jar', '20', null, null]],
    ['jar 0', ['jar 0', null, null, null]],
    ['jar 5 soonish', ['jar 5 soonish', null, null, null]],
    ['', ['', null, null, null]],
  ])('%j is understood', (text, understood) => expect(read(text)).toEqual(understood));
});
