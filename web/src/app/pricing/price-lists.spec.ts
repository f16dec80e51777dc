import { signal, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import type { ContractRow, PriceListView } from '@nockwright/contract/pricing';
import { of, throwError } from 'rxjs';
import { Session } from '../access';
import { Api, ProblemError } from '../api';
import { Live } from '../live';
import { ContractList } from './contract-list';
import { PriceListSheet } from './price-list-sheet';

const row = (id: number, more: Partial<ContractRow> = {}): ContractRow => ({
  id,
  number: `K100${id}`,
  name: `contract ${id}`,
  customers: 'Wether Hill',
  firstDay: '2027-01-01',
  lastDay: '2027-12-31',
  state: 'in_force',
  endsIn: 297,
  lines: 2,
  used: null,
  ...more,
});
const LIST: PriceListView = {
  code: 'COOP',
  name: 'co-operatives',
  prices: [
    { item: 'JAR', description: 'Hexagonal jar', unit: 'XTY', from: '10', price: '10.5', listPrice: '12.48', marginPercent: '29.1' },
    { item: 'LID', description: 'Twist lid', unit: 'EA', from: '1', price: '0.18', listPrice: '0.19', marginPercent: null },
  ],
};

let element: HTMLElement;
let fixture: ComponentFixture<unknown>;
const api = { call: jest.fn() };
const mayPlan = signal(true);
const copied: string[] = [];

beforeEach(() => {
  jest.useFakeTimers();
  mayPlan.set(true);
  copied.length = 0;
  Object.assign(navigator, { clipboard: { writeText: (text: string) => copied.push(text) } });
  api.call.mockReset().mockImplementation((route: { method: string; path: string }) => {
    if (route.path === '/price-lists') return of([{ code: 'COOP', name: 'co-operatives', prices: 96, customers: 8 }]);
    if (route.path === '/price-lists/{list}') return of(LIST);
    return route.method === 'POST'
      ? of({ id: 9 })
      : of([row(1, { endsIn: 3, used: '95' }), row(2, { endsIn: 0 }), row(3, { state: 'ended', endsIn: null, customers: '' })]);
  });
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      { provide: Session, useValue: { today: () => '2028-02-29', mayPlan } },
      { provide: Api, useValue: api },
      { provide: Live, useValue: { kept: (fetch: () => unknown) => fetch() } },
    ],
  });
});
afterEach(() => {
  fixture.destroy();
  jest.useRealTimers();
});

function open<T>(component: Type<T>, inputs: Record<string, unknown> = {}) {
  fixture = TestBed.createComponent(component) as ComponentFixture<unknown>;
  element = fixture.nativeElement as HTMLElement;
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  settle();
}

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

const lastBody = () => (api.call.mock.calls[api.call.mock.calls.length - 1] as [unknown, { body: unknown }])[1].body;
const rows = () => [...element.querySelectorAll<HTMLElement>('tbody tr')];

describe('the list of contracts', () => {
  it('says what ends soon, what has ended, and what is nearly used up', () => {
    open(ContractList);
    expect(rows()[0]!.textContent).toContain('3 days left');
    expect(rows()[0]!.querySelector('td.late')!.textContent).toBe('95 %');
    expect(rows()[1]!.textContent).toContain('last day');
    expect(rows()[2]!.textContent).toContain('nobody yet');
    expect(element.querySelector('.lists')!.textContent).toContain('96 prices, 8 customers');
  });

  it('makes a contract for a year, the leap day too, and opens it', () => {
    open(ContractList);
    const went = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    element.querySelector<HTMLButtonElement>('button')!.click();
    expect(lastBody()).toEqual({ name: 'New contract', firstDay: '2028-02-29', lastDay: '2029-02-28' });
    expect(went).toHaveBeenCalledWith(['/prices/contracts', 9]);
  });

  it('opens the row that has the focus by Enter, and offers nothing to make to who may not', () => {
    mayPlan.set(false);
    open(ContractList);
    const went = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    rows()[1]!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
    expect(went).toHaveBeenCalledWith(['/prices/contracts', 2]);
    expect(element.querySelector('button')).toBeNull();
  });
});

describe('a price list', () => {
  it('copies what is shown, and no more', () => {
    open(PriceListSheet, { code: 'COOP' });
    const filter = element.querySelector<HTMLInputElement>('input[type=search]')!;
    filter.value = 'twist';
    filter.dispatchEvent(new Event('input'));
    settle();
    press('c');
    expect(copied[0]).toBe('item\tunit\tfrom\tprice\nLID\tEA\t1\t0.18');
  });

  it('writes pasted prices, and keeps them where the server refuses', () => {
    open(PriceListSheet, { code: 'COOP' });
    press('v');
    const field = element.querySelector('textarea')!;
    field.value = 'jar\ttray\t20\t10,20';
    field.dispatchEvent(new Event('input'));
    settle();
    api.call.mockReturnValueOnce(
      throwError(() => new ProblemError({ title: 'x', status: 422, detail: 'body.prices[0].unit: JAR is not sold by XTY', errors: [] })),
    );
    press('Enter', { ctrlKey: true });
    expect(element.textContent).toContain('row 1, unit: JAR is not sold by XTY');
    press('Enter', { ctrlKey: true });
    expect(lastBody()).toEqual({ prices: [{ item: 'JAR', unit: 'XTY', from: '20', price: '10.20' }], all: false });
    expect(element.querySelector('textarea')).toBeNull();
  });

  it('is left by Escape with nothing written', () => {
    open(PriceListSheet, { code: 'COOP' });
    press('v');
    press('Escape');
    expect(element.querySelector('textarea')).toBeNull();
    expect(api.call).toHaveBeenCalledTimes(1);
  });
});
