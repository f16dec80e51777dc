import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { supplyRoutes, type AssemblyView, type TransferView } from '@nockwright/contract/supply';
import { of } from 'rxjs';
import { testMover } from '../../ripple/test-mover';
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
      damaged: '0',
      open: '8',
      for: { order: 7, number: '20007', lineNo: 2, customer: 'Wether Hill' },
      tracksSerials: false,
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
  tracksSerials: false,
  parent: null,
  parts: [{ id: 5, number: 'A302', item: 'BODY', state: 'open' }],
  components: [{ item: 'BODY', description: 'Body', unit: 'EA', perUnit: '2', needed: '6', setAside: '4' }],
};

const hurt = { availableDay: '2027-03-18', ripple: { later: [testMover()], earlier: [], offers: [] } };
const decision = { seen: [{ line: 31, after: [{ day: '2027-03-16', quantity: '2' }] }], accept: [] };
const open: TransferView = { ...transfer, state: 'open', lines: [{ ...transfer.lines[0]!, shipped: '0' }] };

function transferSheet(view: TransferView, role?: string) {
  const { api, providers, lastBody, answers, changed } = testApi();
  const replies = (now: TransferView): [unknown, unknown][] => [
    [supplyRoutes.readTransfer, now],
    [supplyRoutes.transferHistory, []],
    [supplyRoutes.shipTransfer, view],
    [supplyRoutes.receiveTransfer, view],
    [supplyRoutes.changeTransfer, view],
    [supplyRoutes.cancelTransfer, view],
    [supplyRoutes.previewTransferReceipt, hurt],
    [supplyRoutes.previewTransferChange, hurt],
  ];
  answers(...replies(view));
  const screen = show(TransferSheet, { id: '3' }, providers, role);
  const go = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
  const asked = (route: unknown) => (api.call.mock.calls as [unknown, { query: unknown }][]).filter(([one]) => one === route).at(-1)?.[1].query;
  /** Somebody else changes it meanwhile. */
  const becomes = (more: Partial<TransferView>) => {
    answers(...replies({ ...view, version: view.version + 1, ...more }));
    changed.next();
    screen.settle();
  };
  return { api, screen, lastBody, go, asked, becomes };
}

describe('a transfer on its way', () => {
  it('is taken in by key as it was sent, and nobody is asked about', () => {
    const { screen, lastBody, asked } = transferSheet(transfer);
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ version: 2, lines: [{ line: 5, quantity: '8' }] });
    expect(asked(supplyRoutes.previewTransferReceipt)).toBeUndefined();
  });

  it('that comes short says whom that hurts, with the rest awaited or lost, and moves them as seen', () => {
    const { screen, lastBody, asked } = transferSheet(transfer);
    screen.type('Received now: LID', '6');
    expect(screen.text).toContain('LID: 6 of 8, 2 short');
    expect(asked(supplyRoutes.previewTransferReceipt)).toEqual({ lines: '5:6', closeRest: false, accept: '' });
    screen.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    screen.settle();
    expect(asked(supplyRoutes.previewTransferReceipt)).toEqual({ lines: '5:6', closeRest: true, accept: '' });
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ version: 2, lines: [{ line: 5, quantity: '6' }], closeRest: true, decision });
  });

  it('leads on to the board with just the lines it leaves short; all of it may be lost', () => {
    const { screen, lastBody, go } = transferSheet(transfer);
    screen.type('Received now: LID', '0');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(screen.text).toContain('Nothing has come in by this');
    screen.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    screen.settle();
    screen.press('b', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ version: 2, lines: [{ line: 5, quantity: '0' }], closeRest: true });
    expect(go).toHaveBeenCalledWith(['/shortages'], { queryParams: { lines: '31' } });
  });

  it('what received damaged comes off what is sound, and goes into the bin that is named', () => {
    const { screen, lastBody, asked } = transferSheet(transfer);
    screen.type('Damaged: LID', '2');
    expect(screen.field('Received now: LID').value).toBe('6');
    screen.type('Bin: LID', 'a-01');
    expect(screen.text).toContain('LID: 6 of 8, 2 damaged');
    expect(screen.text).not.toContain('close the remainder');
    expect(asked(supplyRoutes.previewTransferReceipt)).toEqual({ lines: '5:6:2', closeRest: false, accept: '' });
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ version: 2, lines: [{ line: 5, quantity: '6', damaged: '2', bin: 'A-01' }], closeRest: false, decision });
    screen.type('Damaged: LID', 'x');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(screen.text).toContain('LID: expected a quantity.');
  });

  it('refuses what is no quantity by its item', () => {
    const { screen, api } = transferSheet(transfer);
    screen.type('Received now: LID', 'some');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(screen.text).toContain('LID: expected a quantity.');
    expect(api.call.mock.calls.map(([route]: unknown[]) => route)).not.toContain(supplyRoutes.receiveTransfer);
  });

  it('is only taken in by the warehouse: what follows is for the desk to decide', () => {
    const { screen, lastBody } = transferSheet(transfer, 'warehouse');
    expect(screen.text).not.toContain('Other day');
    screen.type('Received now: LID', '6');
    expect(screen.text).not.toContain('Not as expected');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ version: 2, lines: [{ line: 5, quantity: '6' }] });
  });

  it('has another day by key, and no other quantity', () => {
    const { screen, lastBody } = transferSheet(transfer);
    screen.press('d');
    expect(screen.text).toContain('Change day');
    expect(screen.text).not.toContain('to transfer');
    screen.type('Now expected', '17 mar');
    screen.press('Enter', screen.field('Now expected'));
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ version: 2, expectedDay: '2027-03-17', decision });
  });
});

