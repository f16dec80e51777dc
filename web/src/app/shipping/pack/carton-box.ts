import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { CartonView } from '@nockwright/contract/shipping';
import { AmountPipe, QuantityField, UnitPipe } from '../../paper';

/** A carton at the bench: what is in it, what it should weigh, and what can be done with it. */
@Component({
  selector: 'nock-carton-box',
  imports: [MatButton, AmountPipe, QuantityField, UnitPipe],
  template: `
    <header>
      <b>Carton {{ carton().number }}</b> {{ carton().typeName }}
      <span class="code quiet">{{ carton().sscc }}</span>
      <span class="weight"
        >{{ carton().weight ?? carton().expected | amount }} kg <span class="quiet">{{ carton().weight === null ? 'expected' : 'closed' }}</span></span
      >
    </header>
    @for (row of carton().contents; track row.part) {
      <div class="row">
        <span class="code">{{ row.item }}</span>
        <span class="quiet">{{ row.lot ? 'lot ' + row.lot : '' }}</span>
        <span class="figure">{{ row.quantity | amount }}</span>
        <span>{{ row.unit | unit: row.quantity }}</span>
        @if (editable() && row.serials.length === 0) {
          <button mat-button type="button" (click)="out.emit({ part: row.part, quantity: row.quantity })" [attr.aria-label]="'Take out ' + row.item">
            Take out
          </button>
        }
      </div>
      @for (serial of row.serials; track serial) {
        <div class="row serial">
          <span></span>
          <span class="code">{{ serial }}</span>
          <span></span>
          <span></span>
          @if (editable()) {
            <button mat-button type="button" (click)="out.emit({ part: row.part, quantity: '1', serial })" [attr.aria-label]="'Take out ' + serial">
              Take out
            </button>
          }
        </div>
      }
    } @empty {
      <p class="quiet">Empty.</p>
    }
    @if (editable()) {
      <div class="acts">
        @if (carton().weight === null) {
          @if (carton().contents.length > 0) {
            <nock-quantity-field
              class="kilos"
              [label]="'Weight of carton ' + carton().number + ' in kg'"
              [quantity]="typed() || carton().expected"
              (typed)="typed.set($event)"
            />
            <button mat-stroked-button type="button" (click)="weighed.emit({ weight: typed() || carton().expected, confirm: 'no' })">
              Close carton {{ carton().number }} <kbd>W</kbd>
            </button>
            @if (typed()) {
              <button mat-button type="button" (click)="weighed.emit({ weight: typed(), confirm: 'yes' })">Confirm this weight</button>
            }
          } @else {
            <button mat-button type="button" (click)="removed.emit()">Remove carton {{ carton().number }}</button>
          }
        } @else {
          <button mat-button type="button" (click)="reopened.emit()">Open carton {{ carton().number }} again</button>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 8px 10px;
      border-bottom: 1px solid var(--hairline);
    }
    :host(.chosen) {
      box-shadow: inset 3px 0 0 var(--act);
      background: var(--paper-marked);
    }
    header {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      align-items: baseline;
    }
    .weight {
      margin-left: auto;
    }
    .row {
      display: grid;
      grid-template-columns: minmax(96px, auto) minmax(0, 1fr) 60px 50px auto;
      gap: 10px;
      align-items: center;
      min-height: 30px;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      align-items: center;
    }
    .kilos {
      width: 90px;
    }
    p {
      margin: 4px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CartonBox {
  readonly carton = input.required<CartonView>();
  readonly editable = input(true);
  readonly out = output<{ readonly part: number; readonly quantity: string; readonly serial?: string }>();
  readonly weighed = output<{ readonly weight: string; readonly confirm: 'yes' | 'no' }>();
  readonly reopened = output<void>();
  readonly removed = output<void>();
  protected readonly typed = signal('');
}
