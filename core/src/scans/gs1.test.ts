import fc from 'fast-check';
import { parseBarcode } from 'gs1-barcode-parser-mod';
import { checkDigit, isGtin, readScan } from './gs1';

const TODAY = '2027-03-09';
const GS = '\u001d';

// GS1 General Specifications, check digit calculation; examples from memory, computed again by hand.
test.each([
  ['629104150021', 3],
  ['37610425002123456', 9],
  ['0950110153000', 3],
])('the check digit of %s is %i', (digits, check) => expect(checkDigit(digits)).toBe(check));

test('a GTIN of 8, 12, 13 or 14 digits is told from other numbers by its check digit', () => {
  expect(isGtin('6291041500213')).toBe(true);
  expect(isGtin('09501101530003')).toBe(true);
  expect(isGtin('96385074')).toBe(true);
  expect(isGtin('6291041500214')).toBe(false);
  expect(isGtin('62910415002')).toBe(false);
});

test('what a handheld scanner types of a label is read: item, lot, expiry and count', () => {
  const scan = { gtin: '09501101530003', lot: 'A-17', expires: '2028-02-29', count: 48 };
  expect(readScan(`]C101095011015300031728020010A-17${GS}3748`, TODAY)).toEqual({ ok: true, scan });
  expect(readScan('(01)09501101530003(17)280229(10)A-17(37)48', TODAY)).toEqual({ ok: true, scan });
  expect(readScan(`010950110153000310A-17${GS}17280200${GS}3748`, TODAY)).toEqual({ ok: true, scan });
});

test('a bare number with a check digit is an item, all other text is what was typed', () => {
  expect(readScan('6291041500213', TODAY)).toEqual({ ok: true, scan: { gtin: '06291041500213' } });
  expect(readScan(' P7612 ', TODAY)).toEqual({ ok: true, scan: { plain: 'P7612' } });
});

test.each([
  ['(01)09501101530004', '(01) 09501101530004 is not right: its check digit does not fit'],
  ['(17)281301', '(17) 281301 is not right: expected a day as YYMMDD'],
  ['(10)', '(10) holds nothing: expected up to 20 characters'],
  ['(99)x', '(99) is not known here'],
  [`]C1${GS}zz`, 'the label says zz where an identifier should be'],
  ['', 'nothing was scanned'],
])('a broken label %s says what is wrong', (text, fault) => expect(readScan(text, TODAY)).toEqual({ ok: false, fault }));

test('years lie from 49 back to 50 ahead', () => {
  const yearOf = (yy: string) => {
    const result = readScan(`(17)${yy}0101`, TODAY);
    return result.ok ? result.scan.expires?.slice(0, 4) : result.fault;
  };
  expect(['27', '77', '78', '99', '00'].map(yearOf)).toEqual(['2027', '2077', '1978', '1999', '2000']);
});

/** Compared with a package of the registry, on labels it can read. */
test('labels are read as another reader reads them', () => {
  const lot = fc.stringMatching(/^[A-Z0-9-]{1,12}$/);
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 9_999_999 }), lot, fc.integer({ min: 1, max: 9999 }), fc.integer({ min: 1, max: 28 }), (item, batch, count, day) => {
      const body = String(950110000000 + item).padStart(13, '0');
      const label = `]C101${body}${checkDigit(body)}1728${'05'}${String(day).padStart(2, '0')}10${batch}${GS}37${count}`;
      const theirs = new Map(parseBarcode(label).parsedCodeItems.map((row) => [row.ai, row.data]));
      const ours = readScan(label, TODAY);
      const expires = theirs.get('17') as Date;
      expect(ours).toEqual({
        ok: true,
        scan: {
          gtin: theirs.get('01'),
          lot: theirs.get('10'),
          count: Number(theirs.get('37')),
          expires: `${expires.getFullYear()}-${String(expires.getMonth() + 1).padStart(2, '0')}-${String(expires.getDate()).padStart(2, '0')}`,
        },
      });
    }),
  );
});