describe('a transfer that somebody else changes while it is being changed', () => {
  it('keeps what was typed, says so, and follows in what was not', () => {
    const { screen, lastBody, becomes } = transferSheet(open);
    screen.press('d');
    screen.type('LID to transfer', '5');
    expect(screen.text).not.toContain('Changed elsewhere');
    becomes({ expectedDay: '2027-03-12' });
    expect(screen.text).toContain('Changed elsewhere meanwhile');
    expect(screen.field('Now expected').value).toContain('12 Mar');
    expect(screen.field('LID to transfer').value).toBe('5');
    screen.type('Now expected', '17 mar');
    screen.press('Enter', screen.field('Now expected'));
    becomes({ version: 4, expectedDay: '2027-03-15' });
    expect(screen.field('Now expected').value).toContain('17 Mar');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ version: 4, expectedDay: '2027-03-17', lines: [{ line: 5, open: '5' }], decision });
  });

  it('is changed no more where it is over: the form goes', () => {
    const { screen, becomes } = transferSheet(open);
    screen.press('d');
    becomes({ state: 'cancelled' });
    expect(screen.text).not.toContain('Save');
    expect(screen.text).toContain('Nothing more is expected.');
  });
});

describe('a transfer that has not left', () => {
  it('is sent by key', () => {
    const { api, screen } = transferSheet(open);
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(api.call).toHaveBeenLastCalledWith(supplyRoutes.shipTransfer, { params: { transfer: 3 }, body: { version: 2 } });
  });

  it('is taken back with a reason, once it is known whom that hurts; they can be looked at on the board', () => {
    const { screen, lastBody, go, asked } = transferSheet(open);
    screen.press('k');
    expect(asked(supplyRoutes.previewTransferChange)).toEqual({ lines: '5:0', accept: '' });
    screen.click('Cancel transfer, move 1 promise');
    expect(screen.text).toContain('Why? The history keeps it.');
    screen.type('Why', 'not needed');
    screen.click('Cancel transfer, move 1 promise');
    expect(lastBody()).toEqual({ version: 2, reason: 'not needed', decision });
    screen.press('k');
    screen.type('Why', 'not needed');
    screen.press('b', document.body, { ctrlKey: true });
    expect(lastBody()).toEqual({ version: 2, reason: 'not needed' });
    expect(go).toHaveBeenCalledWith(['/shortages'], { queryParams: { lines: '31' } });
  });

  it('brings less of an item, typed in its row, and nothing where nothing is different', () => {
    const { screen, lastBody, asked } = transferSheet(open);
    screen.press('d');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(screen.text).toContain('Nothing is different yet');
    screen.type('LID to transfer', 'x');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(screen.text).toContain('Quantity to transfer: expected a quantity.');
    screen.type('LID to transfer', '5');
    expect(asked(supplyRoutes.previewTransferChange)).toEqual({ lines: '5:5', accept: '' });
    screen.type('Why (for the history)', 'three are cracked');
    screen.click('Save only');
    expect(lastBody()).toEqual({ version: 2, lines: [{ line: 5, open: '5' }], note: 'three are cracked' });
    screen.press('d');
    screen.press('Escape');
    expect(screen.text).toContain('History');
  });
});

