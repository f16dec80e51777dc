import { NO_CONTRACTS } from '@nockwright/core/pricing';
import { TestBed } from '@angular/core/testing';
import type { BookSlice, WhatIfResult } from '@nockwright/core/orders';
import { EMPTY, of, startWith, Subject, switchMap, type Observable } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { WhatIfDesk } from './what-if-desk';

const draft = { id: 5, version: 3 };
let onHand: number;
let sent: Subject<void>;
let slices: string[];
let changed: Subject<void>;
let concerns: (topic: string) => boolean;

function sliceOf(item: string): BookSlice {
  const book = { id: 'MAR', workdays: [1, 2, 3, 4, 5] };
  return {
    book: {
      asOf: '2027-03-09T09:30',
      warehouses: [book],
      items: [{ id: item }, { id: 'TIED' }],
      supply: [{ id: 'S', item, warehouse: 'MAR', quantity: onHand }],
      orders: [{ id: 'D', entered: '2027-03-09T09:30' }],
      demand: [],
    },
    supplies: [{ id: 'S', label: 'on hand', purchase: null, cost: null, days: '', awaited: null }],
    odds: { suppliers: [], all: [] },
    sure: 90,
    item: {
      code: item,
      description: item,
      unit: 'EA',
      weight: '1',
      cost: '1',
      listPrice: '2',
      discontinued: false,
      successor: null,
      left: null,
      units: [],
      step: '1',
      listBreaks: [],
      customerList: null,
      contracts: NO_CONTRACTS,
    },
    warehouses: [{ name: 'Marrowby', book }],
    draft: { id: 'D', day: '2027-03-10', deliverBy: false, transitDays: 1, warehouse: 'MAR', currency: 'EUR', nextLine: 1, lines: [] },
  };
}

let desk: WhatIfDesk;
beforeEach(() => {
  onHand = 10;
  sent = new Subject();
  slices = [];
  changed = new Subject();
  const api = {
    call: (_: unknown, { query }: { query: { item: string } }) => {
      slices.push(query.item);
      return sent.pipe(switchMap(() => (query.item === 'LOST' ? EMPTY : of(sliceOf(query.item)))));
    },
  };
  const live = {
    kept: (load: () => Observable<unknown>, about: typeof concerns) => {
      concerns = about;
      return changed.pipe(startWith(undefined), switchMap(load));
    },
  };
  TestBed.configureTestingModule({ providers: [WhatIfDesk, { provide: Api, useValue: api }, { provide: Live, useValue: live }] });
  desk = TestBed.inject(WhatIfDesk);
});

function open(result: WhatIfResult | undefined): string | undefined {
  return result?.ok ? result.line.uncovered : undefined;
}

it('fetches the slice once and answers every key stroke from it', () => {
  desk.prepare(draft, 'JAR');
  sent.next();
  const answers: (string | undefined)[] = [];
  for (const quantity of ['1', '12', '120']) desk.try(draft, 'JAR', { quantity }).subscribe((result) => answers.push(open(result)));
  expect(answers).toEqual(['0', '2', '110']);
  expect(slices).toEqual(['JAR']);
});

it('answers as soon as the slice is there, and never from the slice of another item', () => {
  const answers: (string | undefined)[] = [];
  desk.prepare(draft, 'JAR');
  sent.next();
  const asked = desk.try(draft, 'LID', { quantity: '12' }).subscribe((result) => answers.push(open(result)));
  expect(answers).toEqual([]);
  sent.next();
  expect(answers).toEqual(['2']);
  desk.prepare(draft, 'JAR');
  sent.next();
  expect(answers).toEqual(['2']);
  asked.unsubscribe();
});

it('answers anew when the book behind it changes, for all items that are tied to it', () => {
  const answers: (string | undefined)[] = [];
  desk.try(draft, 'JAR', { quantity: '12' }).subscribe((result) => answers.push(open(result)));
  sent.next();
  expect([concerns('item:JAR'), concerns('item:TIED'), concerns('item:OTHER')]).toEqual([true, true, false]);
  onHand = 12;
  changed.next();
  sent.next();
  expect(answers).toEqual(['2', '0']);
});

it('fetches it anew for another version of the draft', () => {
  desk.prepare(draft, 'JAR');
  desk.prepare({ ...draft, version: 4 }, 'JAR');
  expect(slices).toEqual(['JAR', 'JAR']);
});
