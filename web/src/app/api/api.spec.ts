import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { orderRoutes } from '@nockwright/contract/orders';
import type { ProblemError } from './index';
import { Api } from './index';

let http: HttpTestingController;
let api: Api;
beforeEach(() => {
  TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
  http = TestBed.inject(HttpTestingController);
  api = TestBed.inject(Api);
});
afterEach(() => http.verify());

it('fills the address from the contract and leaves out what is not asked', () => {
  api.call(orderRoutes.readRoutes, { params: { order: 7, line: 9 }, query: { quantity: '2.5' } }).subscribe();
  http.expectOne({ method: 'GET', url: '/api/orders/7/lines/9/routes?quantity=2.5' });
  api.call(orderRoutes.listOrders, { query: { search: '' } }).subscribe();
  http.expectOne('/api/orders');
});

it('sends a change with a key of its own, and a question without one', () => {
  const body = { customer: 1 };
  api.call(orderRoutes.createOrder, { body }).subscribe();
  api.call(orderRoutes.createOrder, { body }).subscribe();
  const keys = http.match('/api/orders').map(({ request }) => request.headers.get('Idempotency-Key'));
  expect(keys[0]).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  expect(keys[0]).not.toBe(keys[1]);
});

it('does not send what the contract refuses', () => {
  let refused: ProblemError | undefined;
  api
    .call(orderRoutes.addLine, { params: { order: 1 }, body: { item: 'JAR', quantity: '-1' } })
    .subscribe({ error: (error: ProblemError) => (refused = error) });
  expect(refused?.errors.map((fault) => fault.field)).toEqual(['quantity']);
});

it('sends a change whose answer was lost again with the same key, so that it is done once', () => {
  jest.useFakeTimers();
  let answer: unknown;
  api.call(orderRoutes.createOrder, { body: { customer: 1 } }).subscribe((order) => (answer = order));
  const first = http.expectOne('/api/orders');
  first.error(new ProgressEvent('error'));
  jest.advanceTimersByTime(1000);
  const second = http.expectOne('/api/orders');
  expect(second.request.headers.get('Idempotency-Key')).toBe(first.request.headers.get('Idempotency-Key'));
  second.flush({ id: 3 });
  expect(answer).toEqual({ id: 3 });
  jest.useRealTimers();
});

it.each([
  ['body.expectedDay', 'Expected day: 2027-03-01 has passed'],
  ['query.day', 'Day: 2027-03-01 has passed'],
  ['body.lines[1].open', 'Line 2, open: 2027-03-01 has passed'],
  ['lines.0.open', 'Line 1, open: 2027-03-01 has passed'],
  ['body.choices[0].parts[2].shipTo', 'Choice 1, part 3, ship to: 2027-03-01 has passed'],
  ['body', '2027-03-01 has passed'],
])('names the field %s as people do', (field, words) => {
  let told = '';
  api.call(orderRoutes.readOrder, { params: { order: 1 } }).subscribe({ error: (error: Error) => (told = error.message) });
  const fault = { field, message: '2027-03-01 has passed' };
  const problem = { type: '/problems/invalid', title: 'Some fields are wrong', status: 422, detail: `${field}: ${fault.message}`, errors: [fault] };
  http.expectOne('/api/orders/1').flush(problem, { status: 422, statusText: 'Unprocessable Content' });
  expect(told).toBe(words);
});

it('tells a refusal in its own words, and a server that is away in ours', () => {
  jest.useFakeTimers();
  const told: ProblemError[] = [];
  const note = { error: (error: ProblemError) => void told.push(error) };
  api.call(orderRoutes.readOrder, { params: { order: 1 } }).subscribe(note);
  http
    .expectOne('/api/orders/1')
    .flush(
      { type: '/problems/not-found', title: 'There is no such thing', status: 404, detail: 'There is no order 1.' },
      { status: 404, statusText: 'Not Found' },
    );
  api.call(orderRoutes.readOrder, { params: { order: 2 } }).subscribe(note);
  for (let attempt = 0; attempt < 4; attempt++) {
    http.expectOne('/api/orders/2').error(new ProgressEvent('error'));
    jest.advanceTimersByTime(5000);
  }
  expect(told.map(({ status, message }) => [status, message])).toEqual([
    [404, 'There is no order 1.'],
    [503, expect.stringContaining('What you typed is kept')],
  ]);
  // It is asked whether it is back.
  http.match('/api/ready');
  jest.useRealTimers();
});
