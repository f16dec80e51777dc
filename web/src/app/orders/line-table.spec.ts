import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { signal } from '@angular/core';
import { Session } from '../access';
import { LineTable } from './line-table';
import { LineOptions } from './options/line-options';
import { testRoute } from '../shortages/test-route';
import { Places } from '../supply';
import { testLine, testOrder } from './test-order';
import { Unsaved } from './typed/unsaved';
import { WhatIfDesk } from './what-if-desk';
import { of, Subject } from 'rxjs';
import { storeProviders } from './test-store';

const TODAY = '2027-03-09';
let fixture: ComponentFixture<LineTable>;
let element: HTMLElement;
const store = {
  order: signal<OrderView | null>(null),
  fault: signal(''),
  collisions: signal<readonly object[]>([]),
  busy: signal(false),
  routesOf: jest.fn(),
  chooseRoute: jest.fn(),
  changeLine: jest.fn(),
  moveLine: jest.fn(),
};
const whatIf = { prepare: jest.fn(), try: jest.fn() };

beforeEach(() => {
  jest.useFakeTimers();
  store.changeLine.mockReset();
  store.moveLine.mockReset();
  store.fault.set('');
  TestBed.configureTestingModule({
    providers: [
      { provide: Session, useValue: { today: () => TODAY, maySell: () => true, inOffice: () => true, may: () => true, user: () => null } },
      ...storeProviders(store),
      LineOptions,
      { provide: WhatIfDesk, useValue: whatIf },
      { provide: Places, useValue: { warehouses: signal([]) } },
      Unsaved,
    ],
  });
  fixture = TestBed.createComponent(LineTable);
  element = fixture.nativeElement as HTMLElement;
  document.body.append(element);
  show([
    testLine(),
    testLine({ id: 12, lineNo: 2, item: 'LID', state: 'uncovered', uncovered: '30', stateWords: '30 backordered', stateDays: 'no supply yet', schedule: [] }),
  ]);
});
afterEach(() => {
  element.remove();
  jest.useRealTimers();
});

function show(lines: readonly LineView[], more: { preview?: LineView; selected?: number } = {}) {
  store.order.set(testOrder({ lines }));
  fixture.componentRef.setInput('order', store.order());
  fixture.componentRef.setInput('preview', more.preview ?? null);
  fixture.componentRef.setInput('selected', more.selected ?? null);
  fixture.detectChanges();
}

const rows = () => [...element.querySelectorAll<HTMLTableRowElement>('tbody tr')];
function press(target: Element, key: string, more: object = {}) {
  target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
  fixture.detectChanges();
}

it('says of each line what is ordered, at what price, and its state with its days', () => {
  expect(rows().map((row) => row.textContent!.replace(/\s+/g, ' '))).toEqual([
    expect.stringContaining('JAR-340-HX'),
    expect.stringContaining('30 backordered'),
  ]);
  expect(rows()[0]!.textContent).toContain('11.1072');
  expect(rows()[1]!.textContent).toContain('no supply yet');
});

it('lets arrow keys go from line to line, and out at the end', () => {
  const left = jest.fn();
  fixture.componentInstance.left.subscribe(left);
  rows()[0]!.focus();
  press(rows()[0]!, 'ArrowDown');
  expect(document.activeElement).toBe(rows()[1]!);
  press(rows()[1]!, 'ArrowDown');
  expect(left).toHaveBeenCalledTimes(1);
  press(rows()[1]!, 'ArrowUp');
  expect(document.activeElement).toBe(rows()[0]!);
});

it('goes to the last line of the order, not to one that is only looked at', () => {
  show([testLine()], { preview: testLine({ id: 0, lineNo: 2 }) });
  fixture.componentInstance.focusLast();
  expect(document.activeElement).toBe(rows()[0]!);
});

it('has one line in the order of Tab: the one that was looked at last', () => {
  show([testLine(), testLine({ id: 12, lineNo: 2 })], { selected: 12 });
  expect(rows().map((row) => row.tabIndex)).toEqual([-1, 0]);
  expect(rows()[1]!.getAttribute('aria-selected')).toBe('true');
});

it('changes quantity, unit and day as they are said', () => {
  press(rows()[0]!, 'Enter');
  const field = element.querySelector('input')!;
  expect(field.value).toBe('10 trays');
  field.value = '12 each fri';
  press(field, 'Enter');
  expect(store.changeLine).toHaveBeenCalledWith(
    expect.objectContaining({ id: 11 }),
    { quantity: '12', unit: 'EA', requestedDay: '2027-03-12' },
    expect.any(Function),
    expect.any(Function),
  );
  expect(element.querySelector('input')).toBeNull();
});

