import { signal, type WritableSignal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import { provideRouter } from '@angular/router';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import type { RouteChoice, RouteChoices } from '@nockwright/contract/shortages';
import { of, Subject } from 'rxjs';
import { Session } from '../access';
import { testRoute } from '../shortages/test-route';
import { LineGloss } from './line-gloss';
import { LineOptions } from './options/line-options';
import { testLine, testOrder } from './test-order';
import { Unsaved } from './typed/unsaved';
import { storeProviders } from './test-store';

const route = testRoute;
const bought = testRoute().parts[0]!;
const drop = route({
  parts: [{ ...bought, kind: 'drop_ship', label: 'Drop ship from Tarnbeck' }],
  label: 'Drop ship from Tarnbeck',
  shipDay: null,
  daysLate: null,
  possible: false,
});
const choices = (...routes: RouteChoice[]): RouteChoices => ({ short: '30', unit: 'EA', policy: 'on_time', frees: [], takesBack: [], routes });
const SHORT: Partial<LineView> = { state: 'uncovered', uncovered: '30', spoken: 'I have no day yet for the 30.' };

let fixture: ComponentFixture<LineGloss>;
let element: HTMLElement;
const store = {
  fault: signal(''),
  busy: signal(false),
  collisions: signal([]),
  order: signal<OrderView | null>(null),
  routesOf: jest.fn(),
  chooseRoute: jest.fn(),
  undoRoute: jest.fn(),
  previewUndo: jest.fn(),
  ask: jest.fn(),
  answer: jest.fn(),
};
const maySell = signal(true);
let looked: WritableSignal<LineView | null>;
let options: LineOptions;

beforeEach(() => {
  jest.useFakeTimers();
  maySell.set(true);
  for (const mock of [store.routesOf, store.chooseRoute, store.undoRoute, store.previewUndo, store.ask, store.answer]) mock.mockReset();
  store.routesOf.mockReturnValue(of(choices(route({}), drop)));
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      { provide: Session, useValue: { today: () => '2027-03-09', maySell, inOffice: () => true, may: () => true, user: () => null, currency: () => 'EUR' } },
      ...storeProviders(store),
      LineOptions,
      Unsaved,
    ],
  });
  store.order.set(null);
  looked = signal(null);
  fixture = TestBed.createComponent(LineGloss);
  options = TestBed.inject(LineOptions);
  options.look({ line: looked, changing: signal(false) });
  element = fixture.nativeElement as HTMLElement;
});
afterEach(() => {
  fixture.destroy();
  jest.useRealTimers();
});

