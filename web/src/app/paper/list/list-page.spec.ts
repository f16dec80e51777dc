import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import { Keys } from '../keys';
import { ListCell } from './list-cell';
import { chosenColumns, nextSort, readSort, sorted, type ListColumn } from './list-column';
import { ListPage } from './list-page';

interface Row {
  readonly id: number;
  readonly name: string;
  readonly value: number | null;
}

const COLUMNS: readonly ListColumn<Row>[] = [
  { id: 'name', name: 'Name', text: (row) => row.name, sort: (row) => row.name, link: (row) => ['/rows', row.id] },
  { id: 'value', name: 'Value', figure: true, text: (row) => String(row.value ?? ''), sort: (row) => row.value },
  { id: 'wide', name: 'Wide', text: () => 'w', from: 5000 },
  { id: 'extra', name: 'Extra', text: (row) => `x${row.id}`, extra: true },
];
const ROWS: readonly Row[] = [
  { id: 1, name: 'Wether', value: 30 },
  { id: 2, name: 'Abbot', value: null },
  { id: 3, name: 'Orr', value: 4 },
];

@Component({
  imports: [ListCell, ListPage],
  template: `
    <nock-list
      heading="Rows"
      what="test rows"
      label="Rows"
      hint="filter"
      [columns]="columns"
      [rows]="rows"
      [key]="idOf"
      [choosable]="true"
      [(chosen)]="chosen"
      [more]="'Show more'"
      (opened)="opened.push($event.id)"
      (further)="opened.push(0)"
    >
      <button beside>New</button>
      <ng-template nockCell="value" [nockCellOf]="rows" let-row
        ><b>{{ row.value }}!</b></ng-template
      >
    </nock-list>
  `,
})
class Page {
  readonly columns = COLUMNS;
  readonly rows = ROWS;
  readonly idOf = (row: Row) => row.id;
  readonly chosen = signal<ReadonlySet<string | number>>(new Set());
  readonly opened: number[] = [];
}

describe('columns', () => {
  it.each([
    [null, null],
    ['value', { id: 'value', falls: false }],
    ['-value', { id: 'value', falls: true }],
    ['wide', null],
    ['password', null],
  ])('an address that says %s sorts by %j', (text, sort) => expect(readSort(COLUMNS, text)).toEqual(sort));

  it('rises, then falls, then is as it came; what has no value stands last either way', () => {
    const names = (text: string | null) => sorted(ROWS, COLUMNS, readSort(COLUMNS, text)).map((row) => row.name);
    expect([names('value'), names('-value'), names('name'), names(null)]).toEqual([
      ['Orr', 'Wether', 'Abbot'],
      ['Wether', 'Orr', 'Abbot'],
      ['Abbot', 'Orr', 'Wether'],
      ['Wether', 'Abbot', 'Orr'],
    ]);
    expect([nextSort(null, 'name'), nextSort({ id: 'name', falls: false }, 'name'), nextSort({ id: 'name', falls: true }, 'name')]).toEqual([
      'name',
      '-name',
      null,
    ]);
  });

  it('are those the address names, the first always; nothing known: the usual ones', () => {
    const ids = (text: string | null) => chosenColumns(COLUMNS, text).map((column) => column.id);
    expect([ids(null), ids('extra,value'), ids('nothing')]).toEqual([
      ['name', 'value', 'wide'],
      ['name', 'value', 'extra'],
      ['name', 'value', 'wide'],
    ]);
  });
});

