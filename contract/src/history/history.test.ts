import { causeWords, dealingWords, EVENT_KINDS, eventWords, finding, findingWords, type Cause, type EventFacts, type Finding } from './index';

const TODAY = '2027-03-09';
const words = ({ kind, facts }: EventFacts, today = TODAY) => eventWords({ kind, facts, what: null }, today);

test('an event is a kind with facts, and reads as a sentence after the name of who did it', () => {
  expect(words({ kind: 'order.released', facts: { number: '20417', made: [{ kind: 'purchase', number: 'P7628' }] } })).toBe(
    'released order 20417, purchase P7628 made',
  );
  expect(
    words({ kind: 'stock.counted', facts: { item: 'JAR', warehouse: 'MAR', place: { bin: 'A1', lot: null, status: 'available' }, counted: '4', books: '6' } }),
  ).toBe('counted JAR at MAR, bin A1: 4, the books said 6');
  expect(
    words({
      kind: 'goods.moved',
      facts: { item: 'JAR', warehouse: 'MAR', quantity: '4', from: { bin: 'A1', lot: 'L7', status: 'quarantine' }, to: 'available', bin: '' },
    }),
  ).toBe('4 JAR at MAR, bin A1, lot L7, in quarantine released from quarantine');
});

test('days are written as seen from the day of reading', () => {
  const sent: EventFacts = { kind: 'quote.sent', facts: { number: 'Q301', revision: 2, validUntil: '2027-04-08' } };
  expect(words(sent)).toBe('sent quote Q301, revision 2, valid until Thu 8 Apr');
  expect(words(sent, '2028-01-04')).toBe('sent quote Q301, revision 2, valid until Thu 8 Apr 2027');
});

test('what was written in words before there were kinds reads as it was written; a kind of a newer program is no fault', () => {
  expect(eventWords({ kind: null, facts: null, what: 'released order 20001' }, TODAY)).toBe('released order 20001');
  expect(eventWords({ kind: 'order.sung_about', facts: {}, what: null }, TODAY)).toBe('');
});

test('each kind tells its facts by a schema', () => {
  const { schema } = EVENT_KINDS['line.raised'].facts;
  const facts = { lineNo: 2, item: 'JAR', quantity: '40', unit: 'EA', was: '30', price: null };
  expect(schema.validate(facts).error).toBeUndefined();
  expect(schema.validate({ ...facts, was: 'thirty' }).error?.message).toContain('was');
  expect(words({ kind: 'line.raised', facts })).toBe('line 2 (JAR) raised to 40 each, was 30');
});

test('what became of bound supply is a fact of its own', () => {
  expect([
    dealingWords({ did: 'struck', quantity: '40', purchase: 'P7627', beside: '8' }),
    dealingWords({ did: 'told', mailed: true, filed: true }),
    dealingWords({ did: 'pick_cut', pick: 'S90', rest: null, ended: true }),
  ]).toEqual(['40 struck off the draft P7627, and 8 for stock beside', 'the supplier is told by mail and as a file', 'pick S90 cancelled']);
  expect(
    words({
      kind: 'order.cancelled',
      facts: { number: '20417', cuts: [{ lineNo: 1, item: 'JAR', quantity: '40' }], dealt: [{ did: 'closed', quantity: '40', purchase: 'P7627' }] },
    }),
  ).toBe('cancelled 40 of line 1 (JAR) of order 20417; 40 of purchase P7627 closed');
});

test('a cause is the act that brought something about, with the reason that was given; one of a newer program is no fault', () => {
  const raised = { lineNo: 2, item: 'JAR', quantity: '40', unit: 'EA', was: '30', price: null };
  const causes: Cause[] = [
    { kind: 'order.ranked', facts: { number: '20417', turn: { priority: 1, was: 5 }, ahead: null }, note: 'rang twice' },
    { kind: 'line.raised', facts: raised, order: '20417' },
    { kind: 'goods.freed', facts: {} },
  ];
  expect(causes.map((row) => causeWords(row, TODAY))).toEqual([
    'order 20417 set to priority 1, was 5: rang twice',
    'order 20417: line 2 (JAR) raised to 40 each, was 30',
    'goods were freed',
  ]);
  expect(causeWords({ kind: 'order.sung_about', facts: {} }, TODAY)).toBe('');
});

test.each<[Finding, string]>([
  [{ about: 'nothing_expected', lineNo: 1, item: 'LID' }, 'Line 1, LID: nothing more of it is expected, their response changes nothing'],
  [{ about: 'not_taken', lineNo: 1, item: 'LID', quantity: '40' }, 'Line 1, LID: they do not take the 40'],
  [{ about: 'offered_instead', lineNo: 1, item: 'LID', theirs: 'L-7' }, 'Line 1, LID: they offer their L-7 instead'],
  [{ about: 'remark', lineNo: 1, item: 'LID', words: 'soon' }, 'Line 1, LID: “soon”'],
  [{ about: 'remark', lineNo: null, item: null, words: 'soon' }, 'They write: “soon”'],
  [{ about: 'day_passed', lineNo: 1, item: 'LID', day: '2027-03-05' }, 'Line 1, LID: they name Fri 5 Mar, which has passed; the day is left as it is'],
  [
    { about: 'changed', lineNo: 1, item: 'LID', due: null, open: { open: '30', was: '40' }, cost: { cost: '0.35', was: '0.33' } },
    'Line 1, LID: 30 still expected, was 40, 0.35 each, was 0.33',
  ],
  [{ about: 'margin', quantity: '10', order: '20407', lineNo: 1, before: '22.0', after: null }, 'margin on 10 of order 20407/1: none, was 22.0 %'],
  [
    { about: 'cost_outside', lineNo: 1, item: 'LID', cost: '0.38', was: '0.36', percent: '10', least: '0.30', most: '0.33' },
    'Line 1, LID: they ask 0.38 each instead of 0.36, more than 10 % from the 0.30 to 0.33 that was cleared',
  ],
  [
    { about: 'day_apart', lineNo: 1, item: 'LID', day: '2027-04-01', was: '2027-03-16', days: 1 },
    'Line 1, LID: they name Thu 1 Apr instead of Tue 16 Mar, more than 1 day apart',
  ],
  [{ about: 'more', count: 1 }, 'and 1 more promise'],
  [{ about: 'words', words: 'line 3: no quantity' }, 'line 3: no quantity'],
])('what a message comes to: %j', (row, words) => {
  expect(finding.schema.validate(row).error).toBeUndefined();
  expect(findingWords(row, TODAY)).toBe(words);
});
