import { stockRoutes, type StockPlace } from '@nockwright/contract/items';
import { show, testApi } from '../../test-screen';
import { LotForm } from './lot-form';

const place: StockPlace = {
  id: 4,
  item: 'OXA',
  description: 'Oxalic treatment',
  unit: 'EA',
  warehouse: 'MAR',
  bin: 'A-1',
  lot: 'L7',
  expires: '2027-02-10',
  status: 'available',
  quantity: '13',
  expired: true,
  tracksSerials: false,
};
const { api, providers, answers, lastBody } = testApi();

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockReset();
  answers([stockRoutes.previewLot, { later: [], earlier: [], offers: [] }], [stockRoutes.correctLot, []]);
});
afterEach(() => jest.useRealTimers());

it('corrects the last day of a lot with a reason, as its ripple was seen', () => {
  const screen = show(LotForm, { place }, providers);
  expect(screen.field('Lot').value).toBe('L7');
  expect(screen.field('Expires (empty: it keeps)').value).toMatch(/^Wed 10 Feb/);
  screen.type('Expires (empty: it keeps)', '10 oct');
  screen.click('Correct the lot');
  expect(screen.text).toContain('Why?');
  screen.type('Why', 'read the label again');
  screen.click('Correct the lot');
  expect(lastBody()).toMatchObject({ expires: '2027-10-10', reason: 'read the label again' });
});

it('leaves a day that has passed as it is, where only the name is corrected', () => {
  const screen = show(LotForm, { place }, providers);
  screen.type('Lot', 'L1');
  screen.type('Why', 'read as a seven');
  screen.click('Correct the lot');
  expect(lastBody()).toMatchObject({ expires: '2027-02-10', rename: 'L1' });
});

it('asks about what is no day', () => {
  const screen = show(LotForm, { place }, providers);
  screen.type('Expires (empty: it keeps)', '30 feb');
  screen.type('Why', 'x');
  screen.click('Correct the lot');
  expect(screen.text).toContain('“30 feb” is no day');
});
