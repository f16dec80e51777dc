import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { Subject } from 'rxjs';
import { Live } from '../live';
import { OrderStore } from './order-store';
import { testLine, testOrder } from './test-order';

let http: HttpTestingController;
let store: OrderStore;
let changed: Subject<string>;

beforeEach(() => {
  changed = new Subject();
  TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting(), OrderStore] });
  const live = TestBed.inject(Live);
  // What others change, told by hand.
  const listeners: ((topics: readonly string[]) => void)[] = [];
  changed.subscribe((topic) => listeners.forEach((listener) => listener([topic])));
  jest.spyOn(live, 'changes').mockImplementation((concerns) => {
    const heard = new Subject<void>();
    listeners.push((topics) => topics.some(concerns) && heard.next());
    return heard;
  });
  http = TestBed.inject(HttpTestingController);
  store = TestBed.inject(OrderStore);
  store.open(5);
  answer('/api/orders/5', testOrder({ lines: [testLine()] }));
});

/** Answers the one request to an address, and the history that is read after every change. */
function answer(url: string, body: object, status = 200) {
  http.expectOne(url).flush(body, { status, statusText: 'x' });
  for (const request of http.match('/api/orders/5/history')) request.flush([]);
}

it('shows the order and hears what moves a day on it', () => {
  expect(store.order()!.lines).toHaveLength(1);
  changed.next('item:JAR-340-HX');
  answer('/api/orders/5', testOrder({ lines: [testLine({ uncovered: '240', state: 'uncovered' })] }));
  expect(store.order()!.lines[0]!.state).toBe('uncovered');
  changed.next('item:SOMETHING-ELSE');
  http.expectNone('/api/orders/5');
});

it('sends changes one after the other, each on the version the one before left', () => {
  store.change({ poNumber: 'A-1' });
  store.changeLine(store.order()!.lines[0]!, { quantity: '12' });
  http.expectNone('/api/orders/5/lines/11');
  const first = http.expectOne('/api/orders/5');
  expect(first.request.body).toEqual({ version: 3, poNumber: 'A-1' });
  first.flush(testOrder({ version: 4, poNumber: 'A-1', lines: [testLine()] }));
  const second = http.expectOne('/api/orders/5/lines/11');
  expect(second.request.body).toEqual({ version: 4, quantity: '12' });
});

it('drops what was to follow a change that was refused, and shows what is true now', () => {
  const settled: boolean[] = [];
  store.change({ poNumber: 'A-1' });
  store.addLine({ item: 'LID', quantity: '1' }, (added) => settled.push(added));
  answer('/api/orders/5', { type: '/problems/changed', title: 'It has changed', status: 409, detail: 'Someone else changed it.' }, 409);
  expect(settled).toEqual([false]);
  expect(store.fault()).toBe('Someone else changed it.');
  http.expectNone('/api/orders/5/lines');
  answer('/api/orders/5', testOrder({ version: 7 }));
  expect(store.order()!.version).toBe(7);
  expect(store.busy()).toBe(false);
});

it('releases once, however often it is asked to, with what was seen', () => {
  const done = jest.fn();
  store.release(done);
  store.release(done);
  const request = http.expectOne('/api/orders/5/release');
  expect(request.request.body).toEqual({ version: 3, seen: [{ line: 11, schedule: [{ day: '2027-03-12', quantity: '240' }], uncovered: '0' }] });
  request.flush(testOrder({ version: 4, state: 'released', number: '20001' }));
  http.expectNone('/api/orders/5/release');
  expect(done).toHaveBeenCalledTimes(1);
});

it('may be released again after a refusal', () => {
  store.release(() => undefined);
  answer(
    '/api/orders/5/release',
    { type: '/problems/invalid', title: 'Some fields are wrong', status: 422, detail: 'line 1: 5 have no cover and no route.' },
    422,
  );
  store.release(() => undefined);
  http.expectOne('/api/orders/5/release');
});

it('does not let an old answer undo a newer one', () => {
  changed.next('order:5');
  const old = http.expectOne('/api/orders/5');
  store.addLine({ item: 'LID', quantity: '1' });
  http.expectOne('/api/orders/5/lines').flush(testOrder({ version: 4, lines: [testLine(), testLine({ id: 12, lineNo: 2, item: 'LID' })] }));
  old.flush(testOrder({ version: 3, lines: [testLine()] }));
  expect(store.order()!.lines).toHaveLength(2);
});

it('says so where there is no such order', () => {
  store.open(6);
  http
    .expectOne('/api/orders/6')
    .flush({ type: '/problems/not-found', title: 'There is no such thing', status: 404, detail: 'There is no order 6.' }, { status: 404, statusText: 'x' });
  expect(store.missing()).toBe(true);
});
