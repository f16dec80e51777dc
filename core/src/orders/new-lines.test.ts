import fc from 'fast-check';
import { soldItem } from '../../test/sold-item';
import { sum } from '../money';
import { NO_CONTRACTS, type ContractOffer } from '../pricing';
import { alternativeFault, decideNewLines, placeFault, type DraftFacts, type NewLineWish, type SoldItem } from './index';

const TODAY = '2027-03-09';

/** A contract line for jars at 0.40, of which so many are left. */
const season = (left: string): ContractOffer => ({
  id: 31,
  lineNo: 1,
  contract: { id: 3, number: 'K1', name: 'Season' },
  terms: { kind: 'fixed', price: '0.40', ratio: { numerator: 1, denominator: 1 } },
  group: null,
  minimum: null,
  most: left,
  used: '0',
  firstDay: '2027-01-01',
  lastDay: '2027-12-31',
  forShipTo: true,
});

const facts = (more: Partial<DraftFacts> = {}, jar: Partial<SoldItem> = {}): DraftFacts => ({
  kind: 'order',
  warehouse: 'MAR',
  shipTo: 1,
  lines: [],
  warehouses: ['MAR', 'QUI'],
  shipTos: [1, 2],
  sold: new Map([
    [1, [soldItem('JAR', jar), soldItem('LID')]],
    [2, [soldItem('JAR')]],
  ]),
  ...more,
});

const decided = (known: DraftFacts, wishes: readonly NewLineWish[]) => {
  const result = decideNewLines(known, wishes, TODAY);
  if (!result.ok) throw new Error(JSON.stringify(result.faults));
  return result.lines;
};
const faultsOf = (known: DraftFacts, wishes: readonly NewLineWish[]) => {
  const result = decideNewLines(known, wishes, TODAY);
  return result.ok ? [] : result.faults.map(({ at, field, message }) => [at, field, message]);
};

test('lines go behind those there are, with what the order says where they say nothing', () => {
  const known = facts({ lines: [{ id: 9, lineNo: 1, alternative: false, contractLine: null, contract: null, stockQuantity: '4' }] });
  const lines = decided(known, [
    { item: 'JAR', quantity: '2', unit: 'DZN' },
    { item: 'LID', quantity: '5', warehouse: 'QUI', requestedDay: '2027-03-12', note: 'blue', shipTo: null },
  ]);
  expect(
    lines.map(({ lineNo, item: code, quantity, stockQuantity, warehouse, requestedDay, note, shipTo }) => [
      lineNo,
      code,
      quantity,
      stockQuantity,
      warehouse,
      requestedDay,
      note,
      shipTo,
    ]),
  ).toEqual([
    [2, 'JAR', '2', '24', 'MAR', null, '', null],
    [3, 'LID', '5', '5', 'QUI', '2027-03-12', 'blue', null],
  ]);
});

test('what one takes of a contract the next does not have, and nobody loses a part that falls to another price', () => {
  const known = facts({}, { contracts: { ...NO_CONTRACTS, offers: [season('10')] } });
  const lines = decided(known, [
    { item: 'JAR', quantity: '8' },
    { item: 'JAR', quantity: '5' },
  ]);
  expect(lines.map((line) => [line.lineNo, line.quantity, line.price.price, line.price.contractLine])).toEqual([
    [1, '8', '0.4', 31],
    [2, '2', '0.4', 31],
    [3, '3', '0.5', null],
  ]);
});

test('an alternative of a quote takes nothing of a contract', () => {
  const known = facts({ kind: 'quote' }, { contracts: { ...NO_CONTRACTS, offers: [season('10')] } });
  const lines = decided(known, [
    { item: 'JAR', quantity: '8', alternative: true },
    { item: 'JAR', quantity: '9' },
  ]);
  expect(lines.map((line) => [line.quantity, line.price.price])).toEqual([
    ['8', '0.4'],
    ['9', '0.4'],
  ]);
});

test('each wish that cannot be is told, by its field, and none is added', () => {
  expect(
    faultsOf(facts(), [
      { item: 'NONE', quantity: '1' },
      { item: 'JAR', quantity: '1' },
      { item: 'JAR', quantity: '1', unit: 'TRAY' },
      { item: 'JAR', quantity: '1.5' },
      { item: 'JAR', quantity: '1', shipTo: 7 },
      { item: 'LID', quantity: '1', shipTo: 2 },
      { item: 'JAR', quantity: '1', warehouse: 'ELSE' },
      { item: 'JAR', quantity: '1', requestedDay: '2027-03-08' },
      { item: 'JAR', quantity: '1', alternative: true },
    ]),
  ).toEqual([
    [0, 'item', 'there is no item NONE'],
    [2, 'unit', expect.stringContaining('not sold by')],
    [3, 'quantity', expect.any(String)],
    [4, 'shipTo', '7 is no address of this customer'],
    [5, 'item', 'there is no item LID'],
    [6, 'warehouse', 'there is no warehouse ELSE; there are MAR, QUI'],
    [7, 'requestedDay', '2027-03-08 has passed; expected 2027-03-09 or later'],
    [8, 'alternative', 'only a quote has alternatives'],
  ]);
});

test('what a line is an alternative to is another line of the quote, and no alternative itself', () => {
  const lines = [
    { id: 1, lineNo: 1, alternative: false },
    { id: 2, lineNo: 2, alternative: true },
  ];
  const fault = (wish: Parameters<typeof alternativeFault>[1], line?: number) => alternativeFault({ kind: 'quote', lines }, wish, line)?.message ?? null;
  expect([
    fault({ alternative: true, alternativeTo: 1 }),
    fault({ alternativeTo: 2 }),
    fault({ alternativeTo: 5 }),
    fault({ alternativeTo: 1 }, 1),
    fault({}),
  ]).toEqual([null, 'line 2 is an alternative itself', '5 is no other line of this quote', '1 is no other line of this quote', null]);
  expect(placeFault({ warehouses: [] }, {}, TODAY)).toBeNull();
});

test('an order has at most 500 lines', () => {
  const wishes = Array.from({ length: 501 }, () => ({ item: 'LID', quantity: '1' }));
  expect(faultsOf(facts(), wishes)).toEqual([[500, '', 'an order has at most 500 lines']]);
});

test('whatever is wished for, all of it is there, numbered without a gap, and no contract gives more than it has', () => {
  const wish = fc.record({ item: fc.constantFrom('JAR', 'LID'), quantity: fc.integer({ min: 1, max: 40 }).map(String), unit: fc.constantFrom('EA', 'DZN') });
  fc.assert(
    fc.property(fc.array(wish, { maxLength: 12 }), fc.integer({ min: 0, max: 300 }), (wishes, left) => {
      const lines = decided(facts({}, { contracts: { ...NO_CONTRACTS, offers: [season(String(left))] } }), wishes);
      expect(lines.map((line) => line.lineNo)).toEqual(lines.map((_, at) => at + 1));
      const stock = (rows: readonly { readonly stockQuantity: string }[]) => Number(sum(rows.map((row) => row.stockQuantity)));
      for (const code of ['JAR', 'LID'])
        expect(stock(lines.filter((line) => line.item === code))).toBe(
          wishes.filter((one) => one.item === code).reduce((total, one) => total + Number(one.quantity) * (one.unit === 'DZN' ? 12 : 1), 0),
        );
      expect(stock(lines.filter((line) => line.price.contractLine === 31))).toBeLessThanOrEqual(left);
    }),
  );
});
