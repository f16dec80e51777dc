import { cheaperInList } from './cheaper';
import { NO_CONTRACTS, priceLine } from './price-line';
import type { PriceQuestion } from './price-question';

const TRAY = { unit: 'XTY', numerator: 24, denominator: 1 };
const PALLET = { unit: 'XPX', numerator: 960, denominator: 1 };
const question = (over: Partial<PriceQuestion>): PriceQuestion => ({
  unit: 'XPX',
  quantity: '1',
  ratio: PALLET,
  day: '2027-03-09',
  listPrice: '0.52',
  cost: '0.31',
  listBreaks: [
    { unit: 'XPX', from: '1', price: '440' },
    { unit: 'XTY', from: '20', price: '10.40' },
  ],
  customerList: null,
  contracts: NO_CONTRACTS,
  pin: null,
  units: [TRAY, PALLET],
  ...over,
});
const lower = (over: Partial<PriceQuestion> = {}) =>
  priceLine(question(over))
    .trail.filter((step) => step.lower)
    .map((step) => [step.source, step.price, step.why]);

test('a pallet that is dearer than its trays says so', () => {
  // 40 trays at 10.40 are 416.00; the pallet is 440.00.
  expect(lower()).toEqual([['list, by 40 trays', '416', '40 trays at 10.40 are the same goods, for less']]);
  expect(
    lower({
      listBreaks: [
        { unit: 'XTY', from: '20', price: '10.40' },
        { unit: 'XPX', from: '1', price: '416' },
      ],
    }),
  ).toEqual([]);
});

test('trays that make no whole pallet are not compared with one', () => {
  expect(lower({ unit: 'XTY', ratio: TRAY, quantity: '39' })).toEqual([]);
});

test('a contract that is dearer than the customer’s list says so; a price set by hand is somebody’s will', () => {
  const contract = { id: 7, number: 'K1', name: 'Season' };
  const offer = {
    id: 1,
    lineNo: 1,
    contract,
    group: null,
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    terms: { kind: 'fixed' as const, price: '0.50', ratio: { numerator: 1, denominator: 1 } },
    minimum: null,
    most: null,
    used: '0',
    forShipTo: true,
  };
  const each: Partial<PriceQuestion> = {
    unit: 'EA',
    ratio: { numerator: 1, denominator: 1 },
    quantity: '10',
    listBreaks: [],
    customerList: { name: 'co-operatives', breaks: [{ unit: 'EA', from: '1', price: '0.48' }] },
    contracts: { ...NO_CONTRACTS, offers: [offer] },
  };
  expect(lower(each)).toEqual([['co-operatives', '0.48', 'lower than K1 line 1: ask which of them holds']]);
  expect(lower({ ...each, pin: { kind: 'manual', price: '0.60', reason: 'agreed' } })).toEqual([]);
});

test('in a list, a price is held against other units and fewer goods', () => {
  const each = { unit: 'EA', from: '1', price: '0.44', ratio: { numerator: 1, denominator: 1 } };
  const tray = { unit: 'XTY', from: '1', price: '10.40', ratio: TRAY };
  const pallet = { unit: 'XPX', from: '1', price: '440', ratio: PALLET };
  const all = [each, tray, pallet];
  expect(cheaperInList(pallet, all)).toBe(tray); // 0.4333 for one against 0.4583
  expect(cheaperInList(tray, all)).toBeNull();
  // One alone is not held against what needs a tray.
  expect(cheaperInList(each, all)).toBeNull();
  // More of the same for more each.
  const many = { ...each, from: '100', price: '0.45' };
  expect(cheaperInList(many, [...all, many])).toBe(tray);
});
