import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatMenu, MatMenuTrigger } from '@angular/material/menu';
import { orderRoutes, type SavedView } from '@nockwright/contract/orders';
import { Api } from '../../api';
import { LineForm } from '../../paper';
import { COLUMNS, type ColumnId } from './order-columns';

/** The columns of the list, and the views of it that somebody keeps under a name. */
@Component({
  selector: 'nock-list-views',
  imports: [LineForm, MatButton, MatCheckbox, MatMenu, MatMenuTrigger],
  template: `
    <button mat-button type="button" [matMenuTriggerFor]="menu">View{{ named() ? ': ' + named()!.name : '' }}</button>
    <mat-menu #menu="matMenu" class="view-menu">
      <div class="view-panel" (click)="$event.stopPropagation()" (keydown)="keep($event)" role="group" aria-label="View of the list">
        @if (views().length > 0) {
          <h3>Kept views</h3>
          @for (view of views(); track view.id) {
            <p>
              <button mat-button type="button" (click)="taken.emit(view.query)" [attr.aria-current]="view === named()">{{ view.name }}</button>
              <button mat-button type="button" class="forget" (click)="forget(view)" [attr.aria-label]="'Forget ' + view.name">Forget</button>
            </p>
          }
        }
        <nock-line-form fieldId="view-name" label="Keep this view as" act="Keep" [most]="40" [(text)]="name" (said)="save($event)" />
        <h3>Columns</h3>
        @for (column of columns; track column.id) {
          @if (column.id !== 'order') {
            <mat-checkbox [checked]="shown().includes(column.id)" (change)="turn(column.id, $event.checked)">{{ column.name }}</mat-checkbox>
          }
        }
        @if (fault()) {
          <p class="fault" role="alert">{{ fault() }}</p>
        }
      </div>
    </mat-menu>
  `,
  styles: `
    .view-panel {
      padding: 8px 16px;
    }
    p {
      display: flex;
      justify-content: space-between;
      margin: 0;
    }
    .forget {
      color: var(--ink-quiet);
    }
    mat-checkbox {
      display: block;
    }
    .fault {
      color: var(--open);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ListViews {
  private readonly api = inject(Api);
  /** The list as it stands in the address. */
  readonly query = input.required<string>();
  readonly shown = input.required<readonly ColumnId[]>();
  readonly taken = output<string>();
  readonly changed = output<readonly ColumnId[]>();
  protected readonly columns = COLUMNS;
  protected readonly views = signal<readonly SavedView[]>([]);
  protected readonly name = signal('');
  protected readonly fault = signal('');
  protected readonly named = computed(() => this.views().find((view) => view.query === this.query()));

  constructor() {
    this.api.call(orderRoutes.listViews).subscribe({ next: (views) => this.views.set(views), error: (error: Error) => this.fault.set(error.message) });
  }

  protected turn(id: ColumnId, shown: boolean): void {
    const wanted = new Set(this.shown());
    if (shown) wanted.add(id);
    else wanted.delete(id);
    this.changed.emit(COLUMNS.map((column) => column.id).filter((column) => wanted.has(column)));
  }

  protected save(name: string): void {
    if (name === '') return;
    this.api.call(orderRoutes.saveView, { body: { name, query: this.query() } }).subscribe(this.kept(() => this.name.set('')));
  }

  protected forget(view: SavedView): void {
    this.api.call(orderRoutes.removeView, { params: { view: view.id } }).subscribe(this.kept());
  }

  /** The menu would take letters and Tab for itself; Escape is still its own. */
  protected keep(event: KeyboardEvent): void {
    if (event.key !== 'Escape') event.stopPropagation();
  }

  private kept(done?: () => void) {
    return {
      next: (views: readonly SavedView[]) => {
        this.views.set(views);
        this.fault.set('');
        done?.();
      },
      error: (error: Error) => this.fault.set(error.message),
    };
  }
}
