import { supplyRoutes, type ReorderRow } from '@nockwright/contract/supply';
import { show, testApi } from '../../test-screen';
import { ReorderList } from './reorder-list';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const row: ReorderRow = {
  item: 'JAR',
  description: 'Jar',
  unit: 'EA',
  warehouse: 'MAR',
  onHand: '300',
  due: '0',
  owed: '200',
  waiting: '0',
  position: '100',
  perDay: 20,
  deviation: 10.5,
  leadDays: 6,
  leadDeviation: 0.5,
  safety: '43',
  point: '163',
  quantity: '600',
  supplier: 'SUP',
  supplierName: 'Tarnbeck',
  cost: '0.31',
  value: '186.00',
  suppliers: [
    { code: 'SUP', name: 'Tarnbeck', cost: '0.31', quantity: '600', arrives: '2027-03-16' },
    { code: 'SLOW', name: 'Slow and Sons', cost: '0.33', quantity: '610', arrives: '2027-03-30' },
  ],
};
const policy = { level: '95', orderCost: '30', holdingPercent: '20', demandDays: 90 };

function open(role?: string) {
  const test = testApi();
  test.answers(
    [supplyRoutes.listReorder, [row, { ...row, item: 'LID', value: '10.00', suppliers: row.suppliers.slice(0, 1) }]],
    [supplyRoutes.readReorderPolicy, policy],
    [supplyRoutes.setReorderPolicy, { ...policy, demandDays: 60 }],
    [supplyRoutes.buyToStock, { purchases: [{ id: 7, number: 'P7', supplier: 'Tarnbeck', lines: 1 }] }],
    [supplyRoutes.listWarehouses, [{ code: 'MAR', name: 'Marrowby' }]],
    [supplyRoutes.listSuppliers, []],
  );
  return { ...test, screen: show(ReorderList, {}, test.providers, role) };
}

it('says why it is time to buy, and puts what is chosen by key on drafts', () => {
  const { screen, lastBody } = open();
  expect(screen.text).toContain('300 on hand and 0 inbound, less 200 committed: 100');
  expect(screen.text).toContain('So 120 go meanwhile, and 43 are kept for the days it is more: buy at 163');
  expect(screen.button('on drafts').disabled).toBe(true);
  const rows = screen.element.querySelectorAll<HTMLElement>('tbody tr');
  screen.press(' ', rows[0]!);
  expect(screen.text).toContain('Put 1 on drafts, 186.00 EUR');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(lastBody()).toEqual({ lines: [{ item: 'JAR', warehouse: 'MAR', supplier: 'SUP', quantity: '600' }] });
  expect(screen.text).toContain('P7 Tarnbeck, 1 line');
  expect(screen.button('on drafts').disabled).toBe(true);
});

it('another quantity chooses the row, and one that is none is told before anything is sent', () => {
  const { screen, api, lastBody } = open();
  screen.type('Quantity of LID at MAR', 'lots');
  const calls = api.call.mock.calls.length;
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(screen.text).toContain('LID: expected a quantity.');
  expect(api.call.mock.calls).toHaveLength(calls);
  screen.type('Quantity of LID at MAR', '48');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(lastBody()).toEqual({ lines: [{ item: 'LID', warehouse: 'MAR', supplier: 'SUP', quantity: '48' }] });
});

it('all that is shown is chosen by a key; who may not buy only sees', () => {
  expect(open('finance').screen.element.querySelector('nock-quantity-field')).toBeNull();
  const { screen } = open();
  screen.press('a');
  expect(screen.text).toContain('Put 2 on drafts');
});

it('the manager sets how it is reckoned', () => {
  const { screen, api } = open('manager');
  screen.type('Days looked back on', 'x');
  screen.click('Save');
  expect(screen.text).toContain('expected a whole number');
  screen.type('Days looked back on', '60');
  screen.click('Save');
  expect(api.call).toHaveBeenCalledWith(supplyRoutes.setReorderPolicy, { body: { ...policy, demandDays: 60 } });
  expect(screen.text).toContain('Saved.');
});
