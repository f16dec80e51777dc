import fc from 'fast-check';
import { readNumber, readTable, writeCsv, writeTable } from './index';

const COLUMNS = [
  { key: 'item', names: ['code', 'article'] },
  { key: 'unit', names: [] },
  { key: 'price', names: ['unit price'] },
] as const;

describe('a pasted table', () => {
  test('with a first row that names columns is read by their names, in any order', () => {
    const read = readTable('Unit Price;Colour;Code\n0.52;blue;JAR\n;;\n0.19;red;LID\n', COLUMNS);
    expect(read).toEqual({
      columns: ['price', null, 'item'],
      headed: true,
      rows: [
        { line: 2, cells: { price: '0.52', item: 'JAR' } },
        { line: 4, cells: { price: '0.19', item: 'LID' } },
      ],
    });
  });

  test('without one is read in the order of the columns', () => {
    expect(readTable('JAR\tEA\t0.52', COLUMNS)).toMatchObject({ headed: false, rows: [{ line: 1, cells: { item: 'JAR', unit: 'EA', price: '0.52' } }] });
    expect(readTable('  \n', COLUMNS).rows).toEqual([]);
  });

  // RFC 4180, section 2, rules 5 to 7: fields in quotes may hold commas and line breaks; a quote in them stands twice.
  test('reads quoted cells as RFC 4180 has them', () => {
    const [row] = readTable('"A ""small"" jar, blue","EA\nline","1"', COLUMNS).rows;
    expect(row!.cells).toEqual({ item: 'A "small" jar, blue', unit: 'EA\nline', price: '1' });
  });

  test('whatever is written is read back', () => {
    const cell = fc.string({ maxLength: 12 }).map((text) => text.trim());
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 12 }), (rows) => {
        const read = readTable(writeTable([['item', 'unit', 'price'], ...rows]), COLUMNS);
        const expected = rows.filter((row) => row.some(Boolean)).map(([item, unit, price]) => ({ item, unit, price }));
        expect(read.rows.map((row) => ({ item: '', unit: '', price: '', ...row.cells }))).toEqual(expected);
      }),
    );
  });
});

test.each([
  ['0.52', '0.52'],
  ['0,52', '0.52'],
  ['1,234.50', '1234.50'],
  ['1.234,50', '1234.50'],
  ['12 %', '12'],
  ['€ 4', '4'],
  ['1,200', '1200'],
  ['12a', null],
  ['-3', null],
  ['', null],
])('the number %j is %j', (text, value) => expect(readNumber(text)).toBe(value));

test.each(['=1+1', '+49 30', '-5', '@SUM(A1)', '\tx', '=HYPERLINK("http://a.example")'])(
  '%j is copied as text that a spreadsheet does not work out, and read back as it was',
  (cell) => {
    const copied = writeTable([
      ['item', 'price'],
      [cell, '1'],
    ]);
    // Source: OWASP, CSV Injection: what begins with = + - @, a tab or a carriage return.
    expect(copied.split('\n')[1]!.replace(/^"/, '')).toMatch(/^'/);
    expect(
      readTable(copied, [
        { key: 'item', names: [] },
        { key: 'price', names: [] },
      ]).rows[0]!.cells,
    ).toEqual({ item: cell.trim(), price: '1' });
  },
);

describe('comma-separated values', () => {
  // RFC 4180, section 2: rules 1 (CRLF), 5 and 6 (fields with commas and breaks are quoted), 7 (a quote is doubled).
  test('are as RFC 4180 has them', () => {
    const rows = [
      ['a', 'b,c'],
      ['d "e"', 'f\ng'],
    ];
    expect(writeCsv(rows)).toBe('a,"b,c"\r\n"d ""e""","f\ng"\r\n');
  });

  test.each(['=1+1', '+1', '-1', '@x'])('%s is no formula any more', (cell) => expect(writeCsv([[cell]])).toBe(`"'${cell}"\r\n`));

  test('are read again as they were written', () => {
    const plain = fc.stringMatching(/^[a-z0-9][a-z0-9 ,;"'.-]{0,20}[a-z0-9]$/);
    const columns = [
      { key: 'x', names: [] },
      { key: 'y', names: [] },
    ] as const;
    fc.assert(
      fc.property(fc.array(fc.tuple(plain, plain), { minLength: 1 }), (rows) => {
        const read = readTable(`x,y\r\n${writeCsv(rows)}`, columns).rows.map(({ cells }) => [cells.x, cells.y]);
        expect(read).toEqual(rows);
      }),
    );
  });
});
