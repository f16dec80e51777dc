import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, input, model, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { QueueRow } from '@nockwright/contract/items';
import { AmountPipe, DayPipe, CustomerName } from '../paper';

/** An order that shall stand ahead of another. */
export interface QueueMove {
  readonly row: QueueRow;
  readonly ahead: QueueRow;
}

/**
 * Who has their turn for an item, in sequence. A row is moved up by dragging it, or with Alt and the arrow up; nothing
 * is done by that: it asks for the ripple.
 */
@Component({
  selector: 'nock-queue-table',
  imports: [CustomerName, RouterLink, CdkDrag, CdkDropList, AmountPipe, DayPipe],
  template: `
    <table class="ruled" aria-label="Queue">
      <thead>
        <tr>
          <th>Place</th>
          <th>Order</th>
          <th>Customer</th>
          <th>Priority</th>
          <th class="figure">Open</th>
          <th>Requested</th>
          <th>Promised</th>
        </tr>
      </thead>
      <tbody cdkDropList [cdkDropListDisabled]="!movable()" (cdkDropListDropped)="drop($event)">
        @for (row of rows(); track row.line; let index = $index) {
          <tr
            cdkDrag
            cdkDragLockAxis="y"
            tabindex="0"
            [class.marked]="row.line === selected()"
            (focus)="selected.set(row.line)"
            (click)="selected.set(row.line)"
            (keydown)="key($event, index)"
          >
            <td class="quiet">{{ index + 1 }}</td>
            <td>
              <a class="code" [routerLink]="['/orders', row.order]" [queryParams]="{ at: row.line }" tabindex="-1">{{ row.number }}/{{ row.lineNo }}</a>
            </td>
            <td>
              <nock-customer-name [id]="row.customerId" [name]="row.customer" />
            </td>
            <td>{{ row.priority }}{{ row.placed ? ', placed' : '' }}</td>
            <td class="figure">{{ row.quantity | amount }}</td>
            <td>{{ row.requested | day }}</td>
            <td>
              @for (part of row.promised; track part.day) {
                {{ part.quantity | amount }} on {{ part.day | day }}{{ $last ? '' : ', ' }}
              }
              @if (row.waiting !== '0') {
                <b class="open">{{ row.waiting | amount }} waiting</b>
              }
              @if (row.daysLate) {
                <b class="late">{{ row.daysLate }} {{ row.daysLate === 1 ? 'day' : 'days' }} late</b>
              }
            </td>
          </tr>
        } @empty {
          <tr>
            <td colspan="7" class="quiet">Nobody has an open order for it here.</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    .cdk-drag-preview {
      background: var(--paper-raised);
      outline: 1px solid var(--act);
    }
    .cdk-drag-placeholder {
      opacity: 0.3;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class QueueTable {
  readonly rows = input.required<readonly QueueRow[]>();
  readonly movable = input(false);
  readonly selected = model<number | null>(null);
  readonly moved = output<QueueMove>();

  protected key(event: KeyboardEvent, index: number): void {
    const row = event.currentTarget as HTMLElement;
    if (event.target !== row || event.ctrlKey) return;
    if (event.altKey && event.key === 'ArrowUp') this.move(index, index - 1);
    else if (event.key === 'ArrowDown') (row.nextElementSibling as HTMLElement | null)?.focus();
    else if (event.key === 'ArrowUp') (row.previousElementSibling as HTMLElement | null)?.focus();
    else return;
    event.preventDefault();
  }

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    if (currentIndex < previousIndex) this.move(previousIndex, currentIndex);
  }

  private move(from: number, to: number) {
    const [row, ahead] = [this.rows()[from], this.rows()[to]];
    if (this.movable() && row && ahead && row.order !== ahead.order) this.moved.emit({ row, ahead });
  }
}