it('shows what the line would be while its quantity is typed, and what it is when that is given up', () => {
  whatIf.try.mockReturnValue(
    of({ ok: true, line: testLine({ quantity: '40', amount: '444.29', stateWords: 'late', stateDays: 'Tue 16 Mar', state: 'late' }) }),
  );
  const tried: (LineView | null)[] = [];
  fixture.componentInstance.tried.subscribe((line) => tried.push(line));
  press(rows()[0]!, 'Enter');
  const field = element.querySelector('input')!;
  field.value = '40';
  field.dispatchEvent(new Event('input'));
  TestBed.tick();
  fixture.detectChanges();
  expect(whatIf.try).toHaveBeenLastCalledWith(
    expect.anything(),
    'JAR-340-HX',
    expect.objectContaining({ quantity: '40', unit: 'XTY', warehouse: 'MAR', replaces: 1 }),
  );
  expect(rows()[0]!.textContent).toContain('444.29');
  expect(field.value).toBe('40');
  expect(tried.at(-1)).toMatchObject({ id: 11, stateWords: 'late', stateDays: 'Tue 16 Mar' });
  press(field, 'Escape');
  TestBed.tick();
  fixture.detectChanges();
  expect(rows()[0]!.textContent).toContain('111.07');
  expect(tried.at(-1)).toBeNull();
});

it('takes what is typed when the field is left; Escape alone drops it', () => {
  press(rows()[0]!, 'Enter');
  const field = element.querySelector('input')!;
  field.value = '9 tray';
  field.dispatchEvent(new Event('input'));
  field.dispatchEvent(new Event('blur'));
  fixture.detectChanges();
  expect(store.changeLine).toHaveBeenCalledTimes(1);
  expect(store.changeLine).toHaveBeenCalledWith(
    expect.objectContaining({ id: 11 }),
    { quantity: '9', unit: 'XTY' },
    expect.any(Function),
    expect.any(Function),
  );
  expect(element.querySelector('input')).toBeNull();
  press(rows()[0]!, 'Enter');
  const again = element.querySelector('input')!;
  again.value = '7 tray';
  press(again, 'Escape');
  again.dispatchEvent(new Event('blur'));
  expect(store.changeLine).toHaveBeenCalledTimes(1);
});

it('says what somebody else has meanwhile, with the line as it was when the change began', () => {
  press(rows()[0]!, 'Enter');
  show([testLine({ quantity: '7' }), testLine({ id: 12, lineNo: 2 })]);
  const field = element.querySelector('input')!;
  expect(field.value).toBe('10 trays');
  field.value = '12';
  press(field, 'Enter');
  expect(store.changeLine).toHaveBeenCalledWith(expect.objectContaining({ quantity: '10' }), { quantity: '12' }, expect.any(Function), expect.any(Function));
  store.collisions.set([{ key: 'line.11.quantity', line: 11, field: 'quantity', mine: '12', theirs: '7', who: 'Sam', again: () => undefined }]);
  fixture.detectChanges();
  expect(rows()[1]!.textContent!.replace(/\s+/g, ' ')).toContain('Quantity: yours “12”, Sam’s “7”');
  store.collisions.set([]);
});

it('puts what the server refuses back into the field, and takes nobody’s focus', () => {
  show([testLine(), testLine({ id: 12, lineNo: 2 })], { selected: 11 });
  const refuse = () => {
    (store.changeLine.mock.lastCall as [LineView, object, () => void, () => void])[3]();
    fixture.detectChanges();
  };
  const typeAndTake = (text: string) => {
    press(rows()[0]!, 'Enter');
    const field = element.querySelector('input')!;
    field.value = text;
    press(field, 'Enter');
  };
  typeAndTake('9 case');
  expect(document.activeElement).toBe(rows()[0]!);
  refuse();
  expect(element.querySelector('input')!.value).toBe('9 case');
  expect(document.activeElement).toBe(element.querySelector('input'));
  press(element.querySelector('input')!, 'Escape');
  typeAndTake('9 case');
  rows()[1]!.focus();
  show([testLine(), testLine({ id: 12, lineNo: 2 })], { selected: 12 });
  refuse();
  expect(element.querySelector('input')!.value).toBe('9 case');
  expect(document.activeElement).toBe(rows()[1]!);
});

it('keeps the field open where what is typed is no quantity', () => {
  press(rows()[0]!, 'Enter');
  const field = element.querySelector('input')!;
  field.value = 'many';
  press(field, 'Enter');
  expect(store.changeLine).not.toHaveBeenCalled();
  expect(store.fault()).toContain('“many” is no quantity');
  press(field, 'Escape');
  expect(element.querySelector('input')).toBeNull();
});

it('takes a line off with Delete, but not the one that is only looked at', () => {
  const removed: number[] = [];
  fixture.componentInstance.removed.subscribe((line) => removed.push(line.id));
  show([testLine()], { preview: testLine({ id: 0, lineNo: 2 }) });
  expect(rows()[1]!.textContent).toContain('Hexagonal');
  press(rows()[1]!, 'Delete');
  press(rows()[0]!, 'Delete');
  expect(removed).toEqual([11]);
});

it('shows how far a released line has come', () => {
  show([testLine({ shipped: '100' }), testLine({ id: 12, cancelled: '5' }), testLine({ id: 13, picking: '7' })]);
  expect(rows().map((row) => /(\d+ (?:shipped|cancelled|picking))/.exec(row.textContent!)?.[1])).toEqual(['100 shipped', '5 cancelled', '7 picking']);
});

