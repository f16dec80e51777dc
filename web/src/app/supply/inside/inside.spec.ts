import { supplyRoutes, type AssemblyView, type TransferView } from '@nockwright/contract/supply';
import { of } from 'rxjs';
import { show, testApi } from '../../test-screen';
import { AssemblySheet } from './assembly-sheet';
import { InsideList } from './inside-list';
import { TransferSheet } from './transfer-sheet';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const transfer: TransferView = {
  id: 3,
  number: 'T503',
  from: { code: 'QUI', name: 'Quillhaven' },
  to: { code: 'MAR', name: 'Marrowby' },
  state: 'shipped',
  version: 2,
  createdDay: '2027-03-08',
  shipDay: '2027-03-09',
  expectedDay: '2027-03-10',
  lines: [
    {
      id: 5,
      lineNo: 1,
      item: 'LID',
      description: 'Lid',
      unit: 'EA',
      quantity: '8',
      cancelled: '0',
      shipped: '8',
      received: '0',
      lost: '0',
      open: '8',
      for: { order: 7, number: '20007', lineNo: 2, customer: 'Wether Hill' },
    },
  ],
};
const assembly: AssemblyView = {
  id: 4,
  number: 'A301',
  item: 'HIVE',
  description: 'Hive',
  unit: 'EA',
  warehouse: { code: 'MAR', name: 'Marrowby' },
  state: 'open',
  version: 1,
  quantity: '3',
  built: '0',
  cancelled: '0',
  open: '3',
  createdDay: '2027-03-09',
  expectedDay: '2027-03-11',
  for: null,
  parent: null,
  parts: [{ id: 5, number: 'A302', item: 'BODY', state: 'open' }],
  components: [{ item: 'BODY', description: 'Body', unit: 'EA', perUnit: '2', needed: '6', setAside: '4' }],
};

it('a transfer says what would still be on its way, and takes in what is typed', () => {
  const { providers, lastBody, answers } = testApi();
  answers([supplyRoutes.readTransfer, transfer], [supplyRoutes.receiveTransfer, transfer], [supplyRoutes.transferHistory, []]);
  const screen = show(TransferSheet, { id: '3' }, providers);
  screen.type('Quantity of LID', '6');
  expect(screen.text).toContain('LID: 6 of 8, 2 still on the way');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(lastBody()).toEqual({ version: 2, lines: [{ line: 5, quantity: '6' }] });
  screen.type('Quantity of LID', '6');
  screen.click('Nothing more comes');
  expect(lastBody()).toEqual({ version: 2, lines: [{ line: 5, quantity: '6' }], closeRest: true });
});

it('a transfer that has not left is sent by key, and taken back only with a reason', () => {
  const { api, providers, lastBody, answers } = testApi();
  answers(
    [supplyRoutes.readTransfer, { ...transfer, state: 'open' }],
    [supplyRoutes.shipTransfer, { ...transfer, state: 'open' }],
    [supplyRoutes.transferHistory, []],
  );
  const screen = show(TransferSheet, { id: '3' }, providers);
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(api.call).toHaveBeenLastCalledWith(supplyRoutes.shipTransfer, { params: { transfer: 3 }, body: { version: 2 } });
  screen.click('Take back');
  expect(screen.text).toContain('Why? The history keeps it.');
  screen.type('Take it back: the goods stay there', 'not needed');
  screen.click('Take back');
  expect(lastBody()).toEqual({ version: 2, reason: 'not needed' });
});

it('an assembly names what has to be put together first, and books whole ones only', () => {
  const { providers, lastBody, answers } = testApi();
  answers([supplyRoutes.readAssembly, assembly], [supplyRoutes.buildAssembly, assembly], [supplyRoutes.assemblyHistory, []]);
  const screen = show(AssemblySheet, { id: '4' }, providers);
  expect(screen.text).toContain('put together first');
  screen.type('Put together now', '1.5');
  expect(screen.button('Put together').disabled).toBe(true);
  screen.type('Put together now', '2');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(lastBody()).toEqual({ version: 1, quantity: '2' });
});

it('lists both, and says which are overdue', () => {
  const { api, providers } = testApi();
  api.call.mockReturnValue(
    of([
      { kind: 'transfer', id: 3, number: 'T503', what: 'Quillhaven to Marrowby', state: 'shipped', expectedDay: '2027-03-05', lines: 2 },
      { kind: 'assembly', id: 4, number: 'A301', what: '3 HIVE at Marrowby', state: 'open', expectedDay: '2027-03-11', lines: 1 },
    ]),
  );
  const screen = show(InsideList, {}, providers);
  expect(screen.text).toContain('Quillhaven to Marrowby, 2 lines');
  expect(screen.element.querySelectorAll('.late')).toHaveLength(1);
});
