import { signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { ContractLineView, ContractView } from '@nockwright/contract/pricing';
import { NEVER, of, throwError } from 'rxjs';
import { Session } from '../access';
import { Api, ProblemError } from '../api';
import { Live } from '../live';
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
  buyers: [{ customer: 1, number: 'C1', name: 'Wether Hill', shipTo: null }],
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

let fixture: ComponentFixture<ContractSheet>;
let element: HTMLElement;
const api = { call: jest.fn() };
const mayPlan = signal(true);
const copied: string[] = [];

beforeEach(() => {
  jest.useFakeTimers();
  mayPlan.set(true);
  copied.length = 0;
  Object.assign(navigator, { clipboard: { writeText: (text: string) => copied.push(text) } });
  api.call.mockReset().mockImplementation((route: { method: string; path: string }) => (route.path.endsWith('history') ? of([]) : of(CONTRACT)));
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      { provide: Session, useValue: { today: () => '2027-03-09', mayPlan } },
      { provide: Api, useValue: api },
      { provide: Live, useValue: { kept: (fetch: () => unknown) => fetch() ?? NEVER } },
    ],
  });
  fixture = TestBed.createComponent(ContractSheet);
  element = fixture.nativeElement as HTMLElement;
  fixture.componentRef.setInput('id', 4);
  settle();
});
afterEach(() => {
  fixture.destroy();
  jest.useRealTimers();
});

function settle() {
  fixture.detectChanges();
  TestBed.tick();
  jest.advanceTimersByTime(300);
  fixture.detectChanges();
}

function press(key: string, more: KeyboardEventInit = {}) {
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
  settle();
}

function pasteText(text: string) {
  press('v');
  const field = element.querySelector('textarea')!;
  field.value = text;
  field.dispatchEvent(new Event('input'));
  settle();
}

const lastCall = () => api.call.mock.calls[api.call.mock.calls.length - 1] as [{ path: string }, { body: unknown }];

it('shows terms, what is used of its most, and what it did to margin', () => {
  const rows = [...element.querySelectorAll('tbody tr')].map((row) => row.textContent!.replace(/\s+/g, ' '));
  expect(rows[0]).toContain('10.40 a tray');
  expect(rows[0]).toContain('92 %');
  expect(rows[1]).toContain('8 % off list');
  expect(rows[1]).toContain('one other');
  expect(element.textContent).toContain('margin 31.1 %');
});

it('explains the line that has the focus', () => {
  element.querySelectorAll<HTMLElement>('tbody tr')[1]!.click();
  settle();
  expect(element.textContent).toContain('K1002 line 1 until Fri 12 Mar');
});

it('writes pasted rows at the version that was seen, once none of them has a fault', () => {
  pasteText('item\tunit\tprice\nLID\tbarrel\t0.2');
  expect(element.textContent).toContain('line 2, unit: barrel is no unit');
  press('Enter', { ctrlKey: true });
  expect(lastCall()[0].path).not.toContain('lines');
  const field = element.querySelector('textarea')!;
  field.value = 'item\tunit\tprice\nLID\teach\t0,2';
  field.dispatchEvent(new Event('input'));
  settle();
  press('Enter', { ctrlKey: true });
  expect(lastCall()[1].body).toEqual({ version: 3, lines: [{ item: 'LID', kind: 'fixed', unit: 'EA', price: '0.2' }], all: false });
  expect(element.querySelector('textarea')).toBeNull();
});

it('tells the server’s faults by row and keeps what was pasted', () => {
  pasteText('LID\t\teach\t0.2');
  api.call.mockImplementation((route: { path: string }) =>
    route.path.endsWith('lines')
      ? throwError(() => new ProblemError({ title: 'x', status: 422, detail: 'body.lines[0].item: there is no item LID', errors: [] }))
      : of(CONTRACT),
  );
  press('Enter', { ctrlKey: true });
  expect(element.textContent).toContain('row 1, item: there is no item LID');
  expect(element.querySelector('textarea')!.value).toContain('LID');
});

it('copies the lines as a spreadsheet takes them, and Enter changes one as text', () => {
  press('c');
  expect(copied[0]!.split('\n')[1]).toBe('JAR\t\tXTY\t10.4\t\t\t\t500');
  const row = element.querySelectorAll<HTMLElement>('tbody tr')[0]!;
  row.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
  settle();
  expect(element.querySelector('textarea')!.value).toContain('JAR\t\tXTY\t10.4');
});

it('takes a customer off', () => {
  element.querySelector<HTMLButtonElement>('.buyer button')!.click();
  settle();
  expect(lastCall()[1].body).toEqual({ version: 3, buyers: [] });
});

it('is only read by who may not set contracts', () => {
  mayPlan.set(false);
  settle();
  press('v');
  expect(element.querySelector('textarea')).toBeNull();
  expect(element.querySelector('.buyer button, nock-buyer-field, nock-day-field')).toBeNull();
});
