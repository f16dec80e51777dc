import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { show } from '../test-screen';
import { Places } from '../supply';
import { LineDetails } from './line-details';
import { testLine, testOrder } from './test-order';
import { Unsaved } from './typed/unsaved';
import { storeProviders } from './test-store';

const store = { changeLine: jest.fn(), collisions: signal([]), order: signal(null), busy: signal(false) };
const places = { warehouses: signal([{ code: 'MAR', name: 'Marrowby' }]) };
const lines = [testLine({ id: 1, lineNo: 1 }), testLine({ id: 2, lineNo: 2 }), testLine({ id: 3, lineNo: 3 })];

function details(line = lines[2]!, kind: 'order' | 'quote' = 'quote') {
  const screen = show(LineDetails, { order: testOrder({ kind, lines }), line }, [...storeProviders(store), { provide: Places, useValue: places }, Unsaved]);
  TestBed.inject(Unsaved).open(5);
  return screen;
}

beforeEach(() => {
  jest.useFakeTimers();
  store.changeLine.mockReset();
  store.busy.set(false);
  localStorage.clear();
});
afterEach(() => jest.useRealTimers());

const lastChange = () => store.changeLine.mock.calls.at(-1)?.[1] as unknown;

it('keeps the text of a line when it is left, and only where it is another', () => {
  const screen = details();
  screen.type('Text', '  for the spring fair ');
  screen.field('Text').dispatchEvent(new Event('change'));
  expect(lastChange()).toEqual({ note: 'for the spring fair' });
  // Somebody else saves the line meanwhile: what is typed stays.
  screen.set('line', { ...lines[2], quantity: '7' });
  expect(screen.field('Text').value).toBe('  for the spring fair ');
  screen.set('line', { ...lines[2], note: 'for the spring fair' });
  expect(screen.field('Text').value).toBe('for the spring fair');
  screen.set('line', lines[2]);
  store.changeLine.mockReset();
  screen.type('Text', ' ');
  screen.field('Text').dispatchEvent(new Event('change'));
  expect(store.changeLine).not.toHaveBeenCalled();
});

it('sends a text once, though Enter saves it and leaving the field would; again where it was not taken', () => {
  const screen = details();
  screen.type('Text', 'blue handles');
  screen.press('Enter', screen.field('Text'));
  store.busy.set(true);
  screen.field('Text').dispatchEvent(new Event('change'));
  expect(store.changeLine).toHaveBeenCalledTimes(1);
  // The desk did not answer: what is typed is still to be saved.
  store.busy.set(false);
  screen.press('Enter', screen.field('Text'));
  expect(store.changeLine).toHaveBeenCalledTimes(2);
  screen.type('Text', 'green handles');
  screen.press('Enter', screen.field('Text'));
  expect(store.changeLine).toHaveBeenCalledTimes(3);
});

it('goes to the text by key', () => {
  const screen = details();
  screen.press('e');
  expect(document.activeElement).toBe(screen.field('Text'));
});

it.each([
  ['a line in the total', {}, { alternative: true, alternativeTo: 2 }],
  ['one instead of another', { alternative: true, alternativeTo: 2 }, { alternative: true, alternativeTo: null }],
  ['an extra', { alternative: true, alternativeTo: null }, { alternative: false }],
])('turns %s by key into what comes next', (_, line, change) => {
  details(testLine({ id: 3, lineNo: 3, ...line })).press('i');
  expect(lastChange()).toEqual(change);
});

it('has no alternatives on an order', () => {
  const screen = details(lines[2], 'order');
  screen.press('i');
  expect(store.changeLine).not.toHaveBeenCalled();
  expect(screen.text).not.toContain('Offered');
});

it('offers another address only where the customer has one', () => {
  expect(details().text).not.toContain('To ');
});
