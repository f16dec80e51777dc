import { signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { HoldView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { HoldForm } from './hold-form';
import { OrderHolds } from './order-holds';
import { testOrder } from './test-order';
import { storeProviders } from './test-store';

const hold = (more: Partial<HoldView> = {}): HoldView => ({
  id: 7,
  kind: 'below_floor',
  why: 'line 1 (JAR) at 0.32: below the floor margin of 12 %',
  by: 'Ida Perrin',
  at: '2027-03-09T08:05:00.000Z',
  cleared: null,
  ...more,
});
const store = { fault: signal(''), busy: signal(false), hold: jest.fn(), clearHold: jest.fn() };
const user = signal<{ role: string }>({ role: 'manager' });

let fixture: ComponentFixture<OrderHolds>;
let element: HTMLElement;

beforeEach(() => {
  store.fault.set('');
  store.hold.mockReset();
  store.clearHold.mockReset();
  TestBed.configureTestingModule({
    providers: [{ provide: Session, useValue: { today: () => '2027-03-09', user } }, ...storeProviders(store)],
  });
});

function show(role: string, holds: readonly HoldView[]) {
  user.set({ role });
  fixture = TestBed.createComponent(OrderHolds);
  element = fixture.nativeElement as HTMLElement;
  fixture.componentRef.setInput('order', testOrder({ holds }));
  fixture.detectChanges();
}

const submit = (host: HTMLElement) => host.querySelector('form')!.dispatchEvent(new Event('submit'));

it('says why it is held and who may release the hold', () => {
  show('coordinator', [hold()]);
  expect(element.textContent).toContain('Held: price below the floor.');
  expect(element.textContent).toContain('A manager may release the hold.');
  expect(element.querySelector('form')).toBeNull();
});

it('lets who may clear it, with a reason', () => {
  show('manager', [hold()]);
  submit(element);
  expect(store.fault()).toContain('Why may it be released?');
  const field = element.querySelector('input')!;
  field.value = ' a good customer ';
  field.dispatchEvent(new Event('input'));
  submit(element);
  expect(store.clearHold).toHaveBeenCalledWith(7, 'a good customer', expect.any(Function));
});

it.each([
  ['finance', 'credit', true],
  ['finance', 'below_floor', false],
  ['coordinator', 'customer', true],
  ['warehouse', 'customer', false],
] as const)('%s and a hold for %s: %s', (role, kind, may) => {
  show(role, [hold({ kind })]);
  expect(element.querySelector('form') !== null).toBe(may);
});

it('tells who let it go and why', () => {
  show('manager', [hold({ cleared: { by: 'Mona Reyes', at: '2027-03-09T09:00:00.000Z', why: 'end of season' } })]);
  expect(element.textContent).toContain('Was held');
  expect(element.textContent).toContain('Mona Reyes released the hold: end of season');
  expect(element.querySelector('form')).toBeNull();
});

it('a draft is held for its customer with what they must answer', () => {
  const form = TestBed.createComponent(HoldForm);
  form.detectChanges();
  const host = form.nativeElement as HTMLElement;
  submit(host);
  expect(store.fault()).toContain('What does it wait for?');
  const field = host.querySelector('input')!;
  field.value = 'the sizes';
  field.dispatchEvent(new Event('input'));
  submit(host);
  expect(store.hold).toHaveBeenCalledWith('the sizes', expect.any(Function));
});