function show(line: LineView, order: OrderView = testOrder()) {
  store.order.set(order);
  looked.set(line);
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

it('an option that is being taken stands there no more: a second number takes nothing that was found before it', () => {
  show(testLine(SHORT));
  store.chooseRoute.mockImplementation(() => store.busy.set(true));
  press('1');
  expect(store.chooseRoute).toHaveBeenCalledTimes(1);
  settle();
  expect(options.rows()).toEqual([]);
  press('1');
  expect(store.chooseRoute).toHaveBeenCalledTimes(1);
  // It could not be done: what was found for the line as it stands still holds.
  store.busy.set(false);
  settle();
  expect(options.rows()).toHaveLength(2);
});

function press(key: string) {
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
}

it('says first what to tell the customer, then why and from where', () => {
  show(testLine());
  const text = element.textContent!;
  expect(text.indexOf('All 240 leave')).toBeLessThan(text.indexOf('Where they come from'));
  expect(text).toContain('Requested to ship from Marrowby by Fri 12 Mar.');
  expect(text).toContain('on hand at Marrowby');
  expect(text).toContain('first source with a price');
});

it('asks for other ways only where a line is late or open', () => {
  show(testLine());
  expect(store.routesOf).not.toHaveBeenCalled();
  show(testLine(SHORT));
  expect(store.routesOf).toHaveBeenCalledTimes(1);
  expect(options.rows().map(({ label }) => label)).toEqual(['Special order from Tarnbeck', 'Drop ship from Tarnbeck']);
  expect(element.textContent).toContain('Option 1: Special order from Tarnbeck');
  expect(element.textContent).toContain('“All 30 leave on Wednesday the 17th.');
});

it('takes a way by its digit, and not one that is not possible', () => {
  show(testLine(SHORT));
  press('2');
  expect(store.chooseRoute).not.toHaveBeenCalled();
  press('1');
  expect(store.chooseRoute).toHaveBeenCalledWith(expect.objectContaining({ id: 11 }), [{ kind: 'special_order', supplier: 'SUP', quantity: '30' }]);
});

it('asks anew for a part, and takes nothing while the answer is under way', () => {
  show(testLine(SHORT));
  const answer = new Subject<RouteChoices>();
  store.routesOf.mockReturnValue(answer);
  options.wanted.set('12');
  settle();
  expect(store.routesOf).toHaveBeenLastCalledWith(expect.anything(), '12', undefined);
  press('1');
  expect(store.chooseRoute).not.toHaveBeenCalled();
  answer.next(choices(route({ quantity: '12', parts: [{ ...bought, quantity: '12' }] })));
  settle();
  expect(options.offers().routes.map(({ quantity }) => quantity)).toEqual(['12']);
  press('1');
  expect(store.chooseRoute).toHaveBeenCalledWith(expect.anything(), [expect.objectContaining({ quantity: '12' })]);
});

it('does not take a way found for the line as it was before a change', () => {
  show(testLine(SHORT));
  store.routesOf.mockReturnValue(new Subject());
  show(testLine({ ...SHORT, uncovered: '5' }), testOrder({ version: 4 }));
  press('1');
  expect(store.chooseRoute).not.toHaveBeenCalled();
});

const chosen = { kind: 'special_order' as const, from: 'Tarnbeck', quantity: '30', day: '2027-03-16', unitCost: null };
const purchase = { kind: 'purchase' as const, id: 9, number: 'P7001', state: 'sent' };

it('names routes chosen, and takes back at once what has led to nothing', () => {
  show(
    testLine({
      routes: [
        { ...chosen, id: 1, document: null },
        { ...chosen, id: 2, document: purchase },
      ],
    }),
  );
  const rows = [...element.querySelectorAll('.chosen')];
  rows[0]!.querySelector('button')!.click();
  expect(store.undoRoute).toHaveBeenCalledWith(expect.anything(), 1, undefined);
  expect(rows[1]!.querySelector('a')!.textContent).toBe('P7001');
});

it('says what taking a purchase back means before it does, and asks what becomes of the goods', () => {
  store.previewUndo.mockReturnValue(
    of({
      does: ['purchase P7001: sent, the supplier must be told'],
      after: { schedule: [{ day: '2027-03-19', quantity: '10' }], uncovered: '20' },
      asksSupplier: true,
      barred: [],
    }),
  );
  show(testLine({ routes: [{ ...chosen, id: 2, document: purchase }] }));
  element.querySelector<HTMLButtonElement>('.chosen button')!.click();
  settle();
  expect(element.textContent).toContain('the supplier must be told');
  expect(element.textContent!.replace(/\s+/g, ' ')).toContain(
    'The line is then 10 promised Fri 19 Mar, 20 backordered without a day. No other promise moves later.',
  );
  expect(store.undoRoute).not.toHaveBeenCalled();
  [...element.querySelectorAll<HTMLButtonElement>('.undo button')].find((button) => button.textContent!.includes('Keep the goods'))!.click();
  expect(store.undoRoute).toHaveBeenCalledWith(expect.anything(), 2, 'keep');
});

it('tells why a route cannot be taken back, and offers no way to', () => {
  store.previewUndo.mockReturnValue(of({ does: [], after: null, asksSupplier: false, barred: ['It has left the supplier.'] }));
  show(testLine({ routes: [{ ...chosen, id: 2, document: purchase }] }));
  element.querySelector<HTMLButtonElement>('.chosen button')!.click();
  settle();
  expect(element.textContent).toContain('It has left the supplier.');
  expect([...element.querySelectorAll('.undo button')].map((button) => button.textContent!.trim())).toEqual(['Back']);
});

it('asks the customer about what they must agree to, and does it only where they have', () => {
  store.routesOf.mockReturnValue(of(choices(route({ obliges: [{ kind: 'consent', words: 'the customer must agree to the later day' }] }))));
  show(testLine(SHORT));
  press('1');
  settle();
  expect(store.chooseRoute).not.toHaveBeenCalled();
  expect(element.querySelector<HTMLTextAreaElement>('#ask-question')!.value).toContain('We are short of 30');
  [...element.querySelectorAll<HTMLButtonElement>('button')].find((button) => button.textContent!.includes('Customer has agreed'))!.click();
  expect(store.ask).toHaveBeenCalledWith(expect.anything(), expect.objectContaining({ recipients: [], onNo: 'reroute' }), true, expect.any(Function));
});

it('keeps what is typed of a question while the order is changed elsewhere, and forgets it with another line', () => {
  store.routesOf.mockReturnValue(of(choices(route({ obliges: [{ kind: 'consent', words: 'the customer must agree to the later day' }] }))));
  show(testLine(SHORT));
  press('1');
  settle();
  const question = () => element.querySelector<HTMLTextAreaElement>('#ask-question');
  question()!.value = 'May it be Wednesday?';
  question()!.dispatchEvent(new Event('input'));
  settle();
  show(testLine(SHORT), { ...testOrder(), version: testOrder().version + 1 });
  expect(question()?.value).toBe('May it be Wednesday?');
  show({ ...testLine(SHORT), id: 99 });
  expect(question()).toBeNull();
});

describe('a drop shipment to another address', () => {
  const order = testOrder();
  const site = { ...order.shipTo, id: 8, name: 'Site', town: 'Fell' };
  const known = { ...order, customer: { ...order.customer, shipTos: [order.shipTo, site] } };
  const goes = [expect.objectContaining({ kind: 'drop_ship', shipTo: 8 })];

  function showDrop(more: Partial<RouteChoice>) {
    store.routesOf.mockReturnValue(of(choices(route({ ...drop, possible: true, ...more }))));
    show(testLine(SHORT), known);
    fixture.debugElement.query(By.css('nock-list-choice[what="Where a drop shipment goes"]')).triggerEventHandler('choose', '8');
  }

  it('goes where it was chosen to go, also when the order is read again meanwhile', () => {
    showDrop({});
    show(testLine(SHORT), { ...known, shipTo: { ...order.shipTo } });
    press('1');
    expect(store.chooseRoute).toHaveBeenCalledWith(expect.anything(), goes);
  });

  it('goes there, too, where the customer must agree to it first', () => {
    showDrop({ obliges: [{ kind: 'consent', words: 'it cannot be returned' }] });
    press('1');
    settle();
    [...element.querySelectorAll<HTMLButtonElement>('button')].find((button) => button.textContent!.includes('Customer has agreed'))!.click();
    expect(store.ask).toHaveBeenCalledWith(expect.anything(), expect.objectContaining({ parts: goes }), true, expect.any(Function));
  });
});

it('takes down what the customer says to a question that is open', () => {
  show(testLine({ asked: { consent: 4, question: 'May we send 30 on Wednesday?', answerBy: '2027-03-08', overdue: true } }));
  expect(element.textContent).toContain('no answer, wanted by Mon 8 Mar');
  [...element.querySelectorAll<HTMLButtonElement>('nock-consent-note button')].find((button) => button.textContent!.includes('Answer yes'))!.click();
  expect(store.answer).toHaveBeenCalledWith(4, { answer: 'accept' });
});

it('offers nothing to do to who may only read', () => {
  maySell.set(false);
  show(testLine(SHORT));
  expect(element.querySelector('[aria-label="Option"]')).toBeNull();
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
