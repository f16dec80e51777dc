import type { ComponentFixture } from '@angular/core/testing';
import { stockRoutes } from '@nockwright/contract/items';
import { of, throwError, type Observable } from 'rxjs';
import { Api } from '../api';
import { testMover } from '../ripple/test-mover';
import { CountForm } from './count-form';
import { show, type TestScreen } from '../test-screen';

const pool = { warehouse: 'MAR', name: 'Marrowby', onHand: '10' };
const ripple = { later: [testMover()], earlier: [], offers: [] };
const api = { call: jest.fn((route: unknown, _input?: unknown): Observable<unknown> => of(route === stockRoutes.previewCount ? ripple : {})) };
let screen: TestScreen<CountForm>;
let fixture: ComponentFixture<CountForm>;
let element: HTMLElement;
let closed: jest.Mock;

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockClear();
  screen = show(CountForm, { item: 'TUB', pool: pool }, [{ provide: Api, useValue: api }]);
  ({ fixture, element } = screen);
  closed = jest.fn();
  fixture.componentInstance.closed.subscribe(closed);
});
afterEach(() => jest.useRealTimers());

const settle = () => screen.settle();
function fill(id: string, value: string) {
  const field = element.querySelector<HTMLInputElement>(`#${id}`)!;
  field.value = value;
  field.dispatchEvent(new Event('input'));
  settle();
}
const submit = () => (element.querySelector('form')!.dispatchEvent(new Event('submit')), settle());
const fault = () => element.querySelector('[role=alert]')!.textContent;

it('asks for nothing while what is counted is what the books say', () => {
  fill('counted', '10');
  expect(api.call).not.toHaveBeenCalled();
  submit();
  expect(fault()).toContain('where it is not what the books say');
});

it('shows whom a lower count hurts, wants a reason, and corrects with what was seen', () => {
  fill('counted', '7');
  expect(api.call).toHaveBeenLastCalledWith(stockRoutes.previewCount, { params: { item: 'TUB' }, query: { warehouse: 'MAR', counted: '7', accept: '' } });
  expect(element.textContent).toContain('Pipistrelle Farm Shop');
  submit();
  expect(fault()).toBe('Say why it differs.');
  fill('count-reason', ' broken in the bay ');
  submit();
  expect(api.call).toHaveBeenLastCalledWith(stockRoutes.countStock, {
    params: { item: 'TUB' },
    body: {
      warehouse: 'MAR',
      cause: 'other',
      counted: '7',
      reason: 'broken in the bay',
      decision: { seen: [{ line: 31, after: [{ day: '2027-03-16', quantity: '2' }] }], accept: [] },
    },
  });
  expect(closed).toHaveBeenCalledTimes(1);
});

it('says a refusal and can be sent again', () => {
  fill('counted', '7');
  fill('count-reason', 'broken');
  api.call.mockReturnValueOnce(throwError(() => new Error('The ripple has changed.')));
  submit();
  expect(fault()).toBe('The ripple has changed.');
  submit();
  expect(closed).toHaveBeenCalledTimes(1);
});
