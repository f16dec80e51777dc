import { supplyRoutes, type SupplierPage, type SupplierScore } from '@nockwright/contract/supply';
import { show, testApi } from '../../test-screen';
import { LatenessPicture } from './lateness-picture';
import type { Api } from '../../api';
import { RecordForm } from '../../paper';
import { supplierItem } from './supplier-item';
import { SupplierList } from './supplier-list';
import { SupplierSheet } from './supplier-sheet';
import { supplierTerms } from './supplier-terms';
import { daysInWords, readWeekdays } from './weekdays';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const score: SupplierScore = {
  receipts: 10,
  onTimePercent: 70,
  meanDays: 1.2,
  medianDays: 0,
  worstTenthDays: 5,
  spread: [
    { days: -4, receipts: 1 },
    { days: 0, receipts: 6 },
    { days: 5, receipts: 2 },
    { days: 21, receipts: 1 },
  ],
  months: [{ month: '2027-02', receipts: 3, onTimePercent: 66.7 }],
  endedLines: 8,
  inFullPercent: 87.5,
  damagedLines: 1,
  bought: '1234.50',
};
const supplier: SupplierPage = {
  code: 'TARNBECK',
  name: 'Tarnbeck Glass',
  version: 3,
  email: 'orders@tarnbeck.example',
  leadDays: 8,
  workdays: [1, 2, 3, 4, 5],
  orderDays: [2, 4],
  cutoff: '12:00',
  transitDays: 1,
  minimumValue: '250',
  freight: '38',
  freightFreeFrom: '900',
  dropShips: true,
  dropShipFee: '18',
  exchanges: true,
  priceTolerance: '10',
  dayTolerance: 14,
  closed: ['2027-03-26'],
  nextOrder: { taken: '2027-03-09', arrives: '2027-03-22' },
  items: [
    {
      item: 'JAR',
      description: 'Jar',
      unit: 'EA',
      discontinued: false,
      theirCode: 'T1',
      cost: '0.31',
      leadDays: null,
      minimum: '240',
      multiple: '24',
      returnable: true,
      breaks: [{ from: '1440', cost: '0.29' }],
      units: [{ unit: 'XBX', quantity: '100' }],
    },
  ],
  score,
};

describe('weekdays', () => {
  it.each<[string, number[] | null]>([
    ['mon to fri', [1, 2, 3, 4, 5]],
    ['Tue, Thu', [2, 4]],
    ['tuesday and thursday', [2, 4]],
    ['Mon-Wed, Sat', [1, 2, 3, 6]],
    ['someday', null],
    ['', null],
  ])('%s', (text, days) => expect(readWeekdays(text)).toEqual(days));

  it('are read again as they are written', () => {
    for (const days of [
      [1, 2, 3, 4, 5],
      [2, 4],
      [1, 6, 7],
    ])
      expect(readWeekdays(daysInWords(days))).toEqual(days);
  });
});

it('the picture has a bar for each day, stragglers in the last, and says it in words', () => {
  const screen = show(LatenessPicture, { score }, []);
  const bars = [...screen.element.querySelectorAll('rect')].filter((bar) => Number(bar.getAttribute('height')) > 0);
  expect(bars.map((bar) => bar.querySelector('title')!.textContent)).toEqual([
    '1 of 10 came 3 or more days early',
    '6 of 10 came on the day',
    '2 of 10 came 5 days late',
    '1 of 10 came 15 or more days late',
  ]);
  expect(bars.map((bar) => bar.classList.contains('late'))).toEqual([false, false, true, true]);
  expect(screen.element.querySelector('svg')!.getAttribute('aria-label')).toContain('70 percent on time');
});

