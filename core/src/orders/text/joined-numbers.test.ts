import { readOrderText } from './read-order-text';
import { inSeveralWords, joinNumbers } from './joined-numbers';

const TODAY = '2027-03-09';
const NUMBERS = ['OM 4411', 'OM 4411 B', '44 12', 'SINGLE-7'];
const read = (text: string) => readOrderText(text, TODAY, NUMBERS).lines.map(({ item, quantity, words }) => [item, quantity?.value ?? null, words]);

test.each([
  ['12 x OM 4411', [['om 4411'], '12', '12 x OM 4411']],
  ['om  4411: 12 pcs', [['om 4411'], '12', 'om 4411: 12 pcs']],
  ['please send 6 trays of OM 4411 B', [['om 4411 b'], '6', 'please send 6 trays of OM 4411 B']],
  ['20 of 44 12', [['44 12'], '20', '20 of 44 12']],
])('a number of several words is one word of its line: %s', (text, line) => expect(read(text)).toEqual([line]));

test('it is no part of a longer number, and one word needs no joining', () => {
  expect(joinNumbers('ROM 4411 and OM 44110', inSeveralWords(NUMBERS))).toBe('ROM 4411 and OM 44110');
  expect(inSeveralWords(NUMBERS)).toEqual(['OM 4411 B', 'OM 4411', '44 12']);
});

test('without such numbers the same words are read as before', () => expect(readOrderText('12 x OM 4411', TODAY).lines[0]!.item).not.toContain('om 4411'));
