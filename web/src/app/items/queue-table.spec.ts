import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { QueueRow } from '@nockwright/contract/items';
import { Session } from '../access';
import { QueueTable, type QueueMove } from './queue-table';

const row = (order: number, more: Partial<QueueRow> = {}): QueueRow => ({
  order,
  version: 1,
  number: String(20400 + order),
  line: order * 10,
  lineNo: 1,
  customer: `Customer ${order}`,
  customerId: 7,
  priority: 5,
  placed: false,
  entered: '2027-03-01',
  quantity: '4',
  requested: '2027-03-12',
  promised: [{ day: '2027-03-12', quantity: '4' }],
  waiting: '0',
  daysLate: 0,
  ...more,
});

let fixture: ComponentFixture<QueueTable>;
let element: HTMLElement;
let moves: QueueMove[];

beforeEach(() => {
  TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Session, useValue: { today: () => '2027-03-09', may: () => true } }] });
  fixture = TestBed.createComponent(QueueTable);
  element = fixture.nativeElement as HTMLElement;
  document.body.append(element);
  moves = [];
  fixture.componentInstance.moved.subscribe((move) => moves.push(move));
});
afterEach(() => element.remove());

function show(rows: readonly QueueRow[], movable = true) {
  fixture.componentRef.setInput('rows', rows);
  fixture.componentRef.setInput('movable', movable);
  fixture.detectChanges();
}
const rows = () => [...element.querySelectorAll<HTMLTableRowElement>('tbody tr')];
const press = (target: Element, key: string, more: object = {}) =>
  target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));

it('says whose turn it is, what each was promised, who waits and who is late', () => {
  show([row(1, { placed: true }), row(2, { promised: [], waiting: '4' }), row(3, { daysLate: 1 })]);
  const text = rows().map((each) => each.textContent!.replace(/\s+/g, ' '));
  expect(text[0]).toContain('5, placed');
  expect(text[0]).toContain('4 on Fri 12 Mar');
  expect(text[1]).toContain('4 waiting');
  expect(text[2]).toContain('1 day late');
});

it('asks to be moved up with Alt and the arrow, never above the first, and only by who may', () => {
  show([row(1), row(2)]);
  press(rows()[0]!, 'ArrowUp', { altKey: true });
  press(rows()[1]!, 'ArrowUp', { altKey: true });
  expect(moves.map(({ row: moved, ahead }) => [moved.order, ahead.order])).toEqual([[2, 1]]);
  show([row(1), row(2)], false);
  press(rows()[1]!, 'ArrowUp', { altKey: true });
  expect(moves).toHaveLength(1);
});

it('does not place an order ahead of itself', () => {
  show([row(1), row(1, { line: 11, lineNo: 2 })]);
  press(rows()[1]!, 'ArrowUp', { altKey: true });
  expect(moves).toEqual([]);
});

it('goes from row to row by arrow and tells which has the focus', () => {
  show([row(1), row(2)]);
  rows()[0]!.focus();
  press(rows()[0]!, 'ArrowDown');
  expect(document.activeElement).toBe(rows()[1]!);
  expect(fixture.componentInstance.selected()).toBe(20);
});

it('says so where nobody waits', () => {
  show([]);
  expect(element.textContent).toContain('Nobody has an open order for it here.');
});
