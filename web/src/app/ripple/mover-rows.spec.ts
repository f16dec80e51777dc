import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Mover } from '@nockwright/contract/promise';
import { Session } from '../access';
import { MoverRows } from './mover-rows';
import { testGain, testMover } from './test-mover';

let fixture: ComponentFixture<MoverRows>;
let element: HTMLElement;
let toggled: number[];

beforeEach(() => {
  TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Session, useValue: { today: () => '2027-03-09', currency: () => 'EUR' } }] });
  fixture = TestBed.createComponent(MoverRows);
  element = fixture.nativeElement as HTMLElement;
  document.body.append(element);
  fixture.componentRef.setInput('label', 'Movers');
  toggled = [];
  fixture.componentInstance.toggled.subscribe((line) => toggled.push(line));
});
afterEach(() => element.remove());

function show(movers: readonly Mover[], choosable: readonly number[] = []) {
  fixture.componentRef.setInput('groups', [{ heading: null, movers }]);
  fixture.componentRef.setInput('choosable', choosable);
  fixture.detectChanges();
}
const rows = () => [...element.querySelectorAll<HTMLTableRowElement>('tbody tr')];
const press = (row: HTMLElement, key: string) => row.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));

it('lets those that can be chosen be chosen with space, and only those', () => {
  show([testGain(), testMover()], [32]);
  for (const row of rows()) press(row, ' ');
  expect(toggled).toEqual([32]);
  expect(element.querySelectorAll('input[type=checkbox]')).toHaveLength(1);
  fixture.componentRef.setInput('choosable', []);
  press(rows()[0]!, 'Enter');
  expect(toggled).toEqual([32]);
});

it('goes from row to row by arrow', () => {
  show([testGain(), testMover()], [32]);
  rows()[0]!.focus();
  press(rows()[0]!, 'ArrowDown');
  expect(document.activeElement).toBe(rows()[1]!);
  press(rows()[1]!, 'ArrowUp');
  expect(document.activeElement).toBe(rows()[0]!);
});

it('draws thousands of rows as they are asked for', () => {
  show(Array.from({ length: 450 }, (_, at) => testMover({ line: at + 1 })));
  expect(rows()).toHaveLength(200);
  const more = [...element.querySelectorAll('button')].find((button) => button.textContent!.includes('250 are not shown'))!;
  more.click();
  fixture.detectChanges();
  expect(rows()).toHaveLength(400);
});