describe('a line is carried to another place', () => {
  it('by Alt with an arrow, from where it is by then', () => {
    press(rows()[1]!, 'ArrowUp', { altKey: true });
    const [line, place] = store.moveLine.mock.calls[0] as [LineView, (current: number) => number];
    expect(line.id).toBe(12);
    expect([place(2), place(5)]).toEqual([1, 4]);
    press(rows()[0]!, 'ArrowDown', { altKey: true });
    expect((store.moveLine.mock.calls[1] as [LineView, (current: number) => number])[1](1)).toBe(2);
  });

  it('by dragging', () => {
    const list = fixture.debugElement.query((node) => node.name === 'tbody');
    list.triggerEventHandler('cdkDropListDropped', { previousIndex: 0, currentIndex: 1 });
    expect(store.moveLine).toHaveBeenLastCalledWith(expect.objectContaining({ id: 11 }), expect.any(Function));
    store.moveLine.mockClear();
    list.triggerEventHandler('cdkDropListDropped', { previousIndex: 1, currentIndex: 1 });
    expect(store.moveLine).not.toHaveBeenCalled();
  });

  it('but not on an order that is released', () => {
    store.order.set(testOrder({ state: 'released', lines: [testLine(), testLine({ id: 12, lineNo: 2 })] }));
    fixture.componentRef.setInput('order', store.order());
    fixture.detectChanges();
    press(rows()[1]!, 'ArrowUp', { altKey: true });
    expect(store.moveLine).not.toHaveBeenCalled();
  });
});

describe('the options of a short line', () => {
  const drop = testRoute({ label: 'Drop ship from Tarnbeck', daysLate: 7, shipDay: '2027-03-19' });
  const barred = testRoute({ label: 'Transfer from Quillhaven', possible: false, remarks: ['only 4 are free'] });

  function open(lineId: number) {
    store.chooseRoute.mockReset();
    store.routesOf.mockReturnValue(of({ short: '30', unit: 'EA', policy: 'on_time', frees: [], takesBack: [], routes: [testRoute(), drop, barred] }));
    const line = store.order()!.lines.find((row) => row.id === lineId)!;
    TestBed.inject(LineOptions).look({ line: signal(line), changing: signal(false) });
    show(store.order()!.lines, { selected: lineId });
    TestBed.tick();
    jest.advanceTimersByTime(200);
    fixture.detectChanges();
  }
  const options = () => [...element.querySelectorAll<HTMLTableRowElement>('tr.option')];
  const key = (name: string) => {
    document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
    fixture.detectChanges();
  };

  it('stand under it in the columns of the sheet, best first, what is not possible last with why', () => {
    open(12);
    expect(options().map((row) => row.querySelector('.label')!.textContent!.trim())).toEqual([
      'Special order from Tarnbeck',
      'Drop ship from Tarnbeck',
      'Transfer from Quillhaven',
    ]);
    expect(options()[1]!.textContent!.replace(/\s+/g, ' ')).toMatch(/Fri 19 Mar ?7 days late/);
    expect(options()[2]!.textContent).toContain('not possible: only 4 are free');
    expect(options()[0]!.previousElementSibling!.previousElementSibling!.textContent).toContain('LID');
    expect(options()[0]!.querySelector('.decides')!.textContent).toContain('5 days late');
  });

  it('are reached by O, compared by arrows, taken by Enter or their digit, and fold away by O', () => {
    open(12);
    rows()[1]!.focus();
    key('o');
    expect(document.activeElement).toBe(options()[0]);
    key('ArrowDown');
    expect(options()[1]!.getAttribute('aria-selected')).toBe('true');
    key('Enter');
    expect(store.chooseRoute).toHaveBeenCalledWith(expect.objectContaining({ id: 12 }), [expect.objectContaining({ supplier: 'SUP' })]);
    key('o');
    expect(options()).toHaveLength(0);
    expect(document.activeElement!.textContent).toContain('LID');
    key('o');
    expect(options()).toHaveLength(3);
    options()[2]!.focus();
    store.chooseRoute.mockReset();
    key('Enter');
    expect(store.chooseRoute).not.toHaveBeenCalled();
  });

  it('keep the field for a part while the options for it are fetched', () => {
    open(12);
    const part = () => element.querySelector<HTMLInputElement>('#part')!;
    part().focus();
    store.routesOf.mockReturnValue(new Subject());
    part().value = '1';
    part().dispatchEvent(new Event('input'));
    fixture.detectChanges();
    TestBed.tick();
    jest.advanceTimersByTime(200);
    fixture.detectChanges();
    expect(store.routesOf).toHaveBeenLastCalledWith(expect.anything(), '1', undefined);
    expect(document.activeElement).toBe(part());
    // There is nothing to take meanwhile.
    expect(options()).toHaveLength(0);
  });

  it('do not stand under a line that is covered', () => {
    open(store.order()!.lines[0]!.id);
    expect(options()).toHaveLength(0);
  });
});
