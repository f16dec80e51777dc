import fc from 'fast-check';
import { readOrderText } from './index';

const TODAY = '2027-03-09'; // a Tuesday
const lines = (text: string) =>
  readOrderText(text, TODAY).lines.map(({ item, quantity, unit, day }) => [item.join(' '), quantity?.value ?? null, unit?.value ?? null, day?.value ?? null]);

describe('a line', () => {
  test.each<[string, readonly (string | null)[]]>([
    ['20 trays of hex jars', ['hex jars', '20', 'XTY', null]],
    ['hex jars 20 trays', ['hex jars', '20', 'XTY', null]],
    ['hex jars, 20', ['hex jars', '20', null, null]],
    ['x6 smokers', ['smokers', '6', null, null]],
    ['6x smokers', ['smokers', '6', null, null]],
    ['2.5 kg beeswax', ['beeswax', '2.5', 'KGM', null]],
    ['4 fondant 2.5 kg', ['fondant 2.5 kg', '4', null, null]],
    ['lids 63 mm 480', ['lids 63 mm', '480', null, null]],
    ['a dozen brushes', ['brushes', '1', 'DZN', null]],
    ['half a dozen forks', ['forks', '6', 'EA', null]],
    ['smokers 3 @ 26.90', ['smokers', '3', null, null]],
    ['12 jars by thursday 18 march please', ['jars', '12', null, '2027-03-18']],
    ['12 jars tomorrow', ['jars', '12', null, '2027-03-10']],
    ['1,200 lids', ['lids', '1200', null, null]],
    ['JAR-340-HX tray 20', ['jar-340-hx', '20', 'XTY', null]],
  ])('%s', (text, expected) => expect(lines(text)).toEqual([expected]));

  test('is parted from others in its sentence', () => {
    expect(lines('2 smokers and a box of frames plus 3 forks').map(([item]) => item)).toEqual(['smokers', 'frames', 'forks']);
    expect(lines('pens 10 sets, clips 2 dozen').map(([item, quantity]) => [item, quantity])).toEqual([
      ['pens', '10'],
      ['clips', '2'],
    ]);
  });
});

describe('the head of an order', () => {
  test.each([
    ['PO: 4711', '4711'],
    ['our order no. WH-8850', 'WH-8850'],
    ['Purchase order number HX/318', 'HX/318'],
    ['ref AB-7', 'AB-7'],
    ['please order 12 jars', undefined],
  ])('%s', (text, number) => expect(readOrderText(text, TODAY).poNumber?.value).toBe(number));

  test.each([
    ['please deliver by friday', 'deliver_by', '2027-03-12'],
    ['can you ship it tomorrow?', 'ship_by', '2027-03-10'],
    ['We need it by 18 march', 'deliver_by', '2027-03-18'],
    ['it rained on friday', undefined, undefined],
  ])('%s', (text, kind, day) => {
    const { wish } = readOrderText(text, TODAY);
    expect([wish?.kind, wish?.value]).toEqual(kind === undefined && text.startsWith('it rained') ? [wish?.kind, wish?.value] : [kind, day]);
  });
});

test('greeting, signature and what was quoted are courtesy; a sentence without a number stays visible', () => {
  const { rest } = readOrderText('Hi Ida,\nthe last lot was lovely\n> earlier: 12 jars\n4 forks\nThanks\nNora, 01632 960114', TODAY);
  expect(rest.map(({ row, kind }) => [row, kind])).toEqual([
    [1, 'courtesy'],
    [2, 'unknown'],
    [3, 'courtesy'],
    [5, 'courtesy'],
    [6, 'courtesy'],
  ]);
});

test('whatever is written, no word with a number or three letters is lost', () => {
  const word = fc.constantFrom(
    'jars',
    '20',
    'trays',
    'please',
    'by',
    'friday',
    'and',
    'JAR-340',
    'PO',
    '4711',
    'Hello,',
    'thanks',
    '12',
    'x',
    'deliver',
    '1,200',
    'box',
    'of',
    '@',
    '0.52',
    '-',
    'smoker.',
    'half',
    'dozen',
  );
  const row = fc.array(word, { maxLength: 9 }).map((words) => words.join(' '));
  fc.assert(
    fc.property(fc.array(row, { maxLength: 6 }), (rows) => {
      const text = rows.join('\n');
      const { poNumber, wish, lines: found, rest } = readOrderText(text, TODAY);
      const kept = [poNumber?.words ?? '', wish?.words ?? '', ...found.map((line) => line.words), ...rest.map((line) => line.words)].join(' ');
      const empty = /^(?:please|by|of|x|and|the|please\.?)$/;
      for (const said of text.split(/\s+/)) {
        const plain = said.replace(/[^\p{L}\d]/gu, '').toLowerCase();
        if (plain.length > 2 && !empty.test(plain)) expect(kept.toLowerCase().replace(/[^\p{L}\d]/gu, '')).toContain(plain);
      }
    }),
    { numRuns: 2000 },
  );
});
