import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { RouterLink } from '@angular/router';
import type { Mover } from '@nockwright/contract/promise';
import { AmountPipe, DayPipe } from '../paper';
import { isGain, moveInWords, toneOf } from '../ripple';

const AT_ONCE = 200;

/** Lines whose promise moves, or could; those that gain can be marked. Arrow keys go from row to row, space marks one. */
@Component({
  selector: 'nock-mover-table',
  imports: [RouterLink, MatButton, MatCheckbox, AmountPipe, DayPipe],
  template: `
    <table class="ruled" [attr.aria-label]="label()">
      <thead>
        <tr>
          <th></th>
          <th>Order</th>
          <th>Customer</th>
          <th>Item</th>
          <th>Moves</th>
          <th class="figure">Value</th>
        </tr>
      </thead>
      <tbody>
        @for (row of shown(); track row.line) {
          <tr tabindex="0" [class.marked]="isMarked(row)" (keydown)="key($event, row)">
            <td>
              @if (gains(row)) {
                <mat-checkbox
                  tabindex="-1"
                  [checked]="isMarked(row)"
                  [disabled]="!markable()"
                  (change)="toggled.emit(row.line)"
                  [aria-label]="'Take ' + row.number + '/' + row.lineNo"
                />
              }
            </td>
            <td>
              <a class="code" [routerLink]="['/orders', row.order]" [queryParams]="{ at: row.line }" tabindex="-1">{{ row.number }}/{{ row.lineNo }}</a>
            </td>
            <td>{{ row.customer }}</td>
            <td class="code">{{ row.item }}</td>
            <td>
              @for (part of row.moves; track $index) {
                <div>
                  <span class="figure">{{ part.quantity | amount }}</span>: {{ part.from ? (part.from | day) : 'waiting' }} →
                  <b [class]="tone(part)">{{ part.to ? (part.to | day) : 'waiting' }}, {{ move(part) }}</b>
                </div>
              }
            </td>
            <td class="figure">{{ row.value | amount }}</td>
          </tr>
        }
      </tbody>
    </table>
    @if (shown().length < rows().length) {
      <button mat-button type="button" (click)="limit.set(limit() + more)">Show more: {{ rows().length - shown().length }} are not shown</button>
    }
  `,
  styles: `
    td:first-child {
      width: 34px;
      padding: 0;
    }
    .good {
      color: var(--covered);
    }
    .late {
      color: var(--late);
    }
    .open {
      color: var(--open);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoverTable {
  readonly rows = input.required<readonly Mover[]>();
  readonly label = input.required<string>();
  /** The lines that are marked. */
  readonly marked = input<readonly number[]>([]);
  readonly markable = input(true);
  readonly toggled = output<number>();

  protected readonly more = AT_ONCE;
  /** Thousands of rows are drawn as they are asked for. */
  protected readonly limit = linkedSignal({ source: () => this.rows().length, computation: () => AT_ONCE });
  protected readonly shown = computed(() => this.rows().slice(0, this.limit()));
  private readonly marks = computed(() => new Set(this.marked()));
  protected readonly gains = isGain;
  protected readonly move = moveInWords;
  protected readonly tone = toneOf;

  protected isMarked(row: Mover): boolean {
    return this.marks().has(row.line);
  }

  protected key(event: KeyboardEvent, row: Mover): void {
    const element = event.currentTarget as HTMLElement;
    if (event.target !== element || event.ctrlKey) return;
    if (event.key === ' ' || event.key === 'Enter') {
      if (this.markable() && isGain(row)) this.toggled.emit(row.line);
    } else if (event.key === 'ArrowDown') (element.nextElementSibling as HTMLElement | null)?.focus();
    else if (event.key === 'ArrowUp') (element.previousElementSibling as HTMLElement | null)?.focus();
    else return;
    event.preventDefault();
  }
}
