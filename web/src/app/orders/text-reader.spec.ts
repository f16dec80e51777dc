import { signal } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import type { TextRead } from '@nockwright/contract/orders';
import { of } from 'rxjs';
import { TableColumns } from './table-columns';
import { TextReader } from './text-reader';
import { show, type TestScreen } from '../test-screen';
import { storeProviders } from './test-store';

type Proposal = TextRead['lines'][number];

const reading = (item: string, more: Partial<Proposal['readings'][number]> = {}) => ({
  item,
  description: `${item} described`,
  quantity: '20',
  unit: 'EA',
  day: null,
  units: ['EA'],
  usual: false,
  ...more,
});
const line = (words: string, more: Partial<Proposal> = {}): Proposal => ({
  row: 1,
  words,
  quantity: '20',
  unit: null,
  day: null,
  certainty: 'sure',
  why: '',
  readings: [reading('JAR')],
  ...more,
});
const READ: TextRead = {
  poNumber: { value: 'HX/318', words: 'Our order: HX/318' },
  wish: { days: ['2027-03-18'], words: 'deliver by Thursday 18 March', kind: 'deliver_by', why: '', asks: false },
  lines: [
    line('20 jars'),
    line('4 boxes foundaton', {
      certainty: 'likely',
      why: '“foundaton” taken for foundation',
      readings: [reading('FND', { unit: 'XBX', day: '2027-03-12' })],
      day: '2027-03-12',
    }),
    line('12 lids', { certainty: 'choose', why: 'several are called so', readings: [reading('LID-A'), reading('LID-B')] }),
    line('6 flux capacitors', { certainty: 'unknown', readings: [] }),
  ],
  rest: [
    { row: 1, words: 'Hi Ida,', kind: 'courtesy' },
    { row: 3, words: 'the last lot was late', kind: 'unknown' },
  ],
};

let screen: TestScreen<TextReader>;
let fixture: ComponentFixture<TextReader>;
let element: HTMLElement;
let closed: number;
const store = { fault: signal(''), busy: signal(false), readText: jest.fn(), addLines: jest.fn() };

beforeEach(() => {
  jest.useFakeTimers();
  store.fault.set('');
  closed = 0;
  store.readText.mockReset().mockReturnValue(of(READ));
  store.addLines.mockReset();
  screen = show(TextReader, { start: 'a mail' }, storeProviders(store));
  ({ fixture, element } = screen);
  fixture.componentInstance.closed.subscribe(() => closed++);
});
afterEach(() => {
  fixture.destroy();
  jest.useRealTimers();
});

const settle = () => screen.settle();

const rows = () => [...element.querySelectorAll<HTMLElement>('tbody tr')];
const text = (row: HTMLElement) => row.textContent!.replace(/\s+/g, ' ').trim();

function press(row: number, key: string) {
  rows()[row]!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  settle();
}

const confirm = () => {
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', ctrlKey: true, bubbles: true, cancelable: true }));
  settle();
};

it('shows each line with its words and what they were understood as; what was not understood stays in sight', () => {
  expect(rows().map((row) => text(row).split(' ')[0])).toEqual(['sure', 'likely', 'choose', 'not']);
  expect(text(rows()[1]!)).toContain('“foundaton” taken for foundation');
  expect(text(rows()[1]!)).toContain('Fri 12 Mar');
  expect(element.textContent).toContain('the last lot was late');
  expect(element.textContent).not.toContain('Hi Ida');
});

it('begins where something is to be decided, and adds nothing before that is done', () => {
  expect(document.activeElement?.textContent ?? rows()[2]!.textContent).toContain('12 lids');
  confirm();
  expect(store.addLines).not.toHaveBeenCalled();
  expect(store.fault()).toContain('“12 lids” is not settled');
});

it('adds what was agreed to, with the order number and the day, once a reading is picked and the rest dropped', () => {
  press(2, '2');
  expect(text(rows()[2]!)).toMatch(/^chosen/);
  press(3, 'Delete');
  confirm();
  expect(store.addLines).toHaveBeenCalledWith(
    {
      lines: [
        { item: 'JAR', unit: 'EA', quantity: '20' },
        { item: 'FND', unit: 'XBX', quantity: '20', requestedDay: '2027-03-12' },
        { item: 'LID-B', unit: 'EA', quantity: '20' },
      ],
      poNumber: 'HX/318',
      requestKind: 'deliver_by',
      requestedDay: '2027-03-18',
    },
    expect.any(Function),
  );
});

