import { asOrderText, readOrderTable } from './index';

const TODAY = '2027-03-09';
const table = (...rows: readonly string[][]) => rows.map((row) => row.join('\t')).join('\n');

test.each<[string, string, readonly string[], string]>([
  [
    'named columns are taken by their names',
    table(['Description', 'Qty', 'Item code', 'Price'], ['Jar', '20', 'JAR-340-HX', '0.52'], ['Lid', '480', 'LID-063-GD', '0.19']),
    ['none', 'quantity', 'item', 'none'],
    '20 JAR-340-HX\n480 LID-063-GD',
  ],
  [
    'unnamed ones by what is in them',
    table(['JAR-340-HX', 'Hexagonal jar', '20', 'tray'], ['LID-063-GD', 'Twist lid, gold', '1,200', 'each']),
    ['item', 'none', 'quantity', 'unit'],
    '20 tray JAR-340-HX\n1200 each LID-063-GD',
  ],
  [
    'without codes the longest words are the item',
    table(['4', 'boxes', 'foundation deep wired', 'fri'], ['12', 'each', 'bee brush', 'mon']),
    ['quantity', 'unit', 'item', 'day'],
    '4 boxes foundation deep wired fri\n12 each bee brush mon',
  ],
  [
    'of two whole numbers the first is the quantity',
    table(['JAR-340-HX', '20', '3'], ['LID-063-GD', '480', '7']),
    ['item', 'quantity', 'none'],
    '20 JAR-340-HX\n480 LID-063-GD',
  ],
])('%s', (_, text, columns, lines) => {
  const read = readOrderTable(text, TODAY)!;
  expect(read.columns).toEqual(columns);
  expect(asOrderText(read)).toBe(lines);
});

test.each([
  ['a mail', 'Hi Ida,\n20 trays hexagonal jars\nthanks'],
  ['one row', 'JAR-340-HX\t20'],
  ['rows of which one has no cells', 'JAR-340-HX\t20\nthanks'],
])('%s is no table', (_, text) => expect(readOrderTable(text, TODAY)).toBeNull());

test('columns that somebody corrects are read so, and empty rows are left out', () => {
  const read = readOrderTable(table(['JAR-340-HX', '20', '3'], ['', '', ''], ['LID-063-GD', '480', '7']), TODAY)!;
  expect(asOrderText({ ...read, columns: ['item', 'none', 'quantity'] })).toBe('3 JAR-340-HX\n7 LID-063-GD');
});
