import { adviceFor } from './order-advice';
import { testLine, testOrder } from './test-order';

const late = testLine({ state: 'late' });
const short = testLine({ lineNo: 2, uncovered: '30' });
const backorder = (quantity: string) => ({ id: 1, kind: 'backorder' as const, quantity, label: '', supplier: null, day: null, purchase: null, note: '' });

it('tells what stands in the way of a release, the most pressing first', () => {
  const offered = testLine({ lineNo: 3, offered: { parts: [{ quantity: '10', price: '9', source: 'list', contractLine: null }], trail: [] } as never });
  const contracts = [{ id: 4 }] as never;
  expect(adviceFor(testOrder({ lines: [late, short, offered], mustNameContract: true, contracts }))).toContain('Line 3: the price has changed');
  expect(adviceFor(testOrder({ lines: [late, short], mustNameContract: true, contracts }))).toContain('under a contract');
  expect(adviceFor(testOrder({ lines: [late, short] }))).toContain('Line 2 has 30 backordered');
  expect(adviceFor(testOrder({ lines: [late] }))).toContain('later than requested');
  expect(adviceFor(testOrder({ lines: [testLine()] }))).toBe('');
});

it('counts what is on backorder as settled, and no more than that', () => {
  const waiting = (quantity: string) => testOrder({ lines: [testLine({ lineNo: 2, uncovered: '30', routes: [backorder(quantity) as never] })] });
  expect(adviceFor(waiting('30'))).toBe('');
  expect(adviceFor(waiting('29'))).toContain('30 backordered');
});

it('tells on a quote how alternatives are typed, and on what is released nothing', () => {
  expect(adviceFor(testOrder({ kind: 'quote', lines: [short] }))).toContain('or jar hex 20');
  expect(adviceFor(testOrder({ kind: 'quote' }))).toBe('');
  expect(adviceFor(testOrder({ state: 'released', lines: [short] }))).toBe('');
});