function assemblySheet(view: AssemblyView) {
  const { api, providers, lastBody, answers } = testApi();
  answers(
    [supplyRoutes.readAssembly, view],
    [supplyRoutes.assemblyHistory, []],
    [supplyRoutes.changeAssembly, view],
    [supplyRoutes.cancelAssembly, view],
    [supplyRoutes.previewAssemblyChange, hurt],
  );
  const asked = () => (api.call.mock.calls as [unknown, { query: unknown }][]).filter(([one]) => one === supplyRoutes.previewAssemblyChange).at(-1)?.[1].query;
  return { screen: show(AssemblySheet, { id: '4' }, providers), lastBody, asked };
}

it('an assembly is done on another day, or for fewer, as was seen', () => {
  const { screen, lastBody, asked } = assemblySheet(assembly);
  screen.press('d');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(screen.text).toContain('Nothing is different yet');
  screen.type('Still to assemble', '1.5');
  expect(screen.text).toContain('expected a whole number');
  screen.type('Still to assemble', '2');
  screen.type('Now done by', '19 mar');
  screen.press('Enter', screen.field('Now done by'));
  expect(asked()).toEqual({ day: '2027-03-19', open: '2', accept: '' });
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(lastBody()).toEqual({ version: 1, expectedDay: '2027-03-19', open: '2', decision });
});

it('an assembly is given up with a reason; one that goes into another only has another day', () => {
  const { screen, lastBody, asked } = assemblySheet(assembly);
  screen.press('k');
  expect(asked()).toEqual({ open: '0', accept: '' });
  screen.click('Cancel assembly, move 1 promise');
  expect(screen.text).toContain('Why? The history keeps it.');
  screen.type('Why', 'the bench is broken');
  screen.click('Cancel only');
  expect(lastBody()).toEqual({ version: 1, reason: 'the bench is broken' });
  const part = assemblySheet({ ...assembly, parent: { id: 3, number: 'A300' } });
  part.screen.press('k');
  expect(part.screen.text).not.toContain('components go back');
  part.screen.press('d');
  expect(part.screen.text).toContain('A300, which it goes into, is done as much later as it has to wait for it.');
});

it('an assembly names what has to be assemble first, and books whole ones only', () => {
  const { providers, lastBody, answers, changed } = testApi();
  answers([supplyRoutes.readAssembly, assembly], [supplyRoutes.buildAssembly, assembly], [supplyRoutes.assemblyHistory, []]);
  const screen = show(AssemblySheet, { id: '4' }, providers);
  expect(screen.text).toContain('assemble first');
  screen.type('Assemble now', '1.5');
  expect(screen.button('Assemble').disabled).toBe(true);
  screen.type('Assemble now', '2');
  // It is read again: somebody has moved its day.
  answers([supplyRoutes.readAssembly, { ...assembly, expectedDay: '2027-03-12' }], [supplyRoutes.buildAssembly, assembly], [supplyRoutes.assemblyHistory, []]);
  changed.next();
  screen.settle();
  expect(screen.text).toContain('Fri 12 Mar');
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
