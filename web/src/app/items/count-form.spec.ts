import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { itemRoutes } from '@nockwright/contract/items';
import { of, throwError, type Observable } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { testMover } from '../ripple/test-mover';
import { CountForm } from './count-form';

const pool = { warehouse: 'MAR', name: 'Marrowby', onHand: '10' };
const ripple = { later: [testMover()], earlier: [], offers: [] };
const api = { call: jest.fn((route: unknown, _input?: unknown): Observable<unknown> => of(route === itemRoutes.previewCount ? ripple : {})) };
let fixture: ComponentFixture<CountForm>;
let element: HTMLElement;
let closed: jest.Mock;

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockClear();
  TestBed.configureTestingModule({
    providers: [provideRouter([]), { provide: Api, useValue: api }, { provide: Session, useValue: { today: () => '2027-03-09' } }],
  });
  fixture = TestBed.createComponent(CountForm);
  fixture.componentRef.setInput('item', 'TUB');
  fixture.componentRef.setInput('pool', pool);
  closed = jest.fn();
  fixture.componentInstance.closed.subscribe(closed);
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
  expect(api.call).toHaveBeenLastCalledWith(itemRoutes.previewCount, { params: { item: 'TUB' }, query: { warehouse: 'MAR', counted: '7', accept: '' } });
  expect(element.textContent).toContain('Pipistrelle Farm Shop');
  submit();
  expect(fault()).toBe('Say why it differs.');
  fill('count-reason', ' broken in the bay ');
  submit();
  expect(api.call).toHaveBeenLastCalledWith(itemRoutes.countStock, {
    params: { item: 'TUB' },
    body: {
      warehouse: 'MAR',
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
