import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';
import { ORDER_COLUMNS, type OrderColumn, type OrderTable } from '@nockwright/core/orders';

/** What each column of a pasted table was taken for, with its first cell; to be corrected. */
@Component({
  selector: 'nock-table-columns',
  imports: [MatFormField, MatSelect, MatOption],
  template: `
    <div class="columns" role="group" aria-label="Columns of the table">
      <span class="quiet small">Its columns are</span>
      @for (column of table().columns; track $index) {
        <div>
          <mat-form-field>
            <mat-select [aria-label]="'Column ' + ($index + 1) + ' of the table'" [value]="column" (selectionChange)="take($index, $event.value)">
              @for (kind of kinds; track kind) {
                <mat-option [value]="kind">{{ kind === 'none' ? 'not read' : kind }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
          <span class="quiet small">{{ table().rows[0]?.[$index] }}</span>
        </div>
      }
    </div>
  `,
  styles: `
    .columns {
      display: flex;
      gap: 12px;
      align-items: baseline;
      margin: 6px 0;
      flex-wrap: wrap;
    }
    .columns > div {
      display: grid;
      max-width: 130px;
    }
    .columns div .small {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      padding-left: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TableColumns {
  readonly table = input.required<OrderTable>();
  /** The table with another kind of column. */
  readonly changed = output<OrderTable>();
  protected readonly kinds = ORDER_COLUMNS;

  protected take(at: number, kind: OrderColumn): void {
    const table = this.table();
    this.changed.emit({ ...table, columns: table.columns.map((column, index) => (index === at ? kind : column)) });
  }
}
