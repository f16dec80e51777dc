import fc from 'fast-check';
import { allRoutes } from '../api';
import { code, content, day, decimal, integer, list, note, nullable, object, oneOf, optional, quantity, text, unitPrice, type Of, type Shape } from './index';

const accepts = (shape: Shape<unknown>, value: unknown) => shape.schema.validate(value, { convert: false }).error === undefined;

test.each<[string, Shape<unknown>, unknown[], unknown[]]>([
  [
    'a quantity',
    quantity(),
    ['1', '0.5', '0.0001', '999999999.9999', '007'],
    ['0', '0.000', '-1', '1.00001', '1e3', '', '1.', '.5', '1000000000', ' 1', 1, null],
  ],
  ['a price', unitPrice(), ['0', '0.19', '11.1072'], ['-1', '1.00001', 'free', 1]],
  ['a decimal', decimal(), ['-3', '0', '12.50'], ['--3', '1,5', '', 3]],
  ['a day', day(), ['2027-03-09', '2028-02-29'], ['2027-02-29', '2027-3-9', '1999-12-31', '2027-03-09T00:00', '', 20270309]],
  ['a code', code(), ['JAR-340-HX', 'P7601', 'a.b_c/d'], ['', '-JAR', 'JAR 340', 'x'.repeat(41), "'; --"]],
  ['text', text(5), ['abc', 'ä'], ['', '   ', 'abcdef', 'a\u0000', 'a\nb']],
  ['a note', note(5), ['', 'a\nb'], ['abcdef', 'a\u0000']],
  ['a whole number', integer(1, 9), [1, 9], [0, 10, 1.5, '1', NaN]],
  ['a word', oneOf('a', 'b'), ['a'], ['c', '', null]],
  ['a list', list(integer(), 1, 2), [[1], [1, 2]], [[], [1, 2, 3], ['1'], 1]],
  ['what may be null', nullable(integer()), [null, 1], ['', '1']],
])('%s is taken and refused by what it is', (_, shape, good, bad) => {
  for (const value of good) expect([value, accepts(shape, value)]).toEqual([value, true]);
  for (const value of bad) expect([value, accepts(shape, value)]).toEqual([value, false]);
});

test.each([
  ['', false],
  ['YQ==', true],
  ['YWI=', true],
  ['YWJj', true],
  ['YWJ', false],
  ['Y===', false],
  ['YQ=a', false],
  ['YW\u0000j', false],
  [`${'QUJD'.repeat(1_700_000)}`, true],
  [`${'QUJD'.repeat(1_700_000)}QUJ*`, false],
  [`${'QUJD'.repeat(3_000_000)}`, false],
])('a file is base64, however large it is (case %#)', (text, good) => {
  expect(accepts(content(6_000_000), text)).toBe(good);
});

test('an object has its fields, all that are not optional, and no others', () => {
  const shape = object({ a: integer(), b: optional(text()) });
  const typed: Of<typeof shape> = { a: 1 };
  expect(accepts(shape, typed)).toBe(true);
  expect(accepts(shape, { a: 1, b: 'x' })).toBe(true);
  expect(accepts(shape, { b: 'x' })).toBe(false);
  expect(accepts(shape, { a: 1, c: 1 })).toBe(false);
  // @ts-expect-error a field that must be there is missing
  const missing: Of<typeof shape> = {};
  expect(accepts(shape, missing)).toBe(false);
});

test('no text that is not a quantity passes for one', () => {
  fc.assert(fc.property(fc.string(), (value) => accepts(quantity(), value) === false || (Number(value) > 0 && Number.isFinite(Number(value)))));
});

test('routes are told apart by method and path, and name every parameter of their path', () => {
  const seen = new Set<string>();
  for (const { route } of allRoutes()) {
    const key = `${route.method} ${route.path.replace(/\{\w+\}/g, '{}')}`;
    expect(seen.has(key)).toBe(false);
    seen.add(key);
    const named = Object.fromEntries(
      [...route.path.matchAll(/\{(\w+)\}/g)].map((match) => [
        match[1],
        ['item', 'list', 'warehouse', 'supplier', 'lot', 'carrier'].includes(match[1]!) ? 'A' : 1,
      ]),
    );
    expect([route.path, accepts(route.params, named)]).toEqual([route.path, true]);
  }
});