it('has a day that has two readings chosen, and numbers and units that have', () => {
  const readings = [reading('JAR', { quantity: '1200', unit: 'EA' }), reading('JAR', { quantity: '1.2', unit: 'KGM' })];
  store.readText.mockReturnValue(
    of({
      ...READ,
      wish: { days: ['2027-12-10', '2027-10-12'], words: 'by 10/12', kind: 'deliver_by', why: '“10/12” is day and month, or month and day?', asks: true },
      lines: [line('1.200 jars', { certainty: 'choose', quantity: '1.2', readings })],
      rest: [{ row: 2, words: 'please cancel the 5 smokers', kind: 'task' }],
    }),
  );
  screen.set('start', 'another mail');
  expect(element.textContent).toContain('To deal with');
  expect(text(rows()[0]!)).toContain('1200 each');
  press(0, '1');
  confirm();
  expect(store.fault()).toContain('Choose the day first');
  const [, october] = element.querySelectorAll<HTMLInputElement>('.wish input');
  october!.click();
  settle();
  confirm();
  expect(store.addLines).toHaveBeenCalledWith(
    expect.objectContaining({
      lines: [{ item: 'JAR', unit: 'EA', quantity: '1200' }],
      requestedDay: '2027-10-12',
      tasks: ['please cancel the 5 smokers'],
    }),
    expect.any(Function),
  );
});

it('leaves out of the head what was not agreed to', () => {
  press(3, 'Delete');
  press(2, 'Delete');
  for (const box of element.querySelectorAll<HTMLInputElement>('mat-checkbox input')) box.click();
  settle();
  confirm();
  expect(Object.keys(store.addLines.mock.calls[0]![0] as object)).toEqual(['lines']);
});

it('reads a line again that is typed again, by itself', () => {
  store.readText.mockReturnValue(of({ ...READ, lines: [line('lid-a 12', { readings: [reading('LID-A')] })] }));
  press(2, 'Enter');
  const field = rows()[2]!.querySelector('input')!;
  field.value = 'lid-a 12';
  field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
  settle();
  expect(store.readText).toHaveBeenLastCalledWith('lid-a 12');
  expect(text(rows()[2]!)).toMatch(/^sure/);
  expect(rows()).toHaveLength(4);
});

it('keeps a line that is typed again as something that names no line', () => {
  store.readText.mockReturnValue(of({ ...READ, lines: [] }));
  press(2, 'Enter');
  rows()[2]!
    .querySelector('input')!
    .dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
  settle();
  expect(store.fault()).toContain('names no line');
  expect(text(rows()[2]!)).toMatch(/^choose/);
});

it('is left by Escape, with nothing added', () => {
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true, cancelable: true }));
  expect([closed, store.addLines.mock.calls.length]).toEqual([1, 0]);
});

it('reads the text again while it is edited', () => {
  const field = element.querySelector('textarea')!;
  field.value = '3 forks';
  field.dispatchEvent(new Event('input'));
  settle();
  expect(store.readText).toHaveBeenLastCalledWith('3 forks');
  field.value = '';
  field.dispatchEvent(new Event('input'));
  settle();
  expect(rows()).toEqual([]);
});

it('reads rows of a spreadsheet by their columns, which can be corrected', () => {
  const table = 'JAR-340-HX\t20\t3\nLID-063-GD\t480\t7';
  screen.set('start', table);
  expect(store.readText).toHaveBeenLastCalledWith('20 JAR-340-HX\n480 LID-063-GD');
  expect(element.querySelector('[aria-label="Columns of the table"]')!.textContent).toContain('JAR-340-HX');
  const columns = () => fixture.debugElement.query(By.directive(TableColumns)).componentInstance as { take(at: number, kind: string): void };
  for (const [at, kind] of [
    [1, 'none'],
    [2, 'quantity'],
  ] as const) {
    columns().take(at, kind);
    settle();
  }
  expect(store.readText).toHaveBeenLastCalledWith('3 JAR-340-HX\n7 LID-063-GD');
});