describe('a list', () => {
  let harness: RouterTestingHarness;
  let page: Page;
  let element: HTMLElement;

  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [provideRouter([{ path: '**', component: Page }])] });
    harness = await RouterTestingHarness.create();
    page = await harness.navigateByUrl('/rows', Page);
    element = harness.routeNativeElement!;
    harness.detectChanges();
  });

  const settle = async () => {
    await harness.fixture.whenStable();
    harness.detectChanges();
  };
  const heads = () => [...element.querySelectorAll('th')].map((head) => head.textContent!.trim());
  const lines = () => [...element.querySelectorAll<HTMLElement>('tbody tr')];
  const texts = () => lines().map((row) => [...row.querySelectorAll('td:not(.pick)')].map((cell) => cell.textContent!.trim()).join(' '));
  const press = (key: string, on: Element, more: KeyboardEventInit = {}) =>
    on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));

  it('draws its columns, what somebody drew a cell for, its slots; leaves out what there is no room for', () => {
    expect(heads()).toEqual(['Chosen', 'Name', 'Value']);
    expect(texts()).toEqual(['Wether 30!', 'Abbot !', 'Orr 4!']);
    expect(element.querySelector<HTMLAnchorElement>('td a')!.getAttribute('href')).toBe('/rows/1');
    expect(element.querySelector('.list-head')!.textContent).toContain('New');
  });

  it('is sorted by a head, and the address keeps it', async () => {
    const head = () => element.querySelector<HTMLButtonElement>('[aria-label="Sort by Value"]')!;
    head().click();
    await settle();
    expect([TestBed.inject(Router).url, texts()]).toEqual(['/rows?sort=value', ['Orr 4!', 'Wether 30!', 'Abbot !']]);
    expect(head().closest('th')!.getAttribute('aria-sort')).toBe('ascending');
    head().click();
    await settle();
    expect([TestBed.inject(Router).url, texts()[0]]).toEqual(['/rows?sort=-value', 'Wether 30!']);
  });

  it('shows the columns that the address names', async () => {
    await harness.navigateByUrl('/rows?cols=name,extra');
    harness.detectChanges();
    expect([heads(), texts()[0]]).toEqual([['Chosen', 'Name', 'Extra'], 'Wether x1']);
  });

  it('goes from row to row by arrow, chooses by Space and all by Ctrl A, opens by Enter and by a click', () => {
    document.body.append(element);
    lines()[0]!.focus();
    press('ArrowDown', lines()[0]!);
    expect(document.activeElement).toBe(lines()[1]!);
    press(' ', lines()[1]!);
    expect([...page.chosen()]).toEqual([2]);
    press(' ', lines()[1]!);
    expect([...page.chosen()]).toEqual([]);
    press('a', document.body, { ctrlKey: true });
    expect([...page.chosen()]).toEqual([1, 2, 3]);
    press('Enter', lines()[1]!);
    lines()[2]!.click();
    [...element.querySelectorAll('button')].find((button) => button.textContent!.includes('Show more'))!.click();
    expect(page.opened).toEqual([2, 3, 0]);
    expect(
      TestBed.inject(Keys)
        .all()
        .map(({ key }) => key),
    ).toEqual(expect.arrayContaining(['F', 'ArrowDown', 'Ctrl+E', 'Ctrl+A']));
  });

  it('exports what is chosen, or all, in its columns, those too for which there is no room', async () => {
    const written: Blob[] = [];
    URL.createObjectURL = jest.fn((blob: Blob) => (written.push(blob), 'blob:x'));
    URL.revokeObjectURL = jest.fn();
    const link = jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(() => undefined);
    press('e', document.body, { ctrlKey: true });
    page.chosen.set(new Set([3]));
    harness.detectChanges();
    press('e', document.body, { ctrlKey: true });
    const text = async (blob: Blob) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(await read(blob));
    expect(await Promise.all(written.map(text))).toEqual([
      '\ufeffName,Value,Wide\r\nWether,30,w\r\nAbbot,,w\r\nOrr,4,w\r\n',
      '\ufeffName,Value,Wide\r\nOrr,4,w\r\n',
    ]);
    expect((link.mock.contexts[0] as HTMLAnchorElement).download).toBe('test-rows.csv');
    link.mockRestore();
  });
});

/** jsdom has no `arrayBuffer` of a blob. */
function read(blob: Blob): Promise<ArrayBuffer> {
  return new Promise((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as ArrayBuffer);
    reader.readAsArrayBuffer(blob);
  });
}
