import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { Subject } from 'rxjs';
import { Live } from '../live';
import { OrderLines } from './order-lines';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';
import { testLine, testOrder } from './test-order';

let http: HttpTestingController;
let store: OrderStore;
let orderLines: OrderLines;
let standing: OrderStanding;
let changed: Subject<string>;

beforeEach(() => {
  changed = new Subject();
  TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting(), OrderStore, OrderLines, OrderStanding] });
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
  orderLines = TestBed.inject(OrderLines);
  standing = TestBed.inject(OrderStanding);
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
  expect(first.request.body).toEqual({ version: 3, seen: { poNumber: '' }, poNumber: 'A-1' });
  first.flush(testOrder({ version: 4, poNumber: 'A-1', lines: [testLine()] }));
  const second = http.expectOne('/api/orders/5/lines/11');
  expect(second.request.body).toEqual({ version: 4, seen: { quantity: '10', unit: 'XTY' }, quantity: '12' });
});

const noted = (list: (string | null)[]) => (fault: Error | null) => void list.push(fault && fault.message);

it('drops what was to follow a change that was refused, shows what is true now, and still sends what stands alone', () => {
  const settled: (string | null)[] = [];
  const released = jest.fn();
  store.change({ poNumber: 'A-1' });
  standing.release(released);
  orderLines.addLine({ item: 'LID', quantity: '1' }, 'key-1', noted(settled));
  http
    .expectOne('/api/orders/5')
    .flush({ type: '/problems/changed', title: 'It has changed', status: 409, detail: 'Someone else changed it.' }, { status: 409, statusText: 'x' });
  expect(store.fault()).toBe('Someone else changed it.');
  const added = http.expectOne('/api/orders/5/lines');
  expect(added.request.headers.get('Idempotency-Key')).toBe('key-1');
  answer('/api/orders/5', testOrder({ version: 7 }));
  added.flush(testOrder({ version: 8 }));
  expect(settled).toEqual([null]);
  http.expectNone('/api/orders/5/release');
  expect(store.order()!.version).toBe(8);
  expect(store.busy()).toBe(false);
});

it('says what stood in the fields it changes, and shows mine and theirs where somebody else changed one of them', () => {
  const line = store.order()!.lines[0]!;
  store.changeLine(line, { quantity: '12' });
  const first = http.expectOne('/api/orders/5/lines/11');
  expect(first.request.body).toEqual({ version: 3, seen: { quantity: '10', unit: 'XTY' }, quantity: '12' });
  const errors = [{ field: 'body.quantity', message: 'you have 12, it is now 7', theirs: '7', who: 'Sam' }];
  first.flush({ type: '/problems/changed', title: 'It has changed', status: 409, detail: 'Sam changed quantity.', errors }, { status: 409, statusText: 'x' });
  answer('/api/orders/5', testOrder({ version: 4, lines: [testLine({ quantity: '7' })] }));
  const [collision] = store.collisions();
  expect(collision).toMatchObject({ line: 11, field: 'quantity', mine: '12', theirs: '7', who: 'Sam' });
  store.decide(collision!, 'mine');
  const again = http.expectOne('/api/orders/5/lines/11');
  expect(again.request.body).toEqual({ version: 4, seen: { quantity: '7', unit: 'XTY' }, quantity: '12' });
  again.flush(testOrder({ version: 5, lines: [testLine({ quantity: '12' })] }));
  expect(store.collisions()).toEqual([]);
});

it('takes what it changed itself for seen', () => {
  const line = store.order()!.lines[0]!;
  store.changeLine(line, { quantity: '12' });
  store.changeLine(line, { quantity: '15' });
  http.expectOne('/api/orders/5/lines/11').flush(testOrder({ version: 4, lines: [testLine({ quantity: '12' })] }));
  expect(http.expectOne('/api/orders/5/lines/11').request.body).toEqual({ version: 4, seen: { quantity: '12', unit: 'XTY' }, quantity: '15' });
});

it('carries a line on from where it is by then', () => {
  const lines = [1, 2, 3].map((lineNo) => testLine({ id: lineNo, lineNo }));
  changed.next('order:5');
  answer('/api/orders/5', testOrder({ version: 4, lines }));
  const up = (current: number) => current - 1;
  orderLines.moveLine(lines[2]!, up);
  orderLines.moveLine(lines[2]!, up);
  const first = http.expectOne('/api/orders/5/lines/3/move');
  expect(first.request.body).toEqual({ to: 2 });
  first.flush(testOrder({ version: 5, lines: [testLine({ id: 1, lineNo: 1 }), testLine({ id: 3, lineNo: 2 }), testLine({ id: 2, lineNo: 3 })] }));
  expect(http.expectOne('/api/orders/5/lines/3/move').request.body).toEqual({ to: 1 });
});

it('puts a removed line back as it was, at its place and price', () => {
  const line = testLine({ id: 12, lineNo: 2, note: 'blue lids', warehouse: 'NOR', requestedDay: '2027-03-15', pin: { kind: 'list' } });
  orderLines.putBack(line);
  const added = http.expectOne('/api/orders/5/lines');
  expect(added.request.body).toMatchObject({ note: 'blue lids', warehouse: 'NOR', requestedDay: '2027-03-15' });
  added.flush(testOrder({ version: 4, lines: [testLine(), testLine({ id: 13, lineNo: 3 }), testLine({ id: 14, lineNo: 2 })] }));
  const moved = http.expectOne('/api/orders/5/lines/13/move');
  expect(moved.request.body).toEqual({ to: 2 });
  moved.flush(testOrder({ version: 5 }));
  expect(http.expectOne('/api/orders/5/lines/13/price').request.body).toEqual({ version: 5, pin: { kind: 'list' } });
});

it('releases once, however often it is asked to, with what was seen', () => {
  const done = jest.fn();
  standing.release(done);
  standing.release(done);
  const request = http.expectOne('/api/orders/5/release');
  expect(request.request.body).toEqual({ version: 3, seen: [{ line: 11, schedule: [{ day: '2027-03-12', quantity: '240' }], uncovered: '0' }] });
  request.flush(testOrder({ version: 4, state: 'released', number: '20001' }));
  http.expectNone('/api/orders/5/release');
  expect(done).toHaveBeenCalledTimes(1);
});

it('may be released again after a refusal', () => {
  standing.release(() => undefined);
  answer(
    '/api/orders/5/release',
    { type: '/problems/invalid', title: 'Some fields are wrong', status: 422, detail: 'line 1: 5 are backordered and have no route.' },
    422,
  );
  standing.release(() => undefined);
  http.expectOne('/api/orders/5/release');
});

it('does not let an old answer undo a newer one', () => {
  changed.next('order:5');
  const old = http.expectOne('/api/orders/5');
  orderLines.addLine({ item: 'LID', quantity: '1' }, 'key-2', () => undefined);
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
