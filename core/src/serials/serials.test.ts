import { checkSerials, mayTake, readSerials, type SerialWhere } from '.';

const TODAY = '2027-03-09';
const read = (text: string) => {
  const result = readSerials(text, TODAY);
  return result.ok ? result.serials : result.faults.map((fault) => fault.message);
};

test('numbers are read by line, comma or semicolon, each as it stands', () => {
  expect(read('EX-1\nEX-2, 00017; a/b\n\n')).toEqual(['EX-1', 'EX-2', '00017', 'a/b']);
  expect(read('')).toEqual([]);
  // A number with as many digits as an item's is a number all the same.
  expect(read('96385074')).toEqual(['96385074']);
});

test('a range runs over its last digits, with the zeros before them', () => {
  expect(read('EX-0098..EX-0102')).toEqual(['EX-0098', 'EX-0099', 'EX-0100', 'EX-0101', 'EX-0102']);
  expect(read('7 .. 9')).toEqual(['7', '8', '9']);
  expect(read('A5…A5')).toEqual(['A5']);
  // Beyond what a binary number holds exactly.
  expect(read('90071992547409930..90071992547409931')).toEqual(['90071992547409930', '90071992547409931']);
});

test.each([
  ['EX-9..EX-10', 'EX-9..EX-10 is no range: both ends need the same beginning, and as many digits at their end'],
  ['EX-1..FX-2', 'EX-1..FX-2 is no range: both ends need the same beginning, and as many digits at their end'],
  ['EX-5..EX-3', 'EX-5..EX-3 is no range: it ends before it begins'],
  ['A0000..A9999', 'A0000..A9999 holds 10000 numbers: expected 2000 at most'],
  ['EX-1, EX-1', 'serial number EX-1 stands twice'],
  ['EX-1..EX-3, EX-2', 'serial number EX-2 stands twice'],
  ['S€1', 'S€1 is no serial number: expected up to 20 letters, digits and signs'],
  ['123456789012345678901', '123456789012345678901 is no serial number: expected up to 20 letters, digits and signs'],
  ['(01)05901234123457(10)L1', 'the label (01)05901234123457(10)L1 has no serial number (21)'],
])('%s is refused', (text, message) => expect(read(text)).toEqual([message]));

test('no more are read at once than anybody has at a dock', () => {
  const ranges = Array.from({ length: 1_200 }, (_, at) => `${at}-0000..${at}-1999`).join(';');
  expect(read(ranges)).toEqual(['more than 10000 serial numbers: enter them in parts']);
});

test('a label gives the number it carries: AI (21) of the GS1 General Specifications', () => {
  expect(read('(01)05901234123457(21)S-1\n]d2010590123412345721S-2')).toEqual(['S-1', 'S-2']);
});

test('a piece may be taken where it is free, or where nobody knew of it', () => {
  expect(mayTake({ kind: 'place', warehouse: 'MAR', bin: '' }, 'MAR')).toBe(true);
  expect(mayTake({ kind: 'unseen' }, 'MAR')).toBe(true);
  expect(mayTake({ kind: 'place', warehouse: 'QUI', bin: '' }, 'MAR')).toBe(false);
  expect(mayTake({ kind: 'place', warehouse: 'MAR', bin: '', quarantine: true }, 'MAR')).toBe(false);
  expect(mayTake({ kind: 'shipped', shipment: '20001-1' }, 'MAR')).toBe(false);
});

describe('what comes in', () => {
  const known = new Map<string, SerialWhere>([
    ['S1', { kind: 'place', warehouse: 'MAR', bin: 'A-01' }],
    ['S2', { kind: 'shipped', shipment: '20001-1' }],
    ['S3', { kind: 'unseen' }],
  ]);
  const check = (text: string, quantity: string) => {
    const checked = checkSerials('FRAME', text, quantity, known, TODAY);
    return checked.ok ? checked.serials : checked.messages;
  };

  test('has a number for each piece', () => {
    expect(check('S7..S9', '3')).toEqual(['S7', 'S8', 'S9']);
    expect(check('S7', '3')).toEqual(['FRAME has serial numbers: expected 3, got 1']);
    expect(check('', '2')).toEqual(['FRAME has serial numbers: expected 2, got none']);
    expect(check('S7', '1.5')).toEqual(['FRAME has serial numbers: expected 1.5, got 1']);
  });

  test('is nowhere else; what was missing comes up again', () => {
    expect(check('S1, S2', '2')).toEqual([
      'serial number S1 of FRAME is in A-01 at MAR',
      'serial number S2 of FRAME is with the customer, by shipment 20001-1',
    ]);
    expect(check('S3', '1')).toEqual(['S3']);
  });
});
