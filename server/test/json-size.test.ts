import fc from 'fast-check';
import { tooMuchJson } from '../src/http/json-size';

const nested = (levels: number) => `${'[{"a":'.repeat(levels / 2)}1${'}]'.repeat(levels / 2)}`;
const wide = (fields: number) => JSON.stringify(Object.fromEntries(Array.from({ length: fields }, (_, at) => [`f${at}`, '}],{["\\'])));

test.each([
  ['a scalar', '12', null],
  ['twenty levels', nested(20), null],
  ['twenty-two levels', nested(22), 'is more than 20 levels deep'],
  ['sixty fields', wide(60), null],
  ['sixty-one fields', wide(61), 'has an object with more than 60 fields'],
  ['many lines', `[${'1,'.repeat(149_000)}1]`, null],
  ['too many values', `[${'{},'.repeat(80_000)}{}]`, 'has more than 150000 values'],
  ['signs within a text', JSON.stringify({ text: '{[,"\\'.repeat(100_000) }), null],
  ['a text without an end', '{"a":"', null],
  ['nothing', '', null],
])('%s', (_, text, words) => expect(tooMuchJson(text)).toBe(words));

test('nothing that is small is too much, whatever its texts hold', () => {
  fc.assert(fc.property(fc.json({ maxDepth: 5 }), (text) => expect(tooMuchJson(text)).toBeNull()));
});
