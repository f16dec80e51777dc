import { decideRelease, type ReleaseFacts, type ReleaseLine, type SeenLine } from './index';

const TODAY = '2027-03-09';

const line = (more: Partial<ReleaseLine> = {}): ReleaseLine => ({
  id: 11,
  lineNo: 1,
  item: 'JAR',
  stockQuantity: '10',
  promised: [{ day: '2027-03-10', quantity: '10' }],
  uncovered: '0',
  routes: [],
  ...more,
});

const facts = (more: Partial<ReleaseFacts> = {}): ReleaseFacts => ({
  kind: 'order',
  customer: { name: 'Wether Hill', prospect: false },
  otherPrices: false,
  waitsFor: null,
  lines: [line()],
  holds: 0,
  ...more,
});

const seenOf = (lines: readonly ReleaseLine[]): SeenLine[] => lines.map(({ id, promised, uncovered }) => ({ line: id, schedule: promised, uncovered }));
const decided = (known: ReleaseFacts) => decideRelease(known, seenOf(known.lines), TODAY);

test('what is in order is released', () => {
  expect(decided(facts())).toEqual({ does: 'release' });
});

test.each<[string, Partial<ReleaseFacts>, object]>([
  ['a quote', { kind: 'quote' }, { does: 'refuse', why: 'A quote is sent, and accepted by the customer; then its order is released.' }],
  [
    'an order of a prospect',
    { customer: { name: 'Wether Hill', prospect: true } },
    { does: 'refuse', why: 'Wether Hill is a prospect: make them a customer first.' },
  ],
  ['an order without lines', { lines: [] }, { does: 'refuse_empty' }],
  ['an order at other prices', { otherPrices: true }, { does: 'tell_prices' }],
  ['one that waits for its customer', { waitsFor: 'colour' }, { does: 'refuse', why: 'It waits for the customer: colour. Release the hold first.' }],
  ['one that somebody has to let go', { holds: 1 }, { does: 'hold' }],
])('%s is not', (_, more, decision) => {
  expect(decided(facts(more))).toEqual(decision);
});

test('what comes first is told first: prices before a hold, a hold before a promise that has changed', () => {
  const known = facts({ otherPrices: true, holds: 1 });
  expect(decideRelease(known, [], TODAY)).toEqual({ does: 'tell_prices' });
  expect(decideRelease({ ...known, otherPrices: false }, [], TODAY)).toEqual({ does: 'hold' });
});

test('a promise that is no longer what was seen is told, both in words; one that was not seen at all, too', () => {
  const known = facts({ lines: [line(), line({ id: 12, lineNo: 2, item: 'LID' })] });
  const seen = [{ line: 11, schedule: [{ day: '2027-03-10', quantity: '6' }], uncovered: '4' }];
  expect(decideRelease(known, seen, TODAY)).toEqual({
    does: 'tell_changes',
    lines: [
      { lineNo: 1, item: 'JAR', saw: '6 on Wed 10 Mar, 4 backordered', now: '10 on Wed 10 Mar' },
      { lineNo: 2, item: 'LID', saw: 'nothing', now: '10 on Wed 10 Mar' },
    ],
  });
});

describe('what has no cover', () => {
  const short = (routes: ReleaseLine['routes'], more: Partial<ReleaseLine> = {}) =>
    decided(facts({ lines: [line({ promised: [{ day: '2027-03-10', quantity: '6' }], uncovered: '4', routes, ...more })] }));

  test('needs a route; waiting is one where it is chosen', () => {
    expect(short([])).toEqual({ does: 'ask_routes', lines: [{ lineNo: 1, item: 'JAR', open: '4' }] });
    expect(short([{ kind: 'backorder', quantity: '3' }])).toEqual({ does: 'ask_routes', lines: [{ lineNo: 1, item: 'JAR', open: '1' }] });
    expect(short([{ kind: 'backorder', quantity: '4' }])).toEqual({ does: 'release' });
  });

  test('of a line that must leave whole is all of it, what is bought for it included', () => {
    const whole = { promised: [], uncovered: '10' };
    expect(short([{ kind: 'special_order', quantity: '4' }], whole)).toEqual({ does: 'ask_routes', lines: [{ lineNo: 1, item: 'JAR', open: '6' }] });
    const routes = [
      { kind: 'special_order', quantity: '4' },
      { kind: 'backorder', quantity: '6' },
    ];
    expect(short(routes, whole)).toEqual({ does: 'release' });
  });
});
