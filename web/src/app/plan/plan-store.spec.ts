import { TestBed } from '@angular/core/testing';
import { promiseRoutes, type ResequenceRun } from '@nockwright/contract/promise';
import { defer, of, startWith, Subject, switchMap, throwError, type Observable } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { PlanStore } from './plan-store';

const nothing = { later: [], earlier: [], offers: [], count: 0 };
const run = (state: ResequenceRun['state'], done = 0) => ({ id: 4, state, done, total: 10 }) as ResequenceRun;

let answers: Map<unknown, (input: unknown) => Observable<unknown>>;
let calls: unknown[];
let changed: Subject<string>;
let store: PlanStore;

beforeEach(() => {
  jest.useFakeTimers();
  calls = [];
  changed = new Subject();
  answers = new Map<unknown, (input: unknown) => Observable<unknown>>([
    [promiseRoutes.listOffers, () => of(nothing)],
    [promiseRoutes.readResequence, () => of(null)],
  ]);
  // As the real one: nothing is sent before somebody listens.
  const api = {
    call: (route: unknown, input: unknown) =>
      defer(() => {
        calls.push(route);
        return (answers.get(route) ?? (() => of({})))(input);
      }),
  };
  const live = {
    kept: (load: () => Observable<unknown>, about: (topic: string) => boolean, again: Observable<unknown>) => {
      const heard = new Subject<void>();
      changed.subscribe((topic) => about(topic) && heard.next());
      again.subscribe(() => heard.next());
      return heard.pipe(startWith(undefined), switchMap(load));
    },
  };
  TestBed.configureTestingModule({ providers: [PlanStore, { provide: Api, useValue: api }, { provide: Live, useValue: live }] });
  store = TestBed.inject(PlanStore);
});
afterEach(() => jest.useRealTimers());

const count = (route: unknown) => calls.filter((each) => each === route).length;
const pass = (ms: number) => jest.advanceTimersByTime(ms);

it('asks how far a run is until it has ended, and again when somebody starts one', () => {
  const states = [run('running', 3), run('running', 7), run('done', 10), run('done', 10)];
  answers.set(promiseRoutes.readResequence, () => of(states.shift()));
  changed.next('run:4');
  pass(0);
  expect(store.run()).toMatchObject({ state: 'running', done: 3 });
  pass(500);
  pass(500);
  expect(store.run()).toMatchObject({ state: 'done' });
  const asked = count(promiseRoutes.readResequence);
  pass(5000);
  expect(count(promiseRoutes.readResequence)).toBe(asked);
});

it('looks for free goods again when an item changes, as they stand with what is taken', () => {
  const inputs: unknown[] = [];
  answers.set(promiseRoutes.listOffers, (input) => (inputs.push(input), of(nothing)));
  store.choose([41, 42]);
  changed.next('item:JAR');
  expect(inputs).toEqual([{ query: { accept: '41,42', most: 60 } }, { query: { accept: '41,42', most: 60 } }]);
});

it('leaves nothing taken once it is promised', () => {
  store.choose([41]);
  const done = jest.fn();
  store.acceptOffers({ seen: [], accept: [41] }, done);
  expect(done).toHaveBeenCalledTimes(1);
  const inputs: unknown[] = [];
  answers.set(promiseRoutes.listOffers, (input) => (inputs.push(input), of(nothing)));
  changed.next('item:JAR');
  expect(inputs).toEqual([{ query: { accept: '', most: 60 } }]);
});

it('says a refusal, does nothing twice, and looks again where the book has changed', () => {
  const pending = new Subject<unknown>();
  answers.set(promiseRoutes.startResequence, () => pending);
  store.start();
  store.start();
  expect(count(promiseRoutes.startResequence)).toBe(1);
  pending.error(Object.assign(new Error('A run is under way already.'), { status: 409 }));
  expect([store.fault(), store.busy()]).toEqual(['A run is under way already.', false]);
  answers.set(promiseRoutes.acceptResequence, () => throwError(() => Object.assign(new Error('The book has changed since the run.'), { status: 409 })));
  const looked = count(promiseRoutes.listOffers);
  const done = jest.fn();
  store.acceptRun(4, 'all', done);
  expect(store.fault()).toBe('The book has changed since the run.');
  expect(done).not.toHaveBeenCalled();
  expect(count(promiseRoutes.listOffers)).toBe(looked + 1);
});

it('sends all, or the chosen lines with what was seen', () => {
  const bodies: unknown[] = [];
  answers.set(promiseRoutes.acceptResequence, (input) => (bodies.push(input), of({})));
  store.acceptRun(4, 'all', () => undefined);
  store.acceptRun(4, { lines: [32], decision: { seen: [], accept: [] } }, () => undefined);
  expect(bodies).toEqual([
    { params: { run: 4 }, body: { all: true, lines: [] } },
    { params: { run: 4 }, body: { all: false, lines: [32], decision: { seen: [], accept: [] } } },
  ]);
});
