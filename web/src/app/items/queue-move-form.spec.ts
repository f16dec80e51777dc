import type { ComponentFixture } from '@angular/core/testing';
import type { QueueRow } from '@nockwright/contract/items';
import { orderRoutes } from '@nockwright/contract/orders';
import { of, throwError, type Observable } from 'rxjs';
import { Api } from '../api';
import { testMover } from '../ripple/test-mover';
import { QueueMoveForm } from './queue-move-form';
import { show, type TestScreen } from '../test-screen';

const row = (order: number, version = 1) => ({ order, version, number: String(20400 + order), line: order * 10, customer: `Customer ${order}` }) as QueueRow;
const ripple = { later: [testMover()], earlier: [], offers: [] };
const api = { call: jest.fn((route: unknown, _input?: unknown): Observable<unknown> => of(route === orderRoutes.previewTurn ? ripple : {})) };
let screen: TestScreen<QueueMoveForm>;
let fixture: ComponentFixture<QueueMoveForm>;
let element: HTMLElement;
let closed: jest.Mock;

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockClear();
  screen = show(QueueMoveForm, { move: { row: row(3), ahead: row(2) }, queue: [row(1), row(2), row(2), row(3, 8)] }, [{ provide: Api, useValue: api }]);
  ({ fixture, element } = screen);
  closed = jest.fn();
  fixture.componentInstance.closed.subscribe(closed);
});
afterEach(() => jest.useRealTimers());

const settle = () => screen.settle();
const form = () => fixture.componentInstance as unknown as { choose(order: number): void; others(): readonly QueueRow[] };
const submit = () => (element.querySelector('form')!.dispatchEvent(new Event('submit')), settle());

it('looks at once who is hurt by the place it was dragged to; another place can be chosen', () => {
  expect(api.call).toHaveBeenLastCalledWith(orderRoutes.previewTurn, { params: { order: 3 }, query: { ahead: 2, accept: '' } });
  expect(element.textContent).toContain('Pipistrelle Farm Shop');
  expect(
    form()
      .others()
      .map((each) => each.order),
  ).toEqual([1, 2]);
  form().choose(1);
  settle();
  expect(api.call).toHaveBeenLastCalledWith(orderRoutes.previewTurn, { params: { order: 3 }, query: { ahead: 1, accept: '' } });
});

it('places it at the version the queue knows, with what was seen', () => {
  submit();
  const decision = { seen: [{ line: 31, after: [{ day: '2027-03-16', quantity: '2' }] }], accept: [] };
  expect(api.call).toHaveBeenLastCalledWith(orderRoutes.rankOrder, { params: { order: 3 }, body: { version: 8, ahead: 2, reason: '', decision } });
  expect(closed).toHaveBeenCalledTimes(1);
});

it('says a refusal and can be sent again', () => {
  api.call.mockReturnValueOnce(throwError(() => new Error('The ripple has changed.')));
  submit();
  expect(element.querySelector('[role=alert]')!.textContent).toBe('The ripple has changed.');
  submit();
  expect(closed).toHaveBeenCalledTimes(1);
});
