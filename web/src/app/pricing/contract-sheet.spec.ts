import { Clipboard } from '@angular/cdk/clipboard';
import { signal } from '@angular/core';
import type { ContractLineView, ContractView } from '@nockwright/contract/pricing';
import { of, throwError } from 'rxjs';
import { Session } from '../access';
import { ProblemError } from '../api';
import { show, testApi, type TestScreen } from '../test-screen';
import { ContractSheet } from './contract-sheet';

const line = (id: number, more: Partial<ContractLineView> = {}): ContractLineView => ({
  id,
  lineNo: id,
  item: 'JAR',
  group: null,
  description: 'Jar',
  kind: 'fixed',
  unit: 'XTY',
  price: '10.4',
  percent: null,
  minimum: null,
  most: '500',
  used: '460',
  listPrice: '12.48',
  marginPercent: '28.5',
  lower: ['the list asks 0.49'],
  overlaps: [],
  ...more,
});
const CONTRACT: ContractView = {
  id: 4,
  number: 'K1004',
  name: 'Season',
  firstDay: '2027-01-01',
  lastDay: '2027-12-31',
  state: 'in_force',
  note: '',
  version: 3,
  buyers: [
    {
      customer: 1,
      number: 'C1',
      name: 'Wether Hill',
      shipTo: null,
      places: [
        { id: 7, name: '1 Lane, Combe' },
        { id: 8, name: '2 Dock, Quay' },
      ],
    },
  ],
  lines: [
    line(1),
    line(2, {
      item: null,
      group: 'Jars',
      kind: 'off_list',
      unit: null,
      price: null,
      percent: '8',
      most: null,
      used: '12',
      overlaps: ['K1002 line 1 until Fri 12 Mar'],
    }),
  ],
  sold: { amount: '45.00', atList: '52.00', marginPercent: '31.1', listMarginPercent: '40.4' },
};

let screen: TestScreen<ContractSheet>;
const { api, providers, lastBody } = testApi();
const mayPlan = signal(true);
const copied: string[] = [];
const clipboard = { provide: Clipboard, useValue: { copy: (text: string) => copied.push(text) > 0 } };

beforeEach(() => {
  jest.useFakeTimers();
  mayPlan.set(true);
  copied.length = 0;
  api.call.mockReset().mockImplementation((route: { method: string; path: string }) => (route.path.endsWith('history') ? of([]) : of(CONTRACT)));
  screen = show(ContractSheet, { id: 4 }, [...providers, clipboard, { provide: Session, useValue: { today: () => '2027-03-09', mayPlan } }]);
});
afterEach(() => {
  screen.fixture.destroy();
  jest.useRealTimers();
});

const press = (key: string, more: KeyboardEventInit = {}) => screen.press(key, document.body, more);
const rows = () => [...screen.element.querySelectorAll<HTMLElement>('tbody tr')];
const field = () => screen.element.querySelector('textarea');

function pasteText(text: string) {
  if (!field()) press('v');
  field()!.value = text;
  field()!.dispatchEvent(new Event('input'));
  screen.settle();
}

const lastPath = () => (api.call.mock.calls.at(-1) as [{ path: string }])[0].path;

it('holds for one address of a buyer, where that is chosen', () => {
  const select = screen.element.querySelector<HTMLElement>('[aria-label="Address of Wether Hill"]')!;
  select.click();
  screen.settle();
  const option = [...document.querySelectorAll('mat-option')].find((row) => row.textContent.includes('2 Dock'))!;
  option.dispatchEvent(new MouseEvent('click', { bubbles: true }));
  screen.settle();
  expect(lastBody()).toEqual({ version: 3, buyers: [{ customer: 1, shipTo: 8 }] });
});

it('tells what asks less than a line', () => {
  expect(rows()[0]!.textContent).toContain('the list asks 0.49');
});

it('shows terms, what is used of its most, and what it did to margin', () => {
  const words = rows().map((row) => row.textContent.replace(/\s+/g, ' '));
  expect(words[0]).toContain('10.40 a tray');
  expect(words[0]).toContain('92 %');
  expect(words[1]).toContain('8 % off list');
  expect(words[1]).toContain('one other');
  expect(screen.text).toContain('margin 31.1 %');
});

it('explains the line that has the focus', () => {
  rows()[1]!.click();
  screen.settle();
  expect(screen.text).toContain('K1002 line 1 until Fri 12 Mar');
});

it('writes pasted rows at the version that was seen, once none of them has a fault', () => {
  pasteText('item\tunit\tprice\nLID\tbarrel\t0.2');
  expect(screen.text).toContain('line 2, unit: barrel is no unit');
  press('Enter', { ctrlKey: true });
  expect(lastPath()).not.toContain('lines');
  pasteText('item\tunit\tprice\nLID\teach\t0,2');
  press('Enter', { ctrlKey: true });
  expect(lastBody()).toEqual({ version: 3, lines: [{ item: 'LID', kind: 'fixed', unit: 'EA', price: '0.2' }], all: false });
  expect(field()).toBeNull();
});

it('tells the server’s faults by row and keeps what was pasted', () => {
  pasteText('LID\t\teach\t0.2');
  api.call.mockImplementation((route: { path: string }) =>
    route.path.endsWith('lines')
      ? throwError(() => new ProblemError({ title: 'x', status: 422, detail: 'body.lines[0].item: there is no item LID', errors: [] }))
      : of(CONTRACT),
  );
  press('Enter', { ctrlKey: true });
  expect(screen.text).toContain('row 1, item: there is no item LID');
  expect(field()!.value).toContain('LID');
});

it('copies the lines as a spreadsheet takes them, and Enter changes one as text', () => {
  press('c');
  expect(copied[0]!.split('\n')[1]).toBe('JAR\t\tXTY\t10.4\t\t\t\t500');
  screen.press('Enter', rows()[0]!);
  expect(field()!.value).toContain('JAR\t\tXTY\t10.4');
});

it('takes a customer off', () => {
  screen.element.querySelector<HTMLButtonElement>('.buyer button')!.click();
  screen.settle();
  expect(lastBody()).toEqual({ version: 3, buyers: [] });
});

it('is only read by who may not set contracts', () => {
  mayPlan.set(false);
  screen.settle();
  press('v');
  expect(field()).toBeNull();
  expect(screen.element.querySelector('.buyer button, nock-buyer-field, nock-day-field')).toBeNull();
});
