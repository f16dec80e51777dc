import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { Session } from '../access';
import { testGain, testMover } from '../ripple/test-mover';
import { MoverTable } from './mover-table';

let fixture: ComponentFixture<MoverTable>;
let element: HTMLElement;
let toggled: number[];

beforeEach(() => {
  TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Session, useValue: { today: () => '2027-03-09' } }] });
  fixture = TestBed.createComponent(MoverTable);
  element = fixture.nativeElement as HTMLElement;
  document.body.append(element);
  fixture.componentRef.setInput('label', 'Movers');
  toggled = [];
  fixture.componentInstance.toggled.subscribe((line) => toggled.push(line));
});
afterEach(() => element.remove());

const rows = () => [...element.querySelectorAll<HTMLTableRowElement>('tbody tr')];
const press = (row: HTMLElement, key: string) => row.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));

it('lets those that gain be marked with space, and only those', () => {
  fixture.componentRef.setInput('rows', [testGain(), testMover()]);
  fixture.detectChanges();
  for (const row of rows()) press(row, ' ');
  expect(toggled).toEqual([32]);
  expect(element.querySelectorAll('input[type=checkbox]')).toHaveLength(1);
  fixture.componentRef.setInput('markable', false);
  press(rows()[0]!, 'Enter');
  expect(toggled).toEqual([32]);
});

it('goes from row to row by arrow', () => {
  fixture.componentRef.setInput('rows', [testGain(), testMover()]);
  fixture.detectChanges();
  rows()[0]!.focus();
  press(rows()[0]!, 'ArrowDown');
  expect(document.activeElement).toBe(rows()[1]!);
  press(rows()[1]!, 'ArrowUp');
  expect(document.activeElement).toBe(rows()[0]!);
});

it('draws thousands of rows as they are asked for', () => {
  fixture.componentRef.setInput(
    'rows',
    Array.from({ length: 450 }, (_, at) => testMover({ line: at + 1 })),
  );
  fixture.detectChanges();
  expect(rows()).toHaveLength(200);
  const more = [...element.querySelectorAll('button')].find((button) => button.textContent!.includes('250 are not shown'))!;
  more.click();
  fixture.detectChanges();
  expect(rows()).toHaveLength(400);
});
