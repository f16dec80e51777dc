import { readScan } from '../scans';
import {
  afterMissedDay,
  decideLeave,
  decideScan,
  despatchLetter,
  leaveWords,
  scanWords,
  shortWords,
  type LeaveFacts,
  type PickPart,
  type ScanFacts,
  type ScannedItem,
} from './index';

const part = (id: number, item: string, quantity: string, more: Partial<PickPart> = {}): PickPart => ({
  id,
  line: id,
  lineNo: id,
  item,
  bin: 'A-01',
  lot: '',
  expires: null,
  until: '2027-03-09',
  quantity,
  done: '0',
  numbered: null,
  ...more,
});
const item = (code: string, more: Partial<ScannedItem> = {}): ScannedItem => ({
  item: code,
  gtin: null,
  tracksLots: false,
  tracksSerials: false,
  units: [],
  ...more,
});
const JAR = item('JAR', { gtin: '05901234123457', units: [{ unit: 'XTY', gtin: '15901234123454', size: '24' }] });
const SYRUP = item('SYR', { gtin: '09501101530003', tracksLots: true });
const facts: ScanFacts = {
  parts: [
    part(1, 'JAR', '60'),
    part(2, 'SYR', '4', { lot: 'L1', expires: '2027-06-30', until: '2027-04-01' }),
    part(3, 'SYR', '2', { lot: 'L2', expires: '2027-08-31', until: '2027-04-01' }),
  ],
  items: [JAR, SYRUP, item('OUT')],
  serials: new Map(),
  lotExpires: null,
  today: '2027-03-09',
};
const scanned = (text: string, count = '1', known = facts) => {
  const read = readScan(text, '2027-03-09');
  if (!read.ok) throw new Error(read.fault);
  const decision = decideScan(read.scan, count, known);
  return decision.ok ? [decision.item, decision.quantity, decision.parts.map((row) => [row.part.id, row.quantity])] : scanWords(decision.refusal, known.today);
};

describe('what a scan puts into a carton', () => {
  test('one of an item, a tray of it, as many as the label says, or as many as were typed', () => {
    expect(scanned('5901234123457')).toEqual(['JAR', '1', [[1, '1']]]);
    expect(scanned('15901234123454', '2')).toEqual(['JAR', '48', [[1, '48']]]);
    expect(scanned('(01)05901234123457(30)12')).toEqual(['JAR', '12', [[1, '12']]]);
    expect(scanned('jar', '5')).toEqual(['JAR', '5', [[1, '5']]]);
  });

  test('the lot that was scanned, and no other', () => {
    expect(scanned('(01)09501101530003(10)L2', '2')).toEqual(['SYR', '2', [[3, '2']]]);
    expect(scanned('(01)09501101530003(10)L9')).toBe('Lot L9 of SYR is not in this shipment. It takes lot L1 or L2.');
    expect(scanned('9501101530003')).toBe('SYR is kept by lot. Scan the label with the lot: L1 or L2.');
    expect(scanned('(01)09501101530003(10)L2', '3')).toBe('3 of SYR are too many. 2 are missing.');
  });

  test('what has expired, or does not last until it must', () => {
    expect(scanned('(01)09501101530003(17)270301(10)L1')).toBe('Lot L1 of SYR expired Mon 1 Mar. Put it into quarantine.');
    expect(scanned('(01)09501101530003(17)270320(10)L1')).toBe('Lot L1 of SYR expires Sat 20 Mar. It must last until Thu 1 Apr.');
  });

  test('what is of another shipment, or nothing of ours', () => {
    expect(scanned('OUT')).toBe('OUT is not in this shipment. Put it back.');
    expect(scanned('4006381333931')).toBe('No item has the code 04006381333931. Scan the label again, or enter the item code.');
  });

  test('serial numbers: each once', () => {
    const own = { ...facts, items: [item('JAR', { gtin: '05901234123457', tracksSerials: true })], serials: new Map([['S1', 'in carton 2']]) };
    expect(scanned('JAR', '1', own)).toBe('JAR has serial numbers. Scan the serial number.');
    expect(scanned('(01)05901234123457(21)S1', '1', own)).toBe('Serial number S1 of JAR is in carton 2.');
    expect(scanned('(01)05901234123457(21)S2', '2', own)).toBe('JAR has serial numbers. Scan each piece by itself.');
    expect(scanned('(01)05901234123457(21)S2', '1', own)).toEqual(['JAR', '1', [[1, '1']]]);
  });
});

