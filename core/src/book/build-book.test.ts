import { promiseBook } from '../promise';
import { SupplierOdds } from '../supply';
import { buildBook } from './build-book';
import { freeGoods, freeNow } from './free-goods';
import { asWarehouse, poolsOf } from './live-book';
import { sampleInbound, sampleLine, sampleRows, sampleStock, TUESDAY } from './sample-rows';

const NOBODY = new SupplierOdds(new Map(), []);

test('a line asks for what is open of it at its warehouse: what has left, was cancelled or goes from a supplier is not', () => {
  const line = sampleLine(1, { stock_quantity: '20', shipped: '3', cancelled: '2', drop_ship: '5' });
  const { book, demands, demandOfLine } = buildBook(sampleRows({ lines: [line, sampleLine(2, { shipped: '10' })] }), null, TUESDAY);
  expect(book.demand.map((row) => [row.id, row.quantity])).toEqual([['20001/1', 10]]);
  expect([demandOfLine.get(1), demandOfLine.get(2)]).toEqual(['20001/1', undefined]);
  expect(demands.get('20001/1')).toMatchObject({ lineId: 1, orderNumber: '20001', warehouse: 'MAR' });
});

test('what is set aside for a line serves it alone, of the lot that lasts; the rest is anyone’s', () => {
  const lots = [
    { expires: '2027-03-20', quantity: '4' },
    { expires: '2027-09-30', quantity: '6' },
  ];
  const line = sampleLine(1, { reserved: '5', item_life: 30 });
  const { book } = buildBook(sampleRows({ lines: [line], stock: [sampleStock('10', { lots })] }), null, TUESDAY);
  expect(book.supply.map((row) => [row.expires, row.quantity, row.for ?? null])).toEqual([
    ['2027-09-30', 5, '20001/1'],
    ['2027-09-30', 1, null],
    ['2027-03-20', 4, null],
  ]);
});

test('goods on their way come on the supplier’s day, or on the day that is as sure as asked', () => {
  const rows = sampleRows({ lines: [sampleLine(1)], inbound: [sampleInbound()] });
  const late = new SupplierOdds(
    new Map([['SUP', Array.from({ length: 40 }, () => 2)]]),
    Array.from({ length: 40 }, () => 2),
  );
  const dayOf = (confidence: number | null, odds: SupplierOdds) => {
    const { book, supplies } = buildBook({ ...rows, confidence }, odds, TUESDAY);
    return [book.supply[0]!.date, promiseBook(book).promises[0]!.schedule[0]!.date, supplies.get('P7001/1')!.days];
  };
  expect(dayOf(null, late)).toEqual(['2027-03-15', '2027-03-16', 'due Mon 15 Mar, put away by Tue 16 Mar']);
  expect(dayOf(90, NOBODY)).toEqual(['2027-03-15', '2027-03-16', 'due Mon 15 Mar, put away by Tue 16 Mar']);
  expect(dayOf(90, late)).toEqual(['2027-03-17', '2027-03-18', 'due Mon 15 Mar, 90 % by Wed 17 Mar, put away by Thu 18 Mar']);
});

test('an order placed by hand has its turn there, and an alternative of a quote keeps nobody waiting', () => {
  const first = sampleLine(1);
  const second = sampleLine(2, { place: 0 });
  const { book, turns } = buildBook(sampleRows({ lines: [first, second] }), null, TUESDAY);
  expect(book.orders.map((order) => [order.id, order.priority])).toEqual([
    ['20001', 3.1],
    ['20002', 3],
  ]);
  expect(turns.get('20002')).toEqual({ priority: 3, place: 0 });
  const quote = { state: 'quoted', number: null, ship_complete: true } as const;
  const quoted = buildBook(
    sampleRows({ lines: [sampleLine(3, quote), sampleLine(4, { ...quote, order_id: 3, alternative: true, line_no: 2 })] }),
    null,
    TUESDAY,
  );
  expect(quoted.book.orders.map((order) => [order.id, order.shipComplete])).toEqual([
    ['draft-3', true],
    ['draft-3 or', false],
  ]);
});

test('free is what nobody is promised and nobody waits for; on the shelf it is free now', () => {
  const rows = sampleRows({ lines: [sampleLine(1), sampleLine(2, { stock_quantity: '4' })], stock: [sampleStock('12')], inbound: [sampleInbound()] });
  const live = buildBook(rows, null, TUESDAY);
  const pool = { item: 'JAR', warehouse: 'MAR' };
  const free = freeGoods(live, [pool, { item: 'JAR', warehouse: 'QUI' }]);
  // 12 on the shelf: 10 and 2 of the 4 are asked for; the other 2 come out of the ten due on the 15th.
  expect(free.get('JAR/MAR')).toEqual([{ day: '2027-03-16', quantity: 8 }]);
  expect(free.get('JAR/QUI')).toEqual([]);
  expect(freeNow(live, free, pool, asWarehouse(rows.warehouses[0]!))).toBe(0);
});

test('the pools of a book are those asked of and those that have something, each once', () => {
  const rows = sampleRows({ lines: [sampleLine(1), sampleLine(2)], stock: [sampleStock('5', { warehouse: 'QUI' })], inbound: [sampleInbound()] });
  expect(poolsOf(buildBook(rows, null, TUESDAY).book)).toEqual([
    { item: 'JAR', warehouse: 'MAR' },
    { item: 'JAR', warehouse: 'QUI' },
  ]);
});
