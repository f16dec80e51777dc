import { checkDigit, elementText, makeSscc, readScan } from './index';

test('a worked SSCC: 37610425002123456 has the check digit 9 (GS1 General Specifications, from memory)', () => {
  expect(checkDigit('37610425002123456')).toBe(9);
  expect(makeSscc('7610425', 2123456, 3)).toBe('376104250021234569');
});

test('a serial fills what the prefix leaves; one that does not fit is no number', () => {
  expect(makeSscc('0200417', 1)).toHaveLength(18);
  expect(makeSscc('1234567890', 999999)).toHaveLength(18);
  expect(() => makeSscc('1234567890', 1_000_000)).toThrow('does not fit');
  expect(() => makeSscc('123', 1)).toThrow('does not fit');
});

test('what is written for a symbol is read back', () => {
  const sscc = makeSscc('0200417', 77);
  const read = readScan(elementText([['00', sscc]]), '2027-03-09');
  expect(read).toEqual({ ok: true, scan: { sscc } });
});
