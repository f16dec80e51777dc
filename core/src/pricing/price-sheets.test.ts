import { readContractLines, readPrices, writeContractLines, writePrices, type SheetLine } from './index';

describe('lines of a contract from a spreadsheet', () => {
  test('are fixed prices, percentages off the list, or on cost', () => {
    const text =
      'code\tgroup\tUoM\tprice\tdiscount %\tcost plus\tmin\tmax\njar-340\t\ttray\t10,40\t\t\t480\t24000\n\tJars\t\t\t8 %\t\t\t\nLID\t\t\t\t\t22\t\t\n';
    expect(readContractLines(text)).toEqual({
      columns: ['item', 'group', 'unit', 'price', 'off', 'plus', 'minimum', 'most'],
      rows: [
        { item: 'JAR-340', kind: 'fixed', unit: 'XTY', price: '10.40', minimum: '480', most: '24000' },
        { group: 'Jars', kind: 'off_list', percent: '8' },
        { item: 'LID', kind: 'cost_plus', percent: '22' },
      ],
      faults: [],
    });
  });

  test('tell every fault with its line and field, and give the others', () => {
    const text = 'item,unit,price,off list\nJAR,EA,0.5,\n,EA,1,\nLID,EA,1,5\nTUB,barrel,1,\nBOX,EA,cheap,\nCUP,,,\n';
    const { rows, faults } = readContractLines(text);
    expect(rows.map((row) => row.item)).toEqual(['JAR']);
    expect(faults).toEqual([
      { line: 3, field: 'item', message: 'an item or a group is missing' },
      { line: 4, field: 'price', message: 'expected one of price, off list and cost plus' },
      { line: 5, field: 'unit', message: 'barrel is no unit' },
      { line: 6, field: 'price', message: 'cheap is no number' },
      { line: 7, field: 'price', message: 'a price, a percentage off list or one on cost is missing' },
    ]);
  });

  test('are the same there and back', () => {
    const lines: SheetLine[] = [
      { item: 'JAR', kind: 'fixed', unit: 'EA', price: '0.5', most: '500' },
      { group: 'Jars', kind: 'off_list', percent: '8', minimum: '24' },
    ];
    expect(readContractLines(writeContractLines(lines)).rows).toEqual(lines);
  });
});

describe('prices of a list from a spreadsheet', () => {
  test('hold from one where no quantity stands there', () => {
    expect(readPrices('item\tunit\tfrom\tprice\njar\tEA\t\t0.52\njar\teach\t100\t0,48').rows).toEqual([
      { item: 'JAR', unit: 'EA', from: '1', price: '0.52' },
      { item: 'JAR', unit: 'EA', from: '100', price: '0.48' },
    ]);
  });

  test('tell their faults, and are the same there and back', () => {
    expect(readPrices('item,unit,from,price\n,EA,1,1\nJAR,EA,some,1\nJAR,EA,1,\nJAR,EA,1,x').faults.map(({ line, field }) => [line, field])).toEqual([
      [2, 'item'],
      [3, 'from'],
      [4, 'price'],
      [5, 'price'],
    ]);
    const rows = [{ item: 'JAR', unit: 'EA', from: '1', price: '0.52' }];
    expect(readPrices(writePrices(rows)).rows).toEqual(rows);
  });
});
