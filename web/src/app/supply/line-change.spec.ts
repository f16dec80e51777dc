import { signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { of } from 'rxjs';
import { Session } from '../access';
import { Preview } from '../ripple';
import { testMover } from '../ripple/test-mover';
import { LineChange } from './line-change';
import { PurchaseStore } from './purchase-store';
import { ReceiptEffect, type Came } from './receipt-effect';
import { testPurchaseLine } from './test-purchase-line';

const line = testPurchaseLine();
const hurt = { availableDay: '2027-03-31', ripple: { later: [testMover()], earlier: [], offers: [] } };
const harmless = { availableDay: '2027-03-12', ripple: { later: [], earlier: [], offers: [] } };
const seen = [{ line: 31, after: [{ day: '2027-03-16', quantity: '2' }] }];
const store = {
  fault: signal(''),
  busy: signal(false),
  purchase: signal({ version: 3 }),
  previewReschedule: jest.fn(),
  previewClose: jest.fn(),
  reschedule: jest.fn((_l: number, _c: unknown, done: () => void) => done()),
  closeLine: jest.fn((_l: number, _n: string, _d: unknown, done: () => void) => done()),
};
let element: HTMLElement;

beforeEach(() => {
  jest.useFakeTimers();
  jest.clearAllMocks();
  store.fault.set('');
  for (const preview of [store.previewReschedule, store.previewClose]) preview.mockReturnValue(of(hurt));
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      { provide: PurchaseStore, useValue: store },
      { provide: Session, useValue: { today: () => '2027-03-09', currency: () => 'EUR' } },
    ],
  });
});
afterEach(() => jest.useRealTimers());

function settle(fixture: ComponentFixture<unknown>) {
  fixture.detectChanges();
  TestBed.tick();
  jest.advanceTimersByTime(200);
  fixture.detectChanges();
}
function open(kind: 'reschedule' | 'close', more: Partial<typeof line> = {}) {
  const fixture = TestBed.createComponent(LineChange);
  fixture.componentRef.setInput('line', { ...line, ...more });
  fixture.componentRef.setInput('kind', kind);
  element = fixture.nativeElement as HTMLElement;
  settle(fixture);
  const fill = (id: string, value: string) => {
    const field = element.querySelector<HTMLInputElement>(`#${id}`)!;
    field.value = value;
    field.dispatchEvent(new Event('input'));
    settle(fixture);
  };
  const closed = jest.fn();
  fixture.componentInstance.closed.subscribe(closed);
  return { fill, closed, fixture };
}
const button = (words: string) => [...element.querySelectorAll('button')].find((each) => each.textContent!.includes(words));

describe('another quantity of a purchase line', () => {
  it('is looked at before it is recorded, and moves the promises as they were seen', () => {
    const { fill, closed } = open('reschedule');
    expect(store.previewReschedule).not.toHaveBeenCalled();
    fill('new-open', '60');
    expect(store.previewReschedule).toHaveBeenLastCalledWith(71, { day: '2027-03-15', open: '60' }, []);
    expect(element.textContent).toContain('Pipistrelle Farm Shop');
    button('Save, move 1 promise')!.click();
    expect(store.reschedule.mock.calls[0]!.slice(0, 2)).toEqual([71, { open: '60', decision: { seen, accept: [] } }]);
    expect(closed).toHaveBeenCalledTimes(1);
  });

  it('can be recorded only, with why: then promises stand as told', () => {
    const { fill } = open('reschedule');
    fill('new-open', '60');
    fill('why', ' furnace repair ');
    button('Save only')!.click();
    expect(store.reschedule.mock.calls[0]!.slice(0, 2)).toEqual([71, { open: '60', note: 'furnace repair' }]);
  });

  it('has no second way where nobody is hurt', () => {
    store.previewReschedule.mockReturnValue(of(harmless));
    const { fill } = open('reschedule');
    fill('new-open', '120');
    expect(button('Save only')).toBeUndefined();
    expect(button('Save')).toBeDefined();
  });

  it('of a drop shipment that was recorded late is settled as it is: the customer was told another day', () => {
    open('reschedule', { toldDay: '2027-03-12' });
    expect(store.previewReschedule).toHaveBeenLastCalledWith(71, { day: '2027-03-15', open: '100' }, []);
    button('Save, move 1 promise')!.click();
    expect(store.reschedule.mock.calls[0]!.slice(0, 2)).toEqual([71, { expectedDay: '2027-03-15', decision: { seen, accept: [] } }]);
  });

  it('is recorded, and leads to the board with just the lines it hurts', () => {
    const { fill } = open('reschedule');
    const go = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    fill('new-open', '60');
    button('Save and route the shortages')!.click();
    expect(store.reschedule.mock.calls[0]!.slice(0, 2)).toEqual([71, { open: '60' }]);
    expect(go).toHaveBeenCalledWith(['/shortages'], { queryParams: { lines: '31' } });
  });

  it('is refused where it is no quantity, or nothing is different', () => {
    const { fill, fixture } = open('reschedule');
    button('Save')!.click();
    settle(fixture);
    expect(element.textContent).toContain('Nothing is different yet');
    fill('new-open', 'some');
    expect(element.querySelector('[role=alert]')!.textContent).toContain('expected a quantity');
    button('Save')!.click();
    expect(store.reschedule).not.toHaveBeenCalled();
  });
});

it('the end of what is awaited needs a reason, and can leave the promises that lose it waiting', () => {
  const { fill, fixture } = open('close');
  button('move 1 promise')!.click();
  settle(fixture);
  expect(element.textContent).toContain('Why? The history keeps it.');
  fill('why', 'discontinued');
  button('Close only')!.click();
  expect(store.closeLine.mock.calls[0]!.slice(0, 3)).toEqual([71, 'discontinued', undefined]);
});

describe('a receipt that is not as awaited', () => {
  function receipt(lines: readonly Came[]) {
    const preview = TestBed.runInInjectionContext(() => new Preview(signal(lines), () => of(hurt)));
    const fixture = TestBed.createComponent(ReceiptEffect);
    for (const [name, value] of Object.entries({ lines, preview })) fixture.componentRef.setInput(name, value);
    element = fixture.nativeElement as HTMLElement;
    settle(fixture);
    return fixture;
  }
  const over: Came = { line: 72, item: 'LID', quantity: '45', open: '40' };

  it('is told line by line, short and over, with whom it moves', () => {
    const fixture = receipt([{ line: 71, item: 'JAR-340-HX', quantity: '80', open: '100' }, over]);
    expect(element.textContent).toContain('JAR-340-HX: 80 of 100, 20 short');
    expect(element.textContent).toContain('LID: 45 of 40, 5 over');
    expect(element.textContent).toContain('Pipistrelle Farm Shop');
    element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    expect(fixture.componentInstance.closeRest()).toBe(true);
  });

  it('asks for no end of what came in full', () => {
    receipt([over]);
    expect(element.querySelector('mat-checkbox')).toBeNull();
  });
});
