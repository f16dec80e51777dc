import type { PricedPart } from '../pricing';
import { decideRaise, type RaisableLine, type RaiseFacts } from './decide-raise';

const TODAY = '2027-03-09';
const line: RaisableLine = {
  quantity: '5',
  stock_quantity: '60',
  unit: 'case',
  unit_step: '1',
  stock_unit: 'each',
  numerator: 12,
  denominator: 1,
  price: '24.00',
  price_source: 'list',
  fixed: false,
};
const at = (price: string, contractLine: number | null = null): PricedPart => ({
  quantity: '8',
  stockQuantity: '96',
  price: { price, source: 'list, from 8', contractLine, trail: [] },
});
const facts = (more: Partial<RaiseFacts> = {}): RaiseFacts => ({
  line,
  contract: null,
  item: { code: 'JAR', unit: 'each', discontinued: false, successor: null, left: null },
  prices: [at('24.00')],
  ...more,
});
const why = (known: RaiseFacts, quantity = '8') => {
  const decided = decideRaise(known, quantity, TODAY);
  return decided.ok ? null : decided.why;
};

test('a greater quantity is counted in stocking units; less is a cancellation', () => {
  expect(decideRaise(facts(), '8', TODAY)).toEqual({ ok: true, stock: '96', more: '36', price: null });
  expect(why(facts(), '5')).toBe('expected more than the 5 case ordered, got 5; to order less, cancel a part');
  expect(why(facts(), '8.5')).toContain('8.5');
});

test('a break makes it cheaper, never dearer; what was set by hand or agreed stands', () => {
  const price = (known: RaiseFacts) => {
    const decided = decideRaise(known, '8', TODAY);
    return decided.ok ? (decided.price?.price ?? null) : decided.why;
  };
  expect(price(facts({ prices: [at('22.00')] }))).toBe('22.00');
  expect(price(facts({ prices: [at('25.00')] }))).toBeNull();
  expect(price(facts({ prices: [at('22.00', 3)] }))).toBeNull();
  // Only a part of it would be at the lower price.
  expect(price(facts({ prices: [at('22.00'), at('24.00')] }))).toBeNull();
  expect(price(facts({ line: { ...line, fixed: true }, prices: [at('22.00')] }))).toBeNull();
});

test('a contract gives what is left of it, while it is in force', () => {
  const contract = { number: 'K1001', lastDay: '2027-03-31', most: '100', used: '60' };
  expect(why(facts({ contract }))).toBeNull();
  expect(why(facts({ contract: { ...contract, used: '65' } }))).toBe(
    'list has 35 each left: raise it by at most that, and order the rest as a line of its own',
  );
  expect(why(facts({ contract: { ...contract, most: null } }))).toBeNull();
  expect(why(facts({ contract: { ...contract, lastDay: '2027-03-08' } }))).toBe(
    'contract K1001 ended Mon 8 Mar: order more as a line of its own, at the price of today',
  );
});

test('what is no longer made is sold while some is left', () => {
  const item = { code: 'JAR', unit: 'each', discontinued: true, successor: 'JAR-2', left: '36' };
  expect(why(facts({ item }))).toBeNull();
  expect(why(facts({ item: { ...item, left: '35' } }))).toContain('35');
});