it('the sheet tells terms, what is sold and how they deliver', () => {
  const { providers, answers } = testApi();
  answers([supplyRoutes.readSupplier, supplier], [supplyRoutes.supplierHistory, []]);
  const screen = show(SupplierSheet, { code: 'TARNBECK' }, providers);
  expect(screen.text).toContain('Tue, Thu until 12:00');
  expect(screen.text).toContain('70 % of 10 receipts on time. Half came no later than the day given, nine of ten no later than 5 days after it');
  expect(screen.text).toContain('All came of 87.5 % of 8 lines, damaged goods on 1');
  expect(screen.text).toContain('1,440: 0.29');
  screen.press('e');
  expect(screen.text).toContain('Terms of Tarnbeck Glass');
});

it('terms are sent as they are typed; what is no weekday, day or number is told', () => {
  const { api, providers, lastBody, answers } = testApi();
  answers([supplyRoutes.changeSupplier, { ...supplier, version: 4 }]);
  const screen = show(RecordForm, { record: supplierTerms(api as unknown as Api, supplier, '2027-03-09') }, providers);
  screen.type('Orders taken on', 'never');
  screen.click('Save terms');
  expect(screen.text).toContain('Orders taken on: expected weekdays');
  screen.type('Orders taken on', 'wed');
  screen.type('Closed on (days with commas)', '26 mar, 31 april');
  screen.click('Save terms');
  expect(screen.text).toContain('Closed on: 31 april is no day');
  expect(api.call).not.toHaveBeenCalled();
  screen.type('Closed on (days with commas)', '26 mar, 29 mar');
  screen.type('Free from (empty: never)', '');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(lastBody()).toMatchObject({
    version: 3,
    orderDays: [3],
    workdays: [1, 2, 3, 4, 5],
    closed: ['2027-03-26', '2027-03-29'],
    freightFreeFrom: null,
    cutoff: '12:00',
    leadDays: 8,
  });
});

it('an item’s terms are changed with their breaks, or dropped', () => {
  const { api, providers, lastBody, answers } = testApi();
  answers([supplyRoutes.setSupplierItem, supplier]);
  const screen = show(RecordForm, { record: supplierItem(api as unknown as Api, supplier, supplier.items[0]!) }, providers);
  const breaks = 'Price breaks (as 1440: 0.18, 4320: 0.17)';
  expect(screen.field(breaks).value).toBe('1440: 0.29');
  screen.type(breaks, '1440 0.28');
  screen.click('Save terms');
  expect(screen.text).toContain('1440 0.28: expected a quantity, a colon and a cost');
  screen.type(breaks, '1440: 0.28, 4320: 0.27');
  screen.click('Save terms');
  expect(lastBody()).toMatchObject({
    version: 3,
    cost: '0.31',
    breaks: [
      { from: '1440', cost: '0.28' },
      { from: '4320', cost: '0.27' },
    ],
    leadDays: null,
  });
  const other = testApi();
  other.answers([supplyRoutes.dropSupplierItem, supplier]);
  show(RecordForm, { record: supplierItem(other.api as unknown as Api, supplier, supplier.items[0]!) }, other.providers).click('Remove item from supplier');
  expect(other.api.call).toHaveBeenLastCalledWith(supplyRoutes.dropSupplierItem, { params: { supplier: 'TARNBECK', item: 'JAR' } });
  expect(api.call).toHaveBeenCalledTimes(1);
});

it('suppliers are filtered as typed; who is overdue stands out', () => {
  const { providers, answers } = testApi();
  const row = {
    code: 'A',
    name: 'Appleyard Wax',
    leadDays: 6,
    dropShips: false,
    exchanges: false,
    items: 9,
    openOrders: 2,
    overdueOrders: 1,
    receipts: 52,
    onTimePercent: 92,
  };
  answers([supplyRoutes.listSuppliers, [row, { ...row, code: 'T', name: 'Tarnbeck Glass', overdueOrders: 0, receipts: 0, onTimePercent: null }]]);
  const screen = show(SupplierList, { q: 'glass' }, providers);
  expect(screen.text).toContain('Tarnbeck Glass');
  expect(screen.text).not.toContain('Appleyard');
  screen.set('q', '');
  expect(screen.element.querySelectorAll('.late')).toHaveLength(1);
});
