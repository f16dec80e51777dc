import type { OrderRow } from '@nockwright/contract/orders';
import { rulerScale } from '../../ruler';
import { show } from '../../test-screen';
import { COLUMNS } from './order-columns';
import { OrderRowCells } from './order-row';

const row: OrderRow = {
  id: 5,
  kind: 'order',
  number: '20401',
  customer: 'Wether Hill',
  customerId: 7,
  town: 'Combe',
  poNumber: 'WH-7',
  state: 'released',
  progress: 'promised',
  requestedDay: '2027-03-12',
  promisedDay: '2027-03-12',
  validUntil: null,
  entered: '2027-03-08',
  source: 'phone',
  warehouse: 'MAR',
  amount: '111.07',
  lines: 2,
  waiting: 0,
};

function cells(more: Partial<OrderRow> = {}, inputs: object = {}) {
  const screen = show(
    OrderRowCells,
    { 'nock-order-row': { ...row, ...more }, shown: COLUMNS, scale: rulerScale('2027-03-09', ['2027-03-12'], 284), ...inputs },
    [],
  );
  const state = screen.element.querySelector('nock-state');
  return {
    screen,
    words: state?.textContent.trim(),
    texts: [...screen.element.querySelectorAll('td')].map((cell) => cell.textContent.trim().replace(/\s+/g, ' ')),
  };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

it('has a cell for each column that is shown', () => {
  const { texts } = cells();
  expect(texts).toHaveLength(COLUMNS.length + 1);
  expect(texts.slice(1, 8)).toEqual(['20401', 'Wether Hill Combe', 'WH-7', 'phone', 'Mon 8 Mar', 'MAR', '2']);
  expect(cells({}, { shown: COLUMNS.slice(0, 2) }).texts).toHaveLength(3);
});

it.each<[string, Partial<OrderRow>, string | null | undefined, string]>([
  ['promised in time', {}, undefined, 'promised'],
  ['with something open', { progress: 'part backordered', waiting: 2 }, undefined, 'part backordered, 2 open'],
  ['at risk of its supply', {}, '2027-03-16', 'at risk'],
  ['broken', {}, null, 'at risk'],
  ['held', { state: 'draft', progress: 'held' }, undefined, 'held'],
  ['shipped', { progress: 'shipped' }, undefined, 'shipped'],
])('says of an order that is %s how it stands', (_, more, risk, words) => {
  expect(cells(more, { risk }).words).toBe(words);
});

it('shows the day it really leaves where its supply is late', () => {
  expect(cells({}, { risk: '2027-03-16' }).texts).toContain('Tue 16 Mar');
});

it('calls what has no number yet what it is', () => {
  expect(cells({ number: null, state: 'draft', progress: 'draft' }).texts[1]).toBe('draft');
  expect(cells({ number: null, state: 'draft', progress: 'draft', kind: 'quote' }).texts[1]).toBe('quote');
});

it('is marked by its own cell without being opened', () => {
  const { screen } = cells();
  const [turned, opened] = [jest.fn(), jest.fn()];
  screen.fixture.componentInstance.turned.subscribe(turned);
  screen.element.addEventListener('click', opened);
  screen.element.querySelector<HTMLElement>('.mark')!.click();
  expect(turned).toHaveBeenCalledTimes(1);
  expect(opened).not.toHaveBeenCalled();
});