describe('what keeps a shipment from leaving', () => {
  const packed = facts.parts.map((row) => ({ ...row, done: row.quantity }));
  const ready: LeaveFacts = {
    parts: packed,
    cartons: [{ number: 1, closed: true }],
    labelled: true,
    labels: [{ state: 'made', fault: '' }],
    tracking: '',
    today: '2027-03-09',
  };
  const faults = (more: Partial<LeaveFacts>) => decideLeave({ ...ready, ...more }).map((fault) => leaveWords(fault, '2027-03-09'));

  test('nothing, once all is packed, closed and labelled', () => {
    expect(faults({})).toEqual([]);
  });

  test('what is not packed, an open carton, a label that is missing, waits or failed', () => {
    expect(faults({ parts: [part(1, 'JAR', '60', { done: '48' })] })).toEqual(['Line 1, JAR: 12 not packed yet. Pack them, or report what is missing']);
    expect(faults({ cartons: [{ number: 2, closed: false }] })).toEqual(['Carton 2 is still open. Weigh and close it']);
    expect(faults({ labels: [] })).toEqual(['The carrier takes nothing without a label. Make it, or enter the tracking number of one']);
    expect(faults({ labels: [{ state: 'waiting', fault: '' }] })).toHaveLength(1);
    expect(faults({ labels: [{ state: 'failed', fault: 'too heavy' }] })).toEqual(['The label failed: too heavy. Try again, or choose another service']);
  });

  test('a number that was entered stands for a label made elsewhere; a shipment nobody packed by scanning is confirmed by hand', () => {
    expect(faults({ labels: [], tracking: 'T1' })).toEqual([]);
    expect(faults({ parts: facts.parts, cartons: [], labels: [] })).toEqual([]);
  });

  test('what has expired since it was picked', () => {
    expect(faults({ parts: [part(2, 'SYR', '4', { lot: 'L1', expires: '2027-03-01', done: '4' })] })[0]).toContain('4 of lot L1 expired Mon 1 Mar');
  });
});

test('whoever picks is told where to go instead, what stays short, and who is hurt', () => {
  expect(
    shortWords({
      item: 'JAR',
      missing: '5',
      instead: [{ bin: 'R-02', lot: '', quantity: '3' }],
      moved: [{ order: '20312', customer: 'Wether Hill', days: ['2027-03-18'] }],
      today: '2027-03-09',
    }),
  ).toBe('Pick 3 JAR from R-02 instead. 2 JAR cannot be picked now. Order 20312 of Wether Hill moves to Thu 18 Mar: a call is on the list.');
});

test('the mail says what has left, how it is followed, and what is still to come with its day', () => {
  const letter = despatchLetter(
    {
      firm: 'Fell & Moor Supply',
      contact: 'Nora',
      shipments: [{ number: '20400-1', order: '20400', poNumber: 'PO 77' }],
      warehouse: 'Marrowby',
      service: 'Ground',
      tracking: 'HA100007919',
      link: 'http://desk.example/track/HA100007919',
      arrives: '2027-03-10',
      goods: [{ quantity: '24', unit: 'EA', item: 'THEIRS-1', description: 'Hexagonal jar' }],
      follows: [
        { order: '20400', quantity: '4', unit: 'EA', item: 'TNK', description: 'Tank', day: '2027-03-17' },
        { order: '20400', quantity: '1', unit: 'EA', item: 'LBL', description: 'Label', day: null },
      ],
      by: 'Ida',
    },
    '2027-03-09',
  );
  expect(letter.subject).toBe('Shipment 20400-1 has left, your order PO 77');
  expect(letter.text).toContain('by Ground. It should reach you on Wednesday the 10th.');
  expect(letter.text).toContain('  24 each THEIRS-1, Hexagonal jar');
  expect(letter.text).toContain('  4 each TNK, Tank: leaves on Wednesday the 17th');
  expect(letter.text).toContain('  1 each LBL, Label: we tell you the day as soon as we know it');
  expect(letter.text).toContain('Fell & Moor Supply');
});

test('a day that was missed moves to the first that can be kept; what is due later stays', () => {
  const promises = [
    { day: '2027-03-08', quantity: '2' },
    { day: '2027-03-09', quantity: '3' },
    { day: '2027-03-10', quantity: '4' },
    { day: '2027-03-20', quantity: '5' },
  ];
  expect(afterMissedDay(promises, '2027-03-10')).toEqual([
    { day: '2027-03-10', quantity: '9' },
    { day: '2027-03-20', quantity: '5' },
  ]);
  expect(afterMissedDay(promises, '2027-03-08')).toBeNull();
});
