import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MatSnackBar } from '@angular/material/snack-bar';
import { provideRouter } from '@angular/router';
import { worklistRoutes, type CallView } from '@nockwright/contract/worklist';
import { of, Subject, startWith, switchMap, throwError, type Observable } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { CallListPage } from './call-list';

const call = (id: number, more: Partial<CallView> = {}): CallView => ({
  id,
  order: 7,
  number: '20413',
  line: 31,
  lineNo: 1,
  customer: 'Pipistrelle Farm Shop',
  customerId: 7,
  contact: 'Jonas Aske',
  phone: '01632 960155',
  item: 'EXT-T4-MN',
  told: [{ day: '2027-03-12', quantity: '2' }],
  holds: [],
  say: 'The 2 we promised have lost their supply.',
  cause: { kind: 'order.ranked', facts: { number: '20414', turn: null, ahead: '20413' }, note: 'rang twice' },
  why: '',
  madeAt: '2027-03-09T08:05:00.000Z',
  madeBy: 'Ida Perrin',
  doneAt: null,
  doneBy: '',
  ...more,
});

const api = { call: jest.fn<Observable<unknown>, [unknown, unknown?]>() };
const undo = new Subject<void>();
const snack = { open: jest.fn(() => ({ onAction: () => undo })) };
const live = { kept: (load: () => Observable<unknown>, _about: unknown, again: Observable<unknown>) => again.pipe(startWith(undefined), switchMap(load)) };
let maySell: boolean;
let fixture: ComponentFixture<CallListPage>;
let element: HTMLElement;

beforeEach(() => {
  maySell = true;
  snack.open.mockClear();
  api.call
    .mockReset()
    .mockImplementation(() => of({ calls: [call(1), call(2, { customer: 'Old Mill', item: 'STD-N10-PN', phone: '01632 960217' })], open: 2 }));
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      { provide: Api, useValue: api },
      { provide: Live, useValue: live },
      { provide: MatSnackBar, useValue: snack },
      { provide: Session, useValue: { today: () => '2027-03-09', may: () => true, maySell: () => maySell } },
    ],
  });
  fixture = TestBed.createComponent(CallListPage);
  element = fixture.nativeElement as HTMLElement;
  settle();
});

function settle() {
  fixture.detectChanges();
  TestBed.tick();
  fixture.detectChanges();
}
const rows = () => [...element.querySelectorAll<HTMLTableRowElement>('tbody tr')];
const press = (key: string) => (rows()[0]!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true })), settle());
const page = () => fixture.componentInstance as unknown as { text: { set(text: string): void }; state: { set(state: 'open' | 'done'): void } };

it('says whom to ring, what they were told, what holds now and what to say', () => {
  const text = rows()[0]!.textContent!.replace(/\s+/g, ' ');
  for (const words of ['Pipistrelle Farm Shop', '01632 960155', '2 on Fri 12 Mar', 'backordered', 'have lost their supply', 'order 20414 placed ahead'])
    expect(text).toContain(words);
});

it('is filtered by words of customer, order, item or phone', () => {
  fixture.componentRef.setInput('q', 'old 9602');
  settle();
  expect(rows().map((row) => row.textContent)).toEqual([expect.stringContaining('Old Mill')]);
});

it('marks a call as made with Enter, and takes it back where that was a slip', () => {
  press('Enter');
  expect(api.call).toHaveBeenCalledWith(worklistRoutes.closeCall, { params: { call: 1 }, body: { told: true } });
  expect(snack.open).toHaveBeenCalledWith('Pipistrelle Farm Shop knows.', 'Undo', { duration: 8000 });
  undo.next();
  expect(api.call).toHaveBeenCalledWith(worklistRoutes.closeCall, { params: { call: 1 }, body: { told: false } });
});

it('lists those made, which can be opened again', () => {
  page().state.set('done');
  settle();
  expect(api.call).toHaveBeenLastCalledWith(worklistRoutes.listCalls, { query: { state: 'done' } });
  press('Enter');
  expect(api.call).toHaveBeenCalledWith(worklistRoutes.closeCall, { params: { call: 1 }, body: { told: false } });
});

it('says a refusal, and lets only who may sell mark a call', () => {
  api.call.mockImplementationOnce(() => throwError(() => new Error('The call has been made already.')));
  press('Enter');
  expect(element.querySelector('[role=alert]')!.textContent).toBe('The call has been made already.');
  maySell = false;
  const before = api.call.mock.calls.length;
  press('Enter');
  expect(api.call.mock.calls).toHaveLength(before);
});

it('says so when nobody is to be rung', () => {
  api.call.mockImplementation(() => of({ calls: [], open: 0 }));
  page().state.set('done');
  settle();
  page().state.set('open');
  settle();
  expect(element.textContent).toContain('No calls to make.');
});
