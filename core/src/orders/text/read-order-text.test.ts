import fc from 'fast-check';
import { readOrderText } from './index';

const TODAY = '2027-03-09'; // a Tuesday
const lines = (text: string) =>
  readOrderText(text, TODAY).lines.map(({ item, quantity, unit, day }) => [item.join(' '), quantity?.value ?? null, unit?.value ?? null, day?.days[0] ?? null]);

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

describe('a day', () => {
  const said = (text: string) => {
    const { days, asks, why } = readOrderText(`12 jars ${text}`, TODAY).lines[0]!.day!;
    return [days, asks, why];
  };
  test.each<[string, readonly string[], boolean]>([
    ['by 10/12', ['2027-12-10', '2027-10-12'], true],
    ['by 18/03', ['2027-03-18'], false],
    ['by 3/15', ['2027-03-15'], true],
    ['by 30/02', [], true],
    ['by 31 april', [], true],
    ['asap', [], false],
    ['as soon as possible', [], false],
    ['in week 50', ['2027-12-13', '2027-12-17'], true],
    ['week 10', ['2027-03-12'], false],
    ['next week', ['2027-03-15', '2027-03-19'], true],
    ['tomorrow morning', ['2027-03-10'], false],
    ['by friday afternoon', ['2027-03-12'], false],
    ['by friday at the latest', ['2027-03-12'], false],
    ['in 10 days', ['2027-03-19'], false],
    ['within 2 weeks', ['2027-03-23'], false],
    ['by the end of the month', ['2027-03-31'], false],
    ['end of april', ['2027-04-30'], false],
    ['by the end of march', ['2027-03-31'], false],
  ])('%s', (text, days, asks) => expect(said(text).slice(0, 2)).toEqual([days, asks]));

  test('says what has to be known of it', () => {
    expect(said('tomorrow morning')[2]).toBe('“morning”: a day is promised, no hour');
    expect(said('by 30/02')[2]).toBe('“30/02” is no day');
    expect(said('asap')[2]).toBe('“asap” names no day: the earliest is promised');
  });

  // ISO 8601: 2026-12-31 is in week 53 of 2026, 2027-01-04 begins week 1 of 2027.
  test('weeks are those of ISO 8601', () => {
    expect(readOrderText('12 jars in week 53', '2026-12-01').lines[0]!.day!.days).toEqual(['2026-12-28', '2027-01-01']);
    expect(readOrderText('12 jars in week 1', '2026-12-01').lines[0]!.day!.days).toEqual(['2027-01-04', '2027-01-08']);
  });
});

describe('what is no line of an order, though it names goods, is a task', () => {
  const read = (text: string) => {
    const { lines: found, rest, poNumber } = readOrderText(text, TODAY);
    return {
      lines: found.map(({ item, quantity }) => [item.join(' '), quantity?.value]),
      tasks: rest.filter((one) => one.kind === 'task').map(({ words }) => words),
      po: poNumber?.value,
    };
  };
  test.each<[string, readonly (readonly string[])[], readonly string[]]>([
    ['We do not need 20 trays', [], ['We do not need 20 trays']],
    ['Please cancel the 5 smokers', [], ['Please cancel the 5 smokers']],
    ['Instead of 10 send 12', [], ['Instead of 10 send 12']],
    ['12 jars and cancel the suits from order 20372', [['jars', '12']], ['and cancel the suits from order 20372']],
    ['12 jars round, if no round then 12 hexagonal', [['jars round', '12']], ['if no round then 12 hexagonal']],
    ['half of last time please', [], ['half of last time please']],
    ['order 20311 again please', [], ['order 20311 again please']],
  ])('%s', (text, found, tasks) => expect(read(text)).toEqual({ lines: found, tasks, po: undefined }));
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
    ['it rained friday', undefined, undefined],
  ])('%s', (text, kind, day) => {
    const { wish } = readOrderText(text, TODAY);
    expect([wish?.kind, wish?.days[0]]).toEqual([kind, day]);
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
    'cancel',
    'not',
    'if',
    'instead',
    'asap',
    'week',
    '1.200',
    '10/12',
    '30/02',
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
