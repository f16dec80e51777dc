import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { ItemFound } from '@nockwright/contract/items';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { of } from 'rxjs';
import { Session } from '../access';
import { QuickEntry } from './quick-entry';
import { testLine, testOrder } from './test-order';
import { TypedLines } from './typed/typed-lines';
import { Unsaved } from './typed/unsaved';
import { WhatIfDesk } from './what-if-desk';
import { storeProviders } from './test-store';

const unit = (code: string, name: string, numerator = '1') => ({ code, name, numerator, denominator: '1', step: '1' });
const item = (code: string, more: Partial<ItemFound> = {}): ItemFound => ({
  code,
  theirCode: null,
  description: `${code} in words`,
  group: 'Jars',
  unit: 'EA',
  units: [unit('EA', 'each'), unit('XTY', 'tray', '24')],
  available: '100',
  discontinued: false,
  corrected: false,
  byGroup: false,
  ...more,
});

let fixture: ComponentFixture<QuickEntry>;
let element: HTMLElement;
let http: HttpTestingController;
let previewed: (LineView | null)[];
const store = { fault: signal(''), order: signal<OrderView | null>(testOrder()) };
const lines = { add: jest.fn() };
const whatIf = { prepare: jest.fn(), try: jest.fn() };

beforeEach(() => {
  jest.useFakeTimers();
  store.fault.set('');
  lines.add.mockReset();
  localStorage.clear();
  whatIf.prepare.mockReset();
  whatIf.try.mockReset().mockReturnValue(of({ ok: true, line: testLine() }));
  TestBed.configureTestingModule({
    providers: [
      provideHttpClient(),
      provideHttpClientTesting(),
      { provide: Session, useValue: { today: () => '2027-03-09', user: () => ({ login: 'ida' }) } },
      ...storeProviders(store),
      { provide: WhatIfDesk, useValue: whatIf },
      { provide: TypedLines, useValue: lines },
      Unsaved,
    ],
  });
  http = TestBed.inject(HttpTestingController);
  fixture = TestBed.createComponent(QuickEntry);
  element = fixture.nativeElement as HTMLElement;
  previewed = [];
  fixture.componentInstance.previewed.subscribe((line) => previewed.push(line));
  fixture.detectChanges();
});
afterEach(() => jest.useRealTimers());

function settle() {
  fixture.detectChanges();
  TestBed.tick();
  jest.advanceTimersByTime(300);
  fixture.detectChanges();
}

/** Types a text; the items found for its item part are answered. */
function type(text: string, found?: readonly ItemFound[]) {
  const field = element.querySelector('input')!;
  field.value = text;
  field.dispatchEvent(new Event('input'));
  settle();
  for (const request of http.match((candidate) => candidate.url.startsWith('/api/items'))) request.flush(found ?? []);
  settle();
}

function press(key: string) {
  element.querySelector('input')!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  settle();
}

it('says what it understands while it is typed, and looks the line up', () => {
  type('jar 20 tray fri', [item('JAR-340')]);
  const words = element.querySelector('p')!.textContent!.replace(/\s+/g, ' ');
  expect(words).toMatch(/understood as ?JAR-340 JAR-340 in words 20 trays ?Fri 12 Mar/);
  expect(whatIf.prepare).toHaveBeenLastCalledWith(expect.objectContaining({ id: 5 }), 'JAR-340');
  const wish = { item: 'JAR-340', quantity: '20', unit: 'XTY', requestedDay: '2027-03-12' };
  expect(whatIf.try).toHaveBeenLastCalledWith(expect.objectContaining({ id: 5 }), 'JAR-340', wish);
  expect(previewed.at(-1)).toMatchObject({ id: 0 });
});

it('looks nothing up while a piece is missing or wrong, and says which', () => {
  type('jar', [item('JAR-340')]);
  expect(element.textContent).toContain('how many?');
  type('zzz 4', []);
  expect(element.textContent).toContain('no item “zzz”');
  type('jar 4 pallet', [item('JAR-340')]);
  expect(element.textContent).toContain('not sold by pallet; by each, tray');
  type('old 4', [item('OLD', { discontinued: true, available: '0' })]);
  expect(whatIf.try).not.toHaveBeenCalled();
});

it('hands over what is typed as it stands, with the item that was found for it, and is free for the next line at once', () => {
  type('jar 5', [item('JAR-1')]);
  press('Enter');
  expect(lines.add).toHaveBeenLastCalledWith('jar 5', expect.objectContaining({ code: 'JAR-1' }));
  expect(element.querySelector('input')!.value).toBe('');
  // What was found belongs to the words before: the next text goes without an item.
  const field = element.querySelector('input')!;
  field.value = 'lid 5';
  field.dispatchEvent(new Event('input'));
  fixture.detectChanges();
  field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
  expect(lines.add).toHaveBeenLastCalledWith('lid 5', null);
  press('Enter');
  expect(lines.add).toHaveBeenCalledTimes(2);
});

it('lets arrow keys choose among the items it could mean', () => {
  type('jar 5', [item('JAR-1'), item('JAR-2'), item('JAR-3')]);
  expect(element.querySelectorAll('[role=option]')).toHaveLength(3);
  press('ArrowDown');
  press('Enter');
  expect(lines.add).toHaveBeenLastCalledWith('jar 5', expect.objectContaining({ code: 'JAR-2' }));
});

it('takes nothing by itself that is found by its group alone; an arrow key chooses it', () => {
  type('jars 2', [item('JAR-1', { byGroup: true })]);
  press('Enter');
  expect(lines.add).toHaveBeenLastCalledWith('jars 2', null);
  type('jars 2', [item('JAR-1', { byGroup: true })]);
  press('ArrowDown');
  press('Enter');
  expect(lines.add).toHaveBeenLastCalledWith('jars 2', expect.objectContaining({ code: 'JAR-1' }));
});

it('keeps what is not handed over, and takes it up again', () => {
  type('jar 5', [item('JAR-1')]);
  expect(TestBed.inject(Unsaved).textOf('quick')).toBe('jar 5');
  fixture.destroy();
  fixture = TestBed.createComponent(QuickEntry);
  fixture.detectChanges();
  TestBed.tick();
  fixture.detectChanges();
  expect((fixture.nativeElement as HTMLElement).querySelector('input')!.value).toBe('jar 5');
});

it('goes to the lines from an empty field, and is emptied by Escape', () => {
  const left = jest.fn();
  fixture.componentInstance.left.subscribe(left);
  press('ArrowUp');
  expect(left).toHaveBeenCalledTimes(1);
  type('jar 5', [item('JAR-1')]);
  press('Escape');
  expect(element.querySelector('input')!.value).toBe('');
});

it('says at once what cannot be sold so, as the worker finds it', () => {
  whatIf.try.mockReturnValue(of({ ok: false, fault: { field: 'quantity', message: '0.3 trays is no exact number of each' } }));
  type('jar 0.3 tray', [item('JAR-340')]);
  expect(store.fault()).toBe('0.3 trays is no exact number of each.');
  expect(previewed.at(-1)).toBeNull();
});
