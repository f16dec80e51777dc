import { signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { PriceGloss } from './price-gloss';
import { testLine, testOrder } from './test-order';
import { storeProviders } from './test-store';

type Step = LineView['priceTrail'][number];

const contract = (line: number, more: Partial<Step> = {}, left: string | null = null): Step => ({
  source: `K100${line} line 1`,
  price: '0.5',
  why: 'holds too; another is chosen',
  chosen: false,
  contract: { line, name: `contract ${line}`, holds: true, left, lastDay: '2027-03-12' },
  ...more,
});
const list: Step = { source: 'list', price: '0.6', why: 'K1001 line 1 comes first', chosen: false };
const TRAIL = [
  contract(1, { chosen: true, why: 'the lowest of those that hold' }),
  contract(2, {}, '40'),
  contract(3, { contract: { line: 3, name: 'ended', holds: false, left: null, lastDay: '2027-03-01' } }),
  list,
];

let fixture: ComponentFixture<PriceGloss>;
let element: HTMLElement;
const store = { fault: signal(''), busy: signal(false), setPrice: jest.fn() };
const maySell = signal(true);

beforeEach(() => {
  jest.useFakeTimers();
  maySell.set(true);
  store.fault.set('');
  store.setPrice.mockReset();
  TestBed.configureTestingModule({
    providers: [{ provide: Session, useValue: { today: () => '2027-03-09', maySell } }, ...storeProviders(store)],
  });
  fixture = TestBed.createComponent(PriceGloss);
  element = fixture.nativeElement as HTMLElement;
});
afterEach(() => {
  fixture.destroy();
  jest.useRealTimers();
});

function show(more: Partial<LineView>, order: OrderView = testOrder()) {
  fixture.componentRef.setInput('order', order);
  fixture.componentRef.setInput('line', testLine(more));
  fixture.detectChanges();
}

function press(key: string) {
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  jest.advanceTimersByTime(10);
  fixture.detectChanges();
}

function fill(selector: string, text: string) {
  const field = element.querySelector<HTMLInputElement>(selector)!;
  field.value = text;
  field.dispatchEvent(new Event('input'));
  fixture.detectChanges();
}

const taking = () => [...element.querySelectorAll('li button')].map((button) => button.getAttribute('aria-label'));

it('tells every source with its price, why it won or lost, what is left of it and until when it holds', () => {
  show({ priceTrail: TRAIL });
  const rows = [...element.querySelectorAll('li')].map((row) => row.textContent!.replace(/\s+/g, ' ').trim());
  expect(rows[0]).toContain('0.50 the lowest of those that hold');
  expect(rows[1]).toContain('contract 2, until Fri 12 Mar, 40 each left');
  expect(element.querySelectorAll('.won')).toHaveLength(1);
});

it('offers the contracts that hold and the first list, and takes the one that is chosen', () => {
  show({ priceTrail: TRAIL });
  expect(taking()).toEqual(['Take the price of K1002 line 1', 'Take the price of list']);
  element.querySelectorAll<HTMLButtonElement>('li button')[0]!.click();
  expect(store.setPrice).toHaveBeenLastCalledWith(expect.objectContaining({ id: 11 }), { pin: { kind: 'contract', line: 2 } });
  element.querySelectorAll<HTMLButtonElement>('li button')[1]!.click();
  expect(store.setPrice).toHaveBeenLastCalledWith(expect.anything(), { pin: { kind: 'list' } });
});

it('goes round the contracts that hold by key', () => {
  show({ priceTrail: TRAIL });
  press('t');
  expect(store.setPrice).toHaveBeenLastCalledWith(expect.anything(), { pin: { kind: 'contract', line: 2 } });
  show({ priceTrail: [contract(1), contract(2, { chosen: true }), list] });
  press('t');
  expect(store.setPrice).toHaveBeenLastCalledWith(expect.anything(), { pin: { kind: 'contract', line: 1 } });
});

describe('a price that has changed', () => {
  const offered = {
    parts: [
      { quantity: '40', price: '0.5', source: 'K1001 line 1' },
      { quantity: '60', price: '0.6', source: 'list' },
    ],
    amount: '56.00',
    trail: TRAIL,
  };

  it('stands beside the one agreed and is taken as it was seen', () => {
    show({ offered, price: '0.55', amount: '55.00' });
    const sides = element.querySelector('.sides')!.textContent!.replace(/\s+/g, ' ');
    expect(sides).toContain('agreed 0.55');
    expect(sides).toContain('40 at 0.50');
    expect(sides).toContain('60 at 0.60');
    press('y');
    expect(store.setPrice).toHaveBeenCalledWith(expect.anything(), {
      accept: [
        { quantity: '40', price: '0.5' },
        { quantity: '60', price: '0.6' },
      ],
    });
  });

  it('can be kept as it was agreed, which is a price by hand with a reason', () => {
    show({ offered, price: '0.55' });
    press('k');
    expect(element.querySelector<HTMLInputElement>('#by-hand')!.value).toBe('0.55');
    element.querySelector('form')!.dispatchEvent(new Event('submit'));
    expect(store.setPrice).toHaveBeenCalledWith(expect.anything(), { pin: { kind: 'manual', price: '0.55', reason: 'as agreed' } }, expect.anything());
  });
});

describe('a price by hand', () => {
  it('is refused where it is none or has no reason', () => {
    show({ priceTrail: TRAIL });
    fill('#by-hand', '1,2,3');
    element.querySelector('form')!.dispatchEvent(new Event('submit'));
    expect(store.fault()).toContain('“1,2,3” is no price');
    fill('#by-hand', '0.48');
    element.querySelector('form')!.dispatchEvent(new Event('submit'));
    expect(store.fault()).toContain('Why this price?');
    expect(store.setPrice).not.toHaveBeenCalled();
  });

  it('can be looked up again, and is not carried to another line', () => {
    show({ pin: { kind: 'manual', price: '0.48', reason: 'x' } });
    fill('#by-hand', '0.4');
    element.querySelector<HTMLButtonElement>('.pinned button')!.click();
    expect(store.setPrice).toHaveBeenCalledWith(expect.anything(), { pin: null });
    show({ id: 12 });
    expect(element.querySelector<HTMLInputElement>('#by-hand')!.value).toBe('');
  });
});

it.each<[string, () => void]>([
  ['a released order', () => show({ priceTrail: TRAIL }, testOrder({ state: 'released' }))],
  ['a line that is only looked at', () => show({ id: 0, priceTrail: TRAIL })],
  [
    'who may only read',
    () => {
      maySell.set(false);
      show({ priceTrail: TRAIL });
    },
  ],
])('of %s nothing can be changed', (_, given) => {
  given();
  expect(element.querySelector('button, form')).toBeNull();
  press('t');
  press('y');
  expect(store.setPrice).not.toHaveBeenCalled();
});

it('says what falls to the next source of a line that is typed', () => {
  show({ id: 0, splits: [{ quantity: '6', price: '0.52', source: 'list price' }] });
  expect(element.querySelector('.split')!.textContent!.replace(/\s+/g, ' ')).toContain('6 of it at 0.52, list price: a line of their own');
});
