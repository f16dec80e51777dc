import { joinNumberWords, readNumberWords } from './number-words';
import { readOrderText } from './read-order-text';

/** The numbers of a text, as they are read. */
const numbers = (text: string) =>
  joinNumberWords(text)
    .split(/\s+/)
    .map((word) => readNumberWords(word))
    .filter((value) => value !== null);

test.each<[string, number[]]>([
  ['twenty trays', [20]],
  ['forty eight lids', [48]],
  ['forty-eight lids and nineteen jars', [48, 19]],
  ['two hundred and fifty lids', [250]],
  ['a hundred jars', [100]],
  ['seventeen', [17]],
  ['a jar, an extractor', []],
  ['often, tenfold, stone, weight', []],
])('%s says %j', (text, values) => expect(numbers(text)).toEqual(values));

const lines = (text: string) =>
  readOrderText(text, '2027-03-09').lines.map(({ quantity, unit, item }) => [quantity?.value, unit?.value ?? null, item.join(' ')]);

test('numbers in words part lines as digits do, and a hundred keeps what follows it', () => {
  expect(lines('one tray of jars, forty eight lids and a dozen brushes')).toEqual([
    ['1', 'XTY', 'jars'],
    ['48', null, 'lids'],
    ['1', 'DZN', 'brushes'],
  ]);
  expect(lines('a hundred and twenty lids, 2 hundred jars')).toEqual([
    ['120', null, 'lids'],
    ['200', null, 'jars'],
  ]);
});

test('what says that things are counted is no part of their name', () => {
  expect(lines('6 no. feeders\n4 nr tools\n12 off lids')).toEqual([
    ['6', null, 'feeders'],
    ['4', null, 'tools'],
    ['12', null, 'lids'],
  ]);
});

test.each([
  ['please order 480 gold lids', undefined],
  ['our order no. 480', '480'],
  ['PO#: WH-8851', 'WH-8851'],
  ['Purchase order number is 4711', '4711'],
])('%s: the order number is %s', (text, number) => expect(readOrderText(text, '2027-03-09').poNumber?.value).toBe(number));
