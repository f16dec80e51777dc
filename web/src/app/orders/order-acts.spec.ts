import { signal } from '@angular/core';
import type { OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { show } from '../test-screen';
import { OrderActs } from './order-acts';
import { OrderStore } from './order-store';
import { testLine, testOrder } from './test-order';

const TODAY = '2027-03-09';
const busy = signal(false);
const paper = { id: 8, kind: 'quote' } as never;

function acts(order: Partial<OrderView>, more: object = {}) {
  const screen = show(OrderActs, { order: testOrder(order), ...more }, [
    { provide: OrderStore, useValue: { busy } },
    { provide: Session, useValue: { today: () => TODAY } },
  ]);
  const done: string[] = [];
  screen.fixture.componentInstance.act.subscribe((act) => done.push(act));
  return { screen, done, words: [...screen.element.querySelectorAll('button, a')].map((one) => one.textContent.trim().replace(/\s+/g, ' ')) };
}

beforeEach(() => {
  jest.useFakeTimers();
  busy.set(false);
});
afterEach(() => jest.useRealTimers());

it('offers for each state what can be done in it, the main act first', () => {
  expect(acts({}).words).toEqual(['Release Ctrl Enter', 'Discard draft']);
});

it('says send of a quote', () => {
  expect(acts({ kind: 'quote' }).words[0]).toBe('Send quote Ctrl Enter');
});

it('offers a quote that was sent to be taken, revised or lost', () => {
  const { words, screen, done } = acts({ kind: 'quote', state: 'quoted', papers: [paper] });
  expect(words).toEqual(['Accept quote Ctrl Enter', 'Open quote A', 'Mail quote W', 'Revise quote V', 'Mark as lost X']);
  expect(screen.element.querySelector('a')!.getAttribute('href')).toBe('/api/papers/8');
  for (const button of ['Accept quote', 'Mail quote', 'Revise', 'Mark as lost']) screen.click(button);
  expect(done).toEqual(['accept', 'mail', 'revise', 'lose']);
});

it('offers a lost quote only to be revised, an accepted one nothing', () => {
  expect(acts({ kind: 'quote', state: 'lost' }).words).toEqual(['Revise quote V']);
});

it('lets a released order be promised further, moved, raised and cancelled while something of it is open', () => {
  const { screen, done, words } = acts({ state: 'released', number: '20401' }, { line: testLine({ lineNo: 2 }), open: true, mayPromise: true });
  expect(words[0]).toBe('Promise what is available Ctrl Enter');
  for (const button of ['Promise', 'Change priority', 'Increase line 2', 'Cancel line 2']) screen.click(button);
  expect(done).toEqual(['promise', 'turn', 'raise', 'line']);
});

describe('what comes next with a released order', () => {
  const entry = { day: TODAY, quantity: '10', kept: true, dropShip: false, arrives: null, broken: false, holds: 100, safeDay: null, from: [] };
  const released = (line: object) => acts({ state: 'released', number: '20401', lines: [testLine({ schedule: [], ...line })] }, { open: true });
  const first = (line: object) => released(line).screen.text.trim().replace(/\s+/g, ' ');
  const bought = { id: 1, kind: 'special_order' as const, from: 'Tarnbeck', quantity: '10', day: null, unitCost: null };
  const draft = { ...bought, document: { kind: 'purchase' as const, id: 9, number: 'P7627', state: 'draft' } };

  it('is shipping where goods can leave today', () => {
    expect(first({ schedule: [entry] })).toMatch(/^To shipping/);
    expect(first({ schedule: [entry], routes: [draft] })).toMatch(/^To shipping/);
  });

  it('is sending the draft purchase that it waits for', () => {
    expect(first({ schedule: [{ ...entry, day: '2027-03-18' }], routes: [draft] })).toMatch(/^Send P7627/);
  });

  it('is nothing but waiting where its day is to come, or no day is known', () => {
    expect(first({ schedule: [{ ...entry, day: '2027-03-18' }] })).toMatch(/^Ships from Thu 18 Mar/);
    expect(first({ schedule: [{ ...entry, broken: true }] })).toMatch(/^Waits for supply/);
  });

  it('has the rest under More, and of one that has shipped nothing to ship', () => {
    const { screen } = released({ schedule: [entry] });
    screen.click('More');
    expect([...document.querySelectorAll('[mat-menu-item]')].map((item) => item.textContent!.trim().replace(/\s+/g, ' '))).toEqual([
      'Open acknowledgement A',
      'Mail acknowledgement W',
      'To shipping',
      'Cancel order 20401',
    ]);
    expect(acts({ state: 'released', number: '20401' }).words).toEqual(['More']);
  });
});

it('waits for what is under way', () => {
  busy.set(true);
  expect(acts({}).screen.button('Release').disabled).toBe(true);
});
