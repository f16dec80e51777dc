import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatPseudoCheckbox } from '@angular/material/core';
import { RouterLink } from '@angular/router';
import type { OrderRow } from '@nockwright/contract/orders';
import { AmountPipe, DayPipe, StateMark, type CoverState, CustomerName } from '../../paper';
import { RulerRow, type RulerScale } from '../../ruler';
import type { Column } from './order-columns';

/** Nothing of it is still to come. */
const DONE = new Set(['shipped', 'billed', 'cancelled']);

/** Whether something of an order is still to come. */
export function isOngoing(row: OrderRow): boolean {
  return !DONE.has(row.progress);
}

/** The cells of an order in the list, those of the columns that are shown. */
@Component({
  selector: 'tr[nock-order-row]',
  imports: [CustomerName, RouterLink, MatPseudoCheckbox, AmountPipe, DayPipe, StateMark, RulerRow],
  template: `
    @let order = row();
    <td class="mark" (click)="$event.stopPropagation(); turned.emit()">
      <mat-pseudo-checkbox [state]="chosen() ? 'checked' : 'unchecked'" />
    </td>
    @for (column of shown(); track column.id) {
      @switch (column.id) {
        @case ('order') {
          <td>
            <a class="code" [routerLink]="['/orders', order.id]" tabindex="-1">{{ order.number ?? (order.kind === 'quote' ? 'quote' : 'draft') }}</a>
          </td>
        }
        @case ('customer') {
          <td class="customer">
            <nock-customer-name [id]="order.customerId" [name]="order.customer" />&ngsp;<span class="quiet small">{{ order.town }}</span>
          </td>
        }
        @case ('their') {
          <td class="small">{{ order.poNumber }}</td>
        }
        @case ('source') {
          <td>{{ order.source }}</td>
        }
        @case ('entered') {
          <td>{{ order.entered | day }}</td>
        }
        @case ('from') {
          <td class="code">{{ order.warehouse }}</td>
        }
        @case ('lines') {
          <td class="figure">{{ order.lines }}</td>
        }
        @case ('net') {
          <td class="figure">{{ order.amount | amount }}</td>
        }
        @case ('asked') {
          <td>{{ order.requestedDay | day }}</td>
        }
        @case ('promised') {
          <td>
            @if (realDay(); as day) {
              {{ day | day }}
            }
          </td>
        }
        @case ('valid') {
          <td>
            @if (order.validUntil) {
              {{ order.validUntil | day }}
            }
          </td>
        }
        @case ('days') {
          <td class="ruler">
            <nock-ruler-row [low]="27" [scale]="scale()" [requested]="order.requestedDay" [schedule]="schedule()" />
          </td>
        }
        @case ('state') {
          <td><nock-state [state]="cover()" [words]="words()" /></td>
        }
      }
    }
  `,
  styles: `
    td {
      height: auto;
      padding-top: 0 !important;
      padding-bottom: 0 !important;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .mark {
      width: 30px;
      padding: 0 4px 0 8px;
    }
    :host(.chosen) td {
      background: var(--paper-marked);
    }
  `,
  host: { '[class.chosen]': 'chosen()', '[attr.aria-selected]': 'chosen()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderRowCells {
  readonly row = input.required<OrderRow>({ alias: 'nock-order-row' });
  readonly shown = input.required<readonly Column[]>();
  readonly scale = input.required<RulerScale>();
  /** The day it really leaves by its supply, where that is later than promised; null: never. */
  readonly risk = input<string | null | undefined>();
  readonly chosen = input(false);
  /** It was marked, or not any more. */
  readonly turned = output<void>();

  protected readonly realDay = computed(() => this.risk() ?? this.row().promisedDay);
  protected readonly schedule = computed(() => {
    const day = this.realDay();
    return day ? [{ day, quantity: '', kept: true, dropShip: false, arrives: null, broken: false }] : [];
  });
  protected readonly words = computed(() => {
    const { progress, waiting } = this.row();
    if (waiting > 0) return `${progress}, ${waiting} open`;
    return this.risk() === undefined ? progress : 'at risk';
  });
  protected readonly cover = computed((): CoverState => {
    const row = this.row();
    if (row.progress === 'held') return 'uncovered';
    if (row.state !== 'released' || !isOngoing(row)) return 'done';
    if (this.risk() !== undefined) return 'late';
    if (row.waiting > 0) return 'uncovered';
    return row.promisedDay !== null && row.promisedDay > row.requestedDay ? 'late' : 'covered';
  });
}
