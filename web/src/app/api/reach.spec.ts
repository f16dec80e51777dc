import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { orderRoutes } from '@nockwright/contract/orders';
import { Api, type ProblemError, Reach } from './index';

let http: HttpTestingController;
beforeEach(() => {
  jest.useFakeTimers();
  TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
  http = TestBed.inject(HttpTestingController);
});
afterEach(() => jest.useRealTimers());

const AWAY = { type: '/problems/unavailable', title: 'The desk cannot be reached', status: 503, detail: 'The database cannot be reached.' };
const unavailable = { status: 503, statusText: 'Service Unavailable' };

it('says that the desk is away from the first request that finds it so, asks until it is back, and says that once', () => {
  const reach = TestBed.inject(Reach);
  const back = jest.fn();
  reach.back.subscribe(back);
  let told: ProblemError | null = null;
  TestBed.inject(Api)
    .call(orderRoutes.readOrder, { params: { order: 1 } })
    .subscribe({ error: (error: ProblemError) => (told = error) });
  expect(reach.reached()).toBe(true);
  http.expectOne('/api/orders/1').flush(AWAY, unavailable);
  expect(reach.reached()).toBe(false);
  jest.advanceTimersByTime(1500);
  http.expectOne('/api/ready').flush(AWAY, unavailable);
  http.match('/api/orders/1').forEach((request) => request.flush(AWAY, unavailable));
  expect(reach.reached()).toBe(false);
  jest.advanceTimersByTime(1500);
  http.expectOne('/api/ready').flush({ status: 'ok' });
  expect(reach.reached()).toBe(true);
  expect(back).toHaveBeenCalledTimes(1);
  expect(told).toBeNull();
  jest.advanceTimersByTime(10_000);
  http.expectNone('/api/ready');
});

it('a desk that is busy says so itself; it is not away', () => {
  let told = '';
  TestBed.inject(Api)
    .call(orderRoutes.readOrder, { params: { order: 1 } })
    .subscribe({ error: (error: Error) => (told = error.message) });
  const busy = { ...AWAY, type: '/problems/busy', detail: 'Others change the same things just now.' };
  for (let attempt = 0; attempt < 4; attempt++) {
    http.expectOne('/api/orders/1').flush(busy, unavailable);
    jest.advanceTimersByTime(5000);
  }
  expect(told).toBe('Others change the same things just now.');
  expect(TestBed.inject(Reach).reached()).toBe(true);
});
