import { signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { LineView, OrderView, RouteChoice } from '@nockwright/contract/orders';
import { of, Subject } from 'rxjs';
import { Session } from '../access';
import { LineGloss } from './line-gloss';
import { OrderStore } from './order-store';
import { testLine, testOrder } from './test-order';

const route = (more: Partial<RouteChoice>): RouteChoice => ({
  kind: 'special_order',
  supplier: 'SUP',
  label: 'buy from Tarnbeck',
  quantity: '30',
  buys: '30',
  shipDay: '2027-03-17',
  deliveryDay: '2027-03-18',
  daysLate: 5,
  unitCost: '0.31',
  marginPercent: '33.0',
  marginAmount: '5.00',
  remarks: ['bound to this line'],
  ...more,
});
const SHORT: Partial<LineView> = { state: 'uncovered', uncovered: '30', spoken: 'I have no day yet for the 30.' };

let fixture: ComponentFixture<LineGloss>;
let element: HTMLElement;
const store = { fault: signal(''), busy: signal(false), routesOf: jest.fn(), chooseRoute: jest.fn(), removeRoute: jest.fn() };
const maySell = signal(true);

beforeEach(() => {
  jest.useFakeTimers();
  maySell.set(true);
  for (const mock of [store.routesOf, store.chooseRoute, store.removeRoute]) mock.mockReset();
  store.routesOf.mockReturnValue(
    of({ short: '30', unit: 'EA', routes: [route({}), route({ kind: 'drop_ship', label: 'Tarnbeck ships to the customer', shipDay: null, daysLate: null })] }),
  );
  TestBed.configureTestingModule({
    providers: [provideRouter([]), { provide: Session, useValue: { today: () => '2027-03-09', maySell } }, { provide: OrderStore, useValue: store }],
  });
  fixture = TestBed.createComponent(LineGloss);
  element = fixture.nativeElement as HTMLElement;
});
afterEach(() => {
  fixture.destroy();
  jest.useRealTimers();
});

function show(line: LineView, order: OrderView = testOrder()) {
  fixture.componentRef.setInput('order', order);
  fixture.componentRef.setInput('line', line);
  settle();
}

function settle() {
  fixture.detectChanges();
  TestBed.tick();
  jest.advanceTimersByTime(200);
  fixture.detectChanges();
}

function press(key: string) {
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
}

it('says first what to tell the customer, then why and from where', () => {
  show(testLine());
  const text = element.textContent!;
  expect(text.indexOf('All 240 leave')).toBeLessThan(text.indexOf('Where they come from'));
  expect(text).toContain('Asked to leave Marrowby by Fri 12 Mar.');
  expect(text).toContain('on hand at Marrowby');
  expect(text).toContain('first source with a price');
});

it('asks for other ways only where a line is late or open', () => {
  show(testLine());
  expect(store.routesOf).not.toHaveBeenCalled();
  show(testLine(SHORT));
  expect(store.routesOf).toHaveBeenCalledTimes(1);
  expect([...element.querySelectorAll('.ways b')].map((label) => label.textContent)).toEqual(['buy from Tarnbeck', 'Tarnbeck ships to the customer']);
});

it('takes a way by its digit, and not one that is not possible', () => {
  show(testLine(SHORT));
  press('2');
  expect(store.chooseRoute).not.toHaveBeenCalled();
  press('1');
  expect(store.chooseRoute).toHaveBeenCalledWith(expect.objectContaining({ id: 11 }), expect.objectContaining({ label: 'buy from Tarnbeck', quantity: '30' }));
});

it('asks anew for a part, and takes nothing while the answer is under way', () => {
  show(testLine(SHORT));
  const answer = new Subject<{ short: string; unit: string; routes: readonly RouteChoice[] }>();
  store.routesOf.mockReturnValue(answer);
  const part = element.querySelector<HTMLInputElement>('#part')!;
  part.value = '12';
  part.dispatchEvent(new Event('input'));
  settle();
  expect(store.routesOf).toHaveBeenLastCalledWith(expect.anything(), '12');
  press('1');
  expect(store.chooseRoute).not.toHaveBeenCalled();
  answer.next({ short: '30', unit: 'EA', routes: [route({ quantity: '12' })] });
  settle();
  expect(element.textContent).toContain('Other ways for the 12');
  press('1');
  expect(store.chooseRoute).toHaveBeenCalledWith(expect.anything(), expect.objectContaining({ quantity: '12' }));
});

it('does not take a way found for the line as it was before a change', () => {
  show(testLine(SHORT));
  store.routesOf.mockReturnValue(new Subject());
  show(testLine({ ...SHORT, uncovered: '5' }), testOrder({ version: 4 }));
  press('1');
  expect(store.chooseRoute).not.toHaveBeenCalled();
});

it('names routes chosen, and takes back those that have led to no purchase', () => {
  const chosen = { kind: 'special_order' as const, supplier: 'Tarnbeck', quantity: '30', day: '2027-03-16' };
  show(
    testLine({
      routes: [
        { ...chosen, id: 1, purchase: null, purchaseNumber: null },
        { ...chosen, id: 2, purchase: 9, purchaseNumber: 'P7001' },
      ],
    }),
  );
  const rows = [...element.querySelectorAll('.chosen')];
  rows[0]!.querySelector('button')!.click();
  expect(store.removeRoute).toHaveBeenCalledWith(expect.anything(), 1);
  expect(rows[1]!.querySelector('button')).toBeNull();
  expect(rows[1]!.querySelector('a')!.textContent).toBe('P7001');
});

it('offers nothing to do to who may only read', () => {
  maySell.set(false);
  show(testLine(SHORT));
  expect(element.querySelector('.ways')).toBeNull();
  press('1');
  expect(store.chooseRoute).not.toHaveBeenCalled();
});

it('says of a promise at risk when its goods really come, and of a broken one that there are none', () => {
  const entry = { quantity: '10', kept: true, dropShip: false, from: [] };
  show(
    testLine({
      schedule: [
        { ...entry, day: '2027-03-12', arrives: '2027-03-30', broken: false, holds: 100, safeDay: null },
        { ...entry, day: '2027-03-15', arrives: null, broken: true, holds: 100, safeDay: null },
      ],
    }),
  );
  expect(element.textContent).toContain('really Tue 30 Mar');
  expect(element.textContent).toContain('no supply is left for it');
});
