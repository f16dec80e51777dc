import { decideReceipt, goesTo, receivedLines } from './decide-receipt';
import { lotKey, type Arrival, type AwaitedLine, type ReceiptFacts } from './receipt-facts';

const TODAY = '2027-03-09';

const line = (more: Partial<AwaitedLine> = {}): AwaitedLine => ({
  id: 1,
  line_no: 1,
  item: 'JAR',
  quantity: '10',
  received: '0',
  open: '10',
  order_line_id: null,
  tracks_lots: false,
  tracks_expiry: false,
  tracks_serials: false,
  ...more,
});
const facts = (lines: readonly AwaitedLine[], more: Partial<ReceiptFacts> = {}): ReceiptFacts => ({
  lines,
  lots: new Map(),
  warehouse: 'MAR',
  bins: new Set(['A-01']),
  serials: new Map(),
  orderLines: new Map(),
  ...more,
});
function receipt(known: ReceiptFacts, arrivals: readonly Arrival[], closeRest = false) {
  const decided = decideReceipt(known, arrivals, closeRest, TODAY);
  if (!decided.ok) throw new Error(decided.faults.map((fault) => `${fault.field}: ${fault.message}`).join('; '));
  return decided.receipt;
}
function faults(known: ReceiptFacts, ...arrivals: readonly Arrival[]) {
  const decided = decideReceipt(known, arrivals, false, TODAY);
  return decided.ok ? [] : decided.faults.map((fault) => `${fault.field}: ${fault.message}`);
}

test('what comes over was ordered as well; what comes short is closed only where it is said', () => {
  const { lines, closed } = receipt(facts([line()]), [{ line: 1, quantity: '12' }]);
  expect(lines).toMatchObject([{ quantity: '12', received: '12', ordered: '12' }]);
  expect(closed).toEqual([]);
  expect(receipt(facts([line({ received: '3', open: '7' })]), [{ line: 1, quantity: '5' }]).lines).toMatchObject([{ received: '8', ordered: '10' }]);
  expect(receipt(facts([line()]), [{ line: 1, quantity: '4' }], true).closed).toMatchObject([{ quantity: '6' }]);
});

test('several arrivals of a line are one line received, each into its own bin and lot', () => {
  const { lines, goods, newLots } = receipt(facts([line()], { lots: new Map([[lotKey('JAR', 'L1'), null]]) }), [
    { line: 1, quantity: '4', lot: 'L1', bin: 'A-01' },
    { line: 1, quantity: '3', damaged: '2', lot: 'L2', expires: '2027-09-30' },
    { line: 1, quantity: '0', damaged: '1', lot: 'L2', expires: '2027-09-30' },
  ]);
  expect(lines).toMatchObject([{ quantity: '7', damaged: '3', received: '7' }]);
  expect(goods.map((row) => [row.quantity, row.damaged, row.lot, row.bin])).toEqual([
    ['4', false, 'L1', 'A-01'],
    ['3', false, 'L2', null],
    ['2', true, 'L2', null],
    ['1', true, 'L2', null],
  ]);
  expect(newLots).toEqual([{ item: 'JAR', lot: 'L2', expires: '2027-09-30' }]);
});

test('what was bought for a line is set aside for it, as far as it still needs it', () => {
  const order = { stock_quantity: '10', shipped: '2', cancelled: '3', reserved: '1' };
  const known = facts([line({ order_line_id: 7 }), line({ id: 2, line_no: 2, order_line_id: 7 })], { orderLines: new Map([[7, order]]) });
  expect(receipt(known, [{ line: 1, quantity: '3' }]).reserved).toEqual(new Map([[7, '4']]));
  // Two purchase lines for one: of five open, no more than five.
  const both = [
    { line: 1, quantity: '3' },
    { line: 2, quantity: '3' },
  ];
  expect(receipt(known, both).reserved).toEqual(new Map([[7, '5']]));
  expect(receipt(known, [{ line: 1, quantity: '0', damaged: '3' }]).reserved).toEqual(new Map());
});

