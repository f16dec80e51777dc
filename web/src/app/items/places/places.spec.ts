import { stockRoutes, type StockPlace } from '@nockwright/contract/items';
import { supplyRoutes } from '@nockwright/contract/supply';
import { testMover } from '../../ripple/test-mover';
import { show, testApi } from '../../test-screen';
import { BinForm } from './bin-form';
import { MoveForm } from './move-form';
import { PlaceList } from './place-list';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const place: StockPlace = {
  id: 5,
  item: 'FEE-SYR-14',
  description: 'Invert syrup',
  unit: 'EA',
  warehouse: 'MAR',
  bin: 'C-02',
  lot: 'X-1',
  expires: '2027-03-05',
  status: 'available',
  quantity: '6',
  expired: true,
  tracksSerials: false,
};
const calm = { later: [], earlier: [], offers: [] };

function open(role?: string) {
  const test = testApi();
  test.answers(
    [stockRoutes.listPlaces, [place, { ...place, id: 6, status: 'quarantine', expired: false, expires: null, bin: '' }]],
    [supplyRoutes.listWarehouses, [{ code: 'MAR', name: 'Marrowby' }]],
    [stockRoutes.previewMove, { ...calm, later: [testMover()] }],
    [stockRoutes.previewCount, calm],
    [stockRoutes.listBins, ['A-01']],
  );
  const screen = show(PlaceList, {}, test.providers, role);
  const rows = () => screen.element.querySelectorAll<HTMLElement>('tbody tr');
  const go = (at: number) => {
    rows()[at]!.click();
    screen.settle();
  };
  return { ...test, screen, go };
}

it('says what stands where, what has expired, and what a row may be put to', () => {
  const { screen, go } = open();
  expect(screen.text).toContain('MAR C-02');
  expect(screen.text).toContain('no bin');
  expect(screen.text).toContain('Fri 5 Mar, expired');
  go(0);
  expect(screen.text).toContain('it is promised to nobody and cannot be shipped');
  screen.press('q');
  expect(screen.text).toContain('Into quarantine: FEE-SYR-14');
  go(1);
  expect(screen.text).toContain('In the house and nobody’s');
  screen.press('q');
  expect(screen.text).toContain('Out of quarantine');
});

it('the warehouse moves and puts aside, and neither releases nor counts', () => {
  const { screen, go } = open('warehouse');
  go(1);
  screen.press('q');
  expect(screen.text).not.toContain('Out of quarantine');
  screen.press('c');
  expect(screen.text).not.toContain('Count of');
  screen.press('m');
  expect(screen.text).toContain('Into another bin');
});

it('a count of one place is sent for that place, with its cause', () => {
  const { screen, go, answers, lastBody } = open();
  go(0);
  screen.press('c');
  answers([stockRoutes.previewCount, calm], [stockRoutes.countStock, { onHand: '4' }]);
  screen.type('Counted (the books say 6)', '4');
  screen.type('Why it differs', 'two leaked');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(lastBody()).toEqual({ warehouse: 'MAR', counted: '4', place: 5, cause: 'other', reason: 'two leaked', decision: { accept: [], seen: [] } });
});

it('whose promises move is seen before goods are put aside; another bin asks for its name', () => {
  const { providers, answers, lastBody, api } = testApi();
  answers([stockRoutes.previewMove, { ...calm, later: [testMover()] }], [stockRoutes.moveGoods, []]);
  const aside = show(MoveForm, { place, kind: 'quarantine' }, providers);
  expect(aside.text).toContain('later');
  aside.type('How many of 6', '2');
  aside.click('Put into quarantine');
  expect(lastBody()).toMatchObject({ quantity: '2', status: 'quarantine', cause: 'other', decision: { seen: [{ line: testMover().line }] } });
  const calls = api.call.mock.calls.length;
  const move = show(MoveForm, { place, kind: 'move' }, providers);
  move.click('Move goods');
  expect(move.text).toContain('Into which bin?');
  expect(api.call.mock.calls).toHaveLength(calls);
  move.type('Bin', 'a-07');
  move.click('Move goods');
  expect(lastBody()).toEqual({ quantity: '6', bin: 'A-07' });
});

it('bins are listed, and another is added by its name', () => {
  const { providers, answers, lastBody } = testApi();
  answers([stockRoutes.listBins, ['A-01']], [stockRoutes.addBin, ['A-01', 'B-09']]);
  const screen = show(BinForm, { warehouse: 'MAR' }, providers);
  screen.click('Add bin');
  expect(screen.text).toContain('What is it called?');
  screen.type('New bin', 'b-09');
  screen.click('Add bin');
  expect(lastBody()).toEqual({ bin: 'B-09' });
  expect(screen.field('Sequence of the walk, a bin a line').value).toBe('A-01\nB-09');
  answers([stockRoutes.setWalk, ['B-09', 'A-01']]);
  screen.type('Sequence of the walk, a bin a line', 'b-09\na-01');
  screen.click('Save the sequence');
  expect(lastBody()).toEqual({ bins: ['B-09', 'A-01'] });
});
