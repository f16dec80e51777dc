import { signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MatSnackBar } from '@angular/material/snack-bar';
import { provideRouter } from '@angular/router';
import type { OffersView, ResequenceRun } from '@nockwright/contract/promise';
import { EMPTY, of } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { testGain, testMover } from '../ripple/test-mover';
import { PlanSheet } from './plan-sheet';
import { PlanStore } from './plan-store';

const nothing: OffersView = { later: [], earlier: [], offers: [], count: 0 };
const lateness = { lateLines: 2, lateDays: 9, lateValue: '100.00', withoutDay: 1 };
const run = (more: Partial<ResequenceRun> = {}): ResequenceRun => ({
  id: 4,
  state: 'done',
  startedAt: '2027-03-09T08:00:00.000Z',
  startedBy: 'Ida Perrin',
  endedAt: '2027-03-09T08:00:01.000Z',
  done: 3,
  total: 3,
  message: '',
  before: lateness,
  after: { ...lateness, lateDays: 4 },
  customers: [{ customer: 'Abbot’s Orchard', before: lateness, after: lateness }],
  ripple: { later: [testMover()], earlier: [testGain()], offers: [] },
  ...more,
});

const store = {
  fault: signal(''),
  busy: signal(false),
  offers: signal<OffersView | null>(nothing),
  run: signal<ResequenceRun | null>(null),
  choose: jest.fn(),
  acceptOffers: jest.fn((_d: unknown, done: () => void) => done()),
  start: jest.fn(),
  stop: jest.fn(),
  previewChoice: jest.fn(() => of({ later: [testMover()], earlier: [testGain()], offers: [] })),
  acceptRun: jest.fn((_r: unknown, _c: unknown, done: () => void) => done()),
};
const snack = { open: jest.fn() };
let fixture: ComponentFixture<PlanSheet>;
let element: HTMLElement;

beforeEach(() => {
  jest.useFakeTimers();
  jest.clearAllMocks();
  store.offers.set(nothing);
  store.run.set(null);
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      { provide: Session, useValue: { today: () => '2027-03-09', maySell: () => true, mayPlan: () => false, currency: () => 'EUR' } },
      { provide: MatSnackBar, useValue: snack },
      { provide: Api, useValue: { call: () => EMPTY } },
      { provide: Live, useValue: { kept: () => EMPTY } },
    ],
  });
  TestBed.overrideComponent(PlanSheet, { set: { providers: [{ provide: PlanStore, useValue: store }] } });
  fixture = TestBed.createComponent(PlanSheet);
  element = fixture.nativeElement as HTMLElement;
  settle();
});
afterEach(() => jest.useRealTimers());

function settle() {
  fixture.detectChanges();
  TestBed.tick();
  jest.advanceTimersByTime(200);
  fixture.detectChanges();
}
const text = () => element.textContent!.replace(/\s+/g, ' ');
const button = (words: string) => [...element.querySelectorAll('button')].find((each) => each.textContent!.includes(words));
function mark(table: string) {
  const row = element.querySelector(`table[aria-label="${table}"] tbody tr:not(.heading)`)!;
  row.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', bubbles: true, cancelable: true }));
  settle();
}

it('says when nothing is free, and starts a run', () => {
  expect(text()).toContain('every promise is as early as the sequence allows');
  button('Re-promise all orders')!.click();
  expect(store.start).toHaveBeenCalledTimes(1);
});

it('offers free goods, shows what is taken as done, and promises just that', () => {
  store.offers.set({ ...nothing, offers: [testGain({ line: 41 }), testGain({ line: 42 })], count: 2 });
  settle();
  expect(text()).toContain('2 promises could be made or move earlier');
  mark('Free goods');
  expect(store.choose).toHaveBeenLastCalledWith([41]);
  store.offers.set({ ...nothing, earlier: [testGain({ line: 41 })], offers: [testGain({ line: 42 })], count: 1 });
  settle();
  button('Promise this line')!.click();
  expect(store.acceptOffers.mock.calls[0]![0]).toEqual({ seen: [{ line: 41, after: [{ day: '2027-03-16', quantity: '2' }] }], accept: [41] });
  expect(snack.open.mock.calls[0]![0]).toBe('1 promise has moved. The calls are noted.');
});

it('shows progress while a run is under way, which can be stopped', () => {
  store.run.set(run({ state: 'running', done: 12, total: 60, before: null, after: null, ripple: nothing }));
  settle();
  expect(text()).toContain('Promising 12 of 60 groups of items');
  button('Stop')!.click();
  expect(store.stop).toHaveBeenCalledWith(4);
});

it('compares before and after, whole and by customer, and lists every mover', () => {
  store.run.set(run());
  settle();
  expect(text()).toContain('All orders 2 → 2 9 → 4');
  expect(text()).toContain('Abbot’s Orchard');
  expect(text()).toContain('1 promise to 1 customer moves later');
  button('Accept all')!.click();
  expect(store.acceptRun.mock.calls[0]!.slice(0, 2)).toEqual([4, 'all']);
});

it('shows what only some of the gainers would do, and moves just that', () => {
  store.run.set(run());
  settle();
  mark('Promises that would move');
  expect(store.previewChoice).toHaveBeenLastCalledWith(4, [32]);
  expect(text()).toContain('If only this promise moves');
  button('Move this promise')!.click();
  const seen = [
    { line: 31, after: [{ day: '2027-03-16', quantity: '2' }] },
    { line: 32, after: [{ day: '2027-03-16', quantity: '2' }] },
  ];
  expect(store.acceptRun.mock.calls[0]!.slice(0, 2)).toEqual([4, { lines: [32], decision: { seen, accept: [] } }]);
});

it('lets nothing be chosen of a run that has been accepted, and says why another has no result', () => {
  store.run.set(run({ state: 'accepted' }));
  settle();
  expect(text()).toContain('Accepted.');
  mark('Promises that would move');
  expect(store.previewChoice).not.toHaveBeenCalled();
  store.run.set(run({ state: 'stopped', before: null, after: null, message: 'Stopped by Sam Ostler.', ripple: nothing }));
  settle();
  expect(text()).toContain('Stopped by Sam Ostler.');
});
