import { signal } from '@angular/core';
import type { OrderView } from '@nockwright/contract/orders';
import { show } from '../test-screen';
import { OrderActs } from './order-acts';
import { OrderStore } from './order-store';
import { testLine, testOrder } from './test-order';

const busy = signal(false);
const paper = { id: 8, kind: 'quote' } as never;

function acts(order: Partial<OrderView>, more: object = {}) {
  const screen = show(OrderActs, { order: testOrder(order), ...more }, [{ provide: OrderStore, useValue: { busy } }]);
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
  expect(acts({}).words).toEqual(['Release Ctrl Enter', 'Discard the draft']);
});

it('says send of a quote', () => {
  expect(acts({ kind: 'quote' }).words[0]).toBe('Send the quote Ctrl Enter');
});

it('offers a quote that was sent to be taken, revised or lost', () => {
  const { words, screen, done } = acts({ kind: 'quote', state: 'quoted', papers: [paper] });
  expect(words).toEqual(['They take it Ctrl Enter', 'The paper A', 'Mail it W', 'Revise V', 'It is lost X']);
  expect(screen.element.querySelector('a')!.getAttribute('href')).toBe('/api/papers/8');
  for (const button of ['They take it', 'Mail it', 'Revise', 'It is lost']) screen.click(button);
  expect(done).toEqual(['accept', 'mail', 'revise', 'lose']);
});

it('offers a lost quote only to be revised, an accepted one nothing', () => {
  expect(acts({ kind: 'quote', state: 'lost' }).words).toEqual(['Revise V']);
});

it('lets a released order be promised further, moved, raised and cancelled while something of it is open', () => {
  const { screen, done, words } = acts({ state: 'released', number: '20401' }, { line: testLine({ lineNo: 2 }), open: true, mayPromise: true });
  expect(words[0]).toBe('Promise what is possible Ctrl Enter');
  for (const button of ['Promise', 'Move it up', 'More of line 2', 'Cancel line 2', 'Cancel the order']) screen.click(button);
  expect(done).toEqual(['promise', 'turn', 'raise', 'line', 'order']);
});

it('sends a released order with nothing to promise to shipping, and one that has left nowhere', () => {
  expect(acts({ state: 'released', number: '20401' }, { open: true }).words[0]).toBe('To shipping Ctrl Enter');
  expect(acts({ state: 'released', number: '20401' }).words).toEqual(['Acknowledgement A', 'Mail it W']);
});

it('waits for what is under way', () => {
  busy.set(true);
  expect(acts({}).screen.button('Release').disabled).toBe(true);
});
