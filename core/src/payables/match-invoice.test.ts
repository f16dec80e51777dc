import { matchInvoice, type MatchFacts } from './match-invoice';

const line = { lineNo: 1, item: 'JAR', quantity: '10', price: '2', cost: '2', received: '10', invoiced: '0' };
const facts = (more: Partial<MatchFacts> = {}): MatchFacts => ({
  lines: [line],
  freight: '0',
  tax: '4',
  total: '24',
  agreedFreight: null,
  tolerance: '5',
  currency: 'EUR',
  ...more,
});

// Three-way match of purchase, receipt and invoice: common practice, no source.
describe('a supplier’s invoice', () => {
  test('matches what was ordered and came', () => {
    expect(matchInvoice(facts())).toEqual({ net: '20.00', findings: [], acceptable: true });
  });

  test('may not be for more than came and is on no other invoice: it waits', () => {
    const seen = matchInvoice(facts({ lines: [{ ...line, received: '8', invoiced: '1' }] }));
    expect(seen.findings).toEqual([{ kind: 'quantity', lineNo: 1, item: 'JAR', by: '3' }]);
    expect(seen.acceptable).toBe(false);
  });

  test.each([
    ['2.10', '25', []],
    ['1.90', '23', []],
    ['2.11', '25.1', [{ kind: 'price', lineNo: 1, item: 'JAR', by: '1.10', cost: '2', price: '2.11' }]],
    ['1.80', '22', [{ kind: 'price', lineNo: 1, item: 'JAR', by: '-2.00', cost: '2', price: '1.80' }]],
  ])('at %s differs where the tolerance of 5 %% ends', (price, total, findings) => {
    const seen = matchInvoice(facts({ lines: [{ ...line, price }], total }));
    expect(seen.findings).toEqual(findings);
    // Whether a price is taken is a person's to say.
    expect(seen.acceptable).toBe(true);
  });

  test('is for no more freight than was agreed, where some was', () => {
    expect(matchInvoice(facts({ freight: '12', total: '36', agreedFreight: '10' })).findings).toEqual([{ kind: 'freight', by: '2.00' }]);
    expect(matchInvoice(facts({ freight: '9', total: '33', agreedFreight: '10' })).findings).toEqual([]);
    expect(matchInvoice(facts({ freight: '9', total: '33' })).findings).toEqual([]);
  });

  test('comes to its parts, to the cent', () => {
    const seen = matchInvoice(facts({ total: '24.01' }));
    expect(seen).toMatchObject({ findings: [{ kind: 'total', by: '0.01' }], acceptable: false });
  });
});
