import { Clipboard } from '@angular/cdk/clipboard';
import { signal, type Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { ContractRow, PriceListView } from '@nockwright/contract/pricing';
import { of, throwError } from 'rxjs';
import { Session } from '../access';
import { ProblemError } from '../api';
import { show, testApi, type TestScreen } from '../test-screen';
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
  version: 3,
  prices: [
    {
      item: 'JAR',
      description: 'Hexagonal jar',
      unit: 'XTY',
      from: '10',
      price: '10.5',
      listPrice: '12.48',
      marginPercent: '29.1',
      lower: { unit: 'EA', from: '100', price: '0.4' },
    },
    { item: 'LID', description: 'Twist lid', unit: 'EA', from: '1', price: '0.18', listPrice: '0.19', marginPercent: null, lower: null },
  ],
};

let screen: TestScreen<unknown>;
const { api, providers, lastBody } = testApi();
const mayPlan = signal(true);
const copied: string[] = [];
const clipboard = { provide: Clipboard, useValue: { copy: (text: string) => copied.push(text) > 0 } };

beforeEach(() => {
  jest.useFakeTimers();
  mayPlan.set(true);
  copied.length = 0;
  api.call.mockReset().mockImplementation((route: { method: string; path: string }) => {
    if (route.path === '/price-lists') return of([{ code: 'COOP', name: 'co-operatives', prices: 96, customers: 8 }]);
    if (route.path.endsWith('history')) return of([]);
    if (route.path === '/price-lists/{list}') return of(LIST);
    return route.method === 'POST'
      ? of({ id: 9 })
      : of([row(1, { endsIn: 3, used: '95' }), row(2, { endsIn: 0 }), row(3, { state: 'ended', endsIn: null, customers: '' })]);
  });
});
afterEach(() => {
  screen.fixture.destroy();
  jest.useRealTimers();
});

/** What was sent to be written. */
const written = () =>
  (api.call.mock.calls as [{ method: string }, { body: unknown }][]).filter(([route]) => route.method === 'PUT').map(([, { body }]) => body);

function open<T>(component: Type<T>, inputs: Record<string, unknown> = {}) {
  screen = show(component, inputs, [...providers, clipboard, { provide: Session, useValue: { today: () => '2028-02-29', mayPlan } }]);
}

const settle = () => screen.settle();
const press = (key: string, more: KeyboardEventInit = {}) => screen.press(key, document.body, more);
const rows = () => [...screen.element.querySelectorAll<HTMLElement>('tbody tr')];

describe('the list of contracts', () => {
  it('says what ends soon, what has ended, and what is nearly used up', () => {
    open(ContractList);
    expect(rows()[0]!.textContent).toContain('3 days left');
    expect(rows()[0]!.querySelector('span.late')!.textContent).toBe('95');
    expect(rows()[1]!.textContent).toContain('last day');
    expect(rows()[2]!.textContent).toContain('nobody yet');
    expect(screen.element.querySelector('.lists')!.textContent).toContain('96 prices, 8 customers');
  });

  it('makes a contract for a year, the leap day too, and opens it', () => {
    open(ContractList);
    const went = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    screen.click('New contract');
    expect(lastBody()).toEqual({ name: 'New contract', firstDay: '2028-02-29', lastDay: '2029-02-28' });
    expect(went).toHaveBeenCalledWith(['/prices/contracts', 9]);
  });

  it('opens the row that has the focus by Enter, and offers nothing to make to who may not', () => {
    mayPlan.set(false);
    open(ContractList);
    const went = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    rows()[1]!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
    expect(went).toHaveBeenCalledWith(['/prices/contracts', 2]);
    expect(screen.text).not.toContain('New contract');
  });
});

describe('a price list', () => {
  it('copies what is shown, and no more', () => {
    open(PriceListSheet, { code: 'COOP' });
    const filter = screen.element.querySelector<HTMLInputElement>('input[type=search]')!;
    filter.value = 'twist';
    filter.dispatchEvent(new Event('input'));
    settle();
    press('c');
    expect(copied[0]).toBe('item\tunit\tfrom\tprice\nLID\tEA\t1\t0.18');
  });

  it('writes pasted prices, and keeps them where the server refuses', () => {
    open(PriceListSheet, { code: 'COOP' });
    press('v');
    const field = screen.element.querySelector('textarea')!;
    field.value = 'jar\ttray\t20\t10,20';
    field.dispatchEvent(new Event('input'));
    settle();
    api.call.mockReturnValueOnce(
      throwError(() => new ProblemError({ title: 'x', status: 422, detail: 'body.prices[0].unit: JAR is not sold by XTY', errors: [] })),
    );
    press('Enter', { ctrlKey: true });
    expect(screen.text).toContain('row 1, unit: JAR is not sold by XTY');
    expect(field.value).toBe('jar\ttray\t20\t10,20');
    api.call.mockClear();
    press('Enter', { ctrlKey: true });
    expect(written()).toEqual([{ prices: [{ item: 'JAR', unit: 'XTY', from: '20', price: '10.20' }], all: false, version: 3 }]);
    expect(screen.element.querySelector('textarea')).toBeNull();
  });

  it('is left by Escape with nothing written', () => {
    open(PriceListSheet, { code: 'COOP' });
    press('v');
    press('Escape');
    expect(screen.element.querySelector('textarea')).toBeNull();
    expect(written()).toEqual([]);
  });
});
