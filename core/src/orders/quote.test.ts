import fc from 'fast-check';
import { compareDecimal, minus, plus, sum } from '../money';
import { acceptQuote, closedLineWords, openOf, quoteStanding, type QuotedLine } from './index';

const line = (id: number, quantity: string, more: Partial<QuotedLine> = {}): QuotedLine => ({
  id,
  lineNo: id,
  quantity,
  alternative: false,
  alternativeTo: null,
  accepted: '0',
  ...more,
});

describe('how a quote stands', () => {
  const quoted = { state: 'quoted', validUntil: '2027-03-23', lines: [line(1, '10'), line(2, '5')] } as const;

  // Common practice, no source: an offer binds to the end of the day it names.
  test.each([
    ['2027-03-09', 'quoted'],
    ['2027-03-23', 'quoted'],
    ['2027-03-24', 'expired'],
  ])('on %s it is %s', (today, standing) => expect(quoteStanding(quoted, today)).toBe(standing));

  test('what was taken of it is told while the rest is open', () => {
    expect(quoteStanding({ ...quoted, lines: [line(1, '10', { accepted: '10' }), line(2, '5')] }, '2027-03-09')).toBe('part accepted');
  });

  test('closed with a rest it is part accepted, without one accepted; alternatives are no rest', () => {
    const accepted = { ...quoted, state: 'accepted' } as const;
    expect(quoteStanding({ ...accepted, lines: [line(1, '10', { accepted: '4' })] }, '2027-03-09')).toBe('part accepted');
    expect(quoteStanding({ ...accepted, lines: [line(1, '10', { accepted: '10' }), line(2, '5', { alternative: true })] }, '2027-05-09')).toBe('accepted');
  });

  test.each(['draft', 'lost', 'discarded'] as const)('%s has no day', (state) => expect(quoteStanding({ ...quoted, state }, '2028-01-01')).toBe(state));
});

describe('what becomes an order', () => {
  const lines = [line(1, '10'), line(2, '5'), line(3, '20', { alternative: true, alternativeTo: 1 }), line(4, '1', { alternative: true })];

  test('all lines make it whole; alternatives left out leave nothing open', () => {
    expect(acceptQuote(lines, [{ line: 2 }, { line: 1 }])).toEqual({
      ok: true,
      lines: [
        { line: 1, quantity: '10' },
        { line: 2, quantity: '5' },
      ],
      whole: true,
    });
  });

  test('an alternative stands for the line it is taken instead of', () => {
    expect(acceptQuote(lines, [{ line: 3 }, { line: 2 }])).toMatchObject({ ok: true, whole: true });
    expect(acceptQuote(lines, [{ line: 4 }, { line: 2 }])).toMatchObject({ ok: true, whole: false });
  });

  test('a part leaves the rest open', () => {
    expect(acceptQuote(lines, [{ line: 1, quantity: '4' }, { line: 2 }])).toMatchObject({ ok: true, whole: false });
  });

  test('faults name the place, the line and what is open of it', () => {
    const some = [line(1, '10', { accepted: '6' }), line(2, '5', { accepted: '5' })];
    const result = acceptQuote(some, [{ line: 9 }, { line: 1, quantity: '5' }, { line: 2 }, { line: 1 }]);
    expect(result).toEqual({
      ok: false,
      faults: [
        { at: 0, field: 'line', message: 'the quote has no line 9' },
        { at: 1, field: 'quantity', message: 'line 1: 5 taken, 4 are quoted and open' },
        { at: 2, field: 'line', message: 'line 2 is accepted already' },
        { at: 3, field: 'line', message: 'line 1 stands twice' },
      ],
    });
  });

  test.each([
    ['taken', '10', '10'],
    ['not taken', '10', '0'],
    ['2.5 of 10 taken', '10', '2.5'],
  ])('a line of a closed quote is %s', (words, quantity, accepted) => expect(closedLineWords({ quantity, accepted })).toBe(words));

  test('taken bit by bit it comes to what was quoted, and never to more', () => {
    const quantity = fc.integer({ min: 1, max: 50 }).map(String);
    fc.assert(
      fc.property(fc.array(quantity, { minLength: 1, maxLength: 5 }), fc.array(fc.tuple(fc.nat(4), quantity), { maxLength: 30 }), (quantities, takes) => {
        let now = quantities.map((each, at) => line(at + 1, each));
        for (const [at, wanted] of takes) {
          const result = acceptQuote(now, [{ line: at + 1, quantity: wanted }]);
          const target = now[at];
          const allowed = target !== undefined && compareDecimal(openOf(target), '0') > 0 && compareDecimal(wanted, openOf(target)) <= 0;
          expect(result.ok).toBe(allowed);
          if (!result.ok) continue;
          now = now.map((row) => (row.id === at + 1 ? { ...row, accepted: plus(row.accepted, wanted) } : row));
          const left = sum(now.map((row) => minus(row.quantity, row.accepted)));
          expect(result.whole).toBe(left === '0');
        }
        for (const row of now) expect(compareDecimal(row.accepted, row.quantity)).toBeLessThanOrEqual(0);
      }),
    );
  });
});
