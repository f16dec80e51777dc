import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, contentChildren, ElementRef, inject, input, model, output, viewChildren } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatPseudoCheckbox } from '@angular/material/core';
import { MatMenu, MatMenuTrigger } from '@angular/material/menu';
import { ActivatedRoute, RouterLink } from '@angular/router';
import { writeCsv } from '@nockwright/core/formats';
import { map } from 'rxjs';
import { addressWords } from '../address';
import { FilterField } from '../filter-field';
import { Keys } from '../keys';
import { rowKey } from '../row-keys';
import { widthOf } from '../width-of';
import { ListCell } from './list-cell';
import { chosenColumns, nextSort, readSort, sorted, type ListColumn } from './list-column';

type Key = string | number;

/**
 * A list of anything, from its columns: heads that sort, columns that are chosen and give way where it is narrow, a filter,
 * rows that the keys go through, several of them chosen, an export. The address keeps filter, sort and columns. What differs
 * from list to list stands in its slots: `which` beside the filter, `beside` at the end of the head, `below` under it.
 */
@Component({
  selector: 'nock-list',
  imports: [NgTemplateOutlet, RouterLink, MatButton, MatCheckbox, MatMenu, MatMenuTrigger, MatPseudoCheckbox, FilterField],
  templateUrl: './list-page.html',
  styleUrl: './list-page.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ListPage<R> {
  protected readonly go = addressWords();
  readonly heading = input.required<string>();
  /** What is listed: `purchase orders`. */
  readonly what = input.required<string>();
  readonly label = input.required<string>();
  /** What it is filtered by; empty: there is no filter. */
  readonly hint = input('');
  readonly q = input<string>();
  readonly columns = input.required<readonly ListColumn<R>[]>();
  readonly rows = input.required<readonly R[]>();
  readonly key = input.required<(row: R) => Key>();
  /** What stands there without rows. */
  readonly none = input('');
  /** A click on a row explains it in the gloss; it is opened by Enter. */
  readonly explains = input(false);
  /** The row that the gloss explains. */
  readonly current = input<Key | null>(null);
  /** Whether all rows there are have been fetched: only then are they sorted here. */
  readonly whole = input(true);
  /** The button under the list that fetches more; empty: none. */
  readonly more = input('');
  readonly choosable = input(false);
  readonly chosen = model<ReadonlySet<Key>>(new Set());
  readonly opened = output<R>();
  readonly looked = output<R>();
  readonly further = output<void>();

  private readonly cells = contentChildren<ListCell<R>>(ListCell);
  private readonly lines = viewChildren<string, ElementRef<HTMLElement>>('line', { read: ElementRef });
  private readonly width = widthOf(1240);
  private readonly words = toSignal(inject(ActivatedRoute).queryParamMap.pipe(map((words) => ({ sort: words.get('sort'), cols: words.get('cols') }))), {
    initialValue: { sort: null, cols: null },
  });
  protected readonly templates = computed(() => new Map(this.cells().map((cell) => [cell.column(), cell.template])));
  protected readonly wanted = computed(() => chosenColumns(this.columns(), this.words().cols));
  protected readonly shown = computed(() => this.wanted().filter((column) => this.width() >= (column.from ?? 0)));
  protected readonly sort = computed(() => (this.whole() ? readSort(this.columns(), this.words().sort) : null));
  protected readonly ordered = computed(() => sorted(this.rows(), this.columns(), this.sort()));
  /** What is exported: the chosen rows, or all that are listed. */
  protected readonly exported = computed(() => {
    const chosen = this.ordered().filter((row) => this.chosen().has(this.key()(row)));
    return chosen.length > 0 ? chosen : this.ordered();
  });

  constructor() {
    inject(Keys).use([
      { key: 'ArrowDown', does: 'to the list', run: () => this.focusFirst() },
      { key: 'Ctrl+E', does: 'export the list', run: () => this.exportRows() },
      { key: 'Ctrl+A', does: 'choose all that are listed', run: () => this.chooseAll() },
    ]);
  }

  protected focusFirst(): boolean {
    const marked = this.ordered().findIndex((row) => this.key()(row) === this.current());
    const line = this.lines()[Math.max(0, marked)];
    line?.nativeElement.focus();
    return line !== undefined;
  }

  protected sortBy(id: string): void {
    this.go({ sort: nextSort(this.sort(), id) });
  }

  protected turnColumn(column: ListColumn<R>, shown: boolean): void {
    const cols = this.columns().filter((one) => (one === column ? shown : this.wanted().includes(one)));
    const usual = this.columns().filter((one) => !one.extra);
    this.go({ cols: cols.length === usual.length && cols.every((one) => !one.extra) ? null : cols.map((one) => one.id).join(',') });
  }

  /** The menu would take letters and Tab for itself; Escape is still its own. */
  protected keep(event: KeyboardEvent): void {
    if (event.key !== 'Escape') event.stopPropagation();
  }

  protected press(row: R): void {
    if (this.explains()) this.looked.emit(row);
    else this.opened.emit(row);
  }

  protected handle(event: KeyboardEvent, row: R): void {
    if (event.key === ' ' && event.target === event.currentTarget && this.choosable()) {
      event.preventDefault();
      this.turn(row);
    } else rowKey(event, () => this.opened.emit(row));
  }

  protected turn(row: R): void {
    const [key, chosen] = [this.key()(row), this.chosen()];
    this.chosen.set(new Set(chosen.has(key) ? [...chosen].filter((one) => one !== key) : [...chosen, key]));
  }

  private chooseAll(): boolean {
    const field = document.activeElement;
    if (!this.choosable() || (field instanceof HTMLInputElement && field.value !== '')) return false;
    this.chosen.set(new Set(this.rows().map((row) => this.key()(row))));
    return true;
  }

  /** Writes what is listed as a CSV file, in the columns that are wanted, whether they fit or not. */
  protected exportRows(): boolean {
    const columns = this.wanted();
    if (this.exported().length === 0) return false;
    const text = writeCsv([columns.map((column) => column.name), ...this.exported().map((row) => columns.map((column) => column.text(row)))]);
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([`\ufeff${text}`], { type: 'text/csv;charset=utf-8' }));
    link.download = `${this.what().replaceAll(/\W+/g, '-')}.csv`;
    link.click();
    URL.revokeObjectURL(link.href);
    return true;
  }
}
