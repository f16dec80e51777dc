import { dealingWords, EVENT_KINDS, eventWords, type EventFacts } from './index';

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