test.each<[string, AwaitedLine, Arrival, string]>([
  ['nothing at all', line(), { line: 1, quantity: '0' }, 'lines[0].quantity: expected a good or a damaged quantity'],
  ['no lot', line({ tracks_lots: true }), { line: 1, quantity: '1' }, 'lines[0].lot: JAR is kept by lot: expected the lot on the label'],
  [
    'no day',
    line({ tracks_lots: true, tracks_expiry: true }),
    { line: 1, quantity: '1', lot: 'L' },
    'lines[0].expires: JAR expires: expected the day on the label',
  ],
  ['no such bin', line(), { line: 1, quantity: '1', bin: 'Z-99' }, 'lines[0].bin: there is no bin Z-99 at MAR'],
  ['no such line', line(), { line: 9, quantity: '1' }, 'lines[0].line: there is no line 9 on this purchase order'],
  ['nothing awaited', line({ open: '0' }), { line: 1, quantity: '1' }, 'lines[0].line: nothing more is expected on line 1'],
  [
    'expired',
    line(),
    { line: 1, quantity: '1', lot: 'L', expires: '2027-03-08' },
    'lines[0].expires: lot L of JAR expired Mon 8 Mar: receive it as damaged, into quarantine, or correct the day',
  ],
])('%s is refused by line and field', (_, awaited, arrival, fault) => expect(faults(facts([awaited]), arrival)).toEqual([fault]));

test('a lot has one day: that of its record, or of the arrival before', () => {
  const known = facts([line()], { lots: new Map([[lotKey('JAR', 'L'), '2027-09-30']]) });
  expect(faults(known, { line: 1, quantity: '1', lot: 'L', expires: '2027-10-01' })).toEqual([
    'lines[0].expires: lot L of JAR expires 2027-09-30, got 2027-10-01',
  ]);
  const twice = [
    { line: 1, quantity: '1', lot: 'M', expires: '2027-09-30' },
    { line: 1, quantity: '1', lot: 'M', expires: '2027-10-01' },
  ];
  expect(faults(known, ...twice)).toEqual(['lines[1].expires: lot M of JAR expires 2027-09-30, got 2027-10-01']);
  // Expired, it may come into quarantine.
  expect(faults(known, { line: 1, quantity: '0', damaged: '1', lot: 'N', expires: '2027-03-01' })).toEqual([]);
});

test('an item with serial numbers comes with one for each piece, each once', () => {
  const tracked = (id: number) => line({ id, line_no: id, tracks_serials: true });
  const known = facts([tracked(1), tracked(2)], { serials: new Map([['JAR', new Map([['S1', { kind: 'shipped', shipment: '20001-1' }]])]]) });
  const { goods } = receipt(known, [
    { line: 1, quantity: '3', serials: 'S7..S9', bin: 'A-01' },
    { line: 1, quantity: '0', damaged: '1', serials: 'S6' },
  ]);
  expect(goods.map((row) => [row.quantity, row.damaged, row.serials])).toEqual([
    ['3', false, ['S7', 'S8', 'S9']],
    ['1', true, ['S6']],
  ]);
  expect(faults(known, { line: 1, quantity: '2', serials: 'S7' })).toEqual(['lines[0].serials: JAR has serial numbers: expected 2, got 1']);
  expect(faults(known, { line: 1, quantity: '1', serials: 'S1' })).toEqual([
    'lines[0].serials: serial number S1 of JAR is with the customer, by shipment 20001-1',
  ]);
  expect(faults(known, { line: 1, quantity: '1', damaged: '1', serials: 'S7, S8' })).toEqual([
    'lines[0].serials: JAR has serial numbers: enter the damaged ones by themselves',
  ]);
  // The same number on two lines of one receipt.
  expect(faults(known, { line: 1, quantity: '1', serials: 'S7' }, { line: 2, quantity: '1', serials: 'S7' })).toEqual([
    'lines[1].serials: serial number S7 of JAR is in this receipt already',
  ]);
  expect(faults(facts([line()]), { line: 1, quantity: '1', serials: 'S7' })).toEqual(['lines[0].serials: JAR has no serial numbers']);
});

test('a supplier who ships to the customer ships no more than is awaited, and no line twice', () => {
  const shipped = (rows: readonly { line: number; quantity: string }[]) => receivedLines([line()], rows, false);
  expect(shipped([{ line: 1, quantity: '10' }])).toMatchObject({ ok: true });
  expect(shipped([{ line: 1, quantity: '11' }])).toEqual({
    ok: false,
    faults: [{ field: 'lines[0].quantity', message: '11 is more than the 10 expected on line 1' }],
  });
  const twice = [
    { line: 1, quantity: '1' },
    { line: 1, quantity: '1' },
  ];
  expect(shipped(twice)).toMatchObject({ ok: false, faults: [{ field: 'lines[1].line', message: 'line 1 stands twice' }] });
});

test('what came goes to those it is owed to, in their turn, as far as it goes', () => {
  const owed = [
    { order: 1, quantity: '4' },
    { order: 2, quantity: '5' },
    { order: 3, quantity: '1' },
  ];
  expect(goesTo('6', owed)).toEqual([
    { order: 1, quantity: '4' },
    { order: 2, quantity: '2' },
  ]);
  expect(goesTo('0', owed)).toEqual([]);
});
