import { ChangeDetectionStrategy, Component, computed, inject, input, viewChild } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { DayField, Keys } from '../paper';
import { Places } from '../supply';
import { OrderStore } from './order-store';
import { SavedField } from './typed/saved-field';
import { Unsaved } from './typed/unsaved';

/** What a line of a draft says beyond item, quantity and price: its text, its own day and warehouse, and on a quote what it stands for. */
@Component({
  selector: 'nock-line-details',
  imports: [MatFormField, MatSelect, MatOption, DayField, SavedField],
  template: `
    @let view = line();
    <h3>This line</h3>
    <dl>
      <dt><label for="line-note">Text</label></dt>
      <dd>
        <nock-saved-field
          #text
          fieldId="line-note"
          label="Text of line {{ view.lineNo }}"
          [name]="'line.' + view.id + '.note'"
          [value]="view.note"
          (saved)="store.changeLine({ ...view, note: $event.before }, { note: $event.text })"
        />
      </dd>
      <dt><label for="line-day">Requested</label></dt>
      <dd>
        <nock-day-field
          fieldId="line-day"
          [day]="view.requestedDay ?? order().requestedDay"
          [kept]="unsaved.textOf('line.' + view.id + '.requestedDay')"
          (edited)="unsaved.set('line.' + view.id + '.requestedDay', 'Day of line ' + view.lineNo, $event, view.requestedDay ?? order().requestedDay)"
          (changed)="store.changeLine(view, { requestedDay: $event })"
        />
      </dd>
      <dt><span id="line-place">From</span></dt>
      <dd>
        <mat-form-field>
          <mat-select aria-labelledby="line-place" [value]="view.warehouse" (selectionChange)="store.changeLine(view, { warehouse: $event.value })">
            @for (place of warehouses(); track place.code) {
              <mat-option [value]="place.code">{{ place.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
      </dd>
      @if (order().customer.shipTos.length > 1) {
        <dt><span id="line-goes">To</span></dt>
        <dd>
          <mat-form-field>
            <mat-select
              canSelectNullableOptions
              aria-labelledby="line-goes"
              [value]="view.shipTo?.id ?? null"
              (selectionChange)="store.changeLine(view, { shipTo: $event.value })"
            >
              <mat-option [value]="null">the order’s address</mat-option>
              @for (place of elsewhere(); track place.id) {
                <mat-option [value]="place.id">{{ place.street }}, {{ place.town }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
        </dd>
      }
      @if (order().kind === 'quote') {
        <dt><span id="line-stands">Offered</span></dt>
        <dd>
          <mat-form-field>
            <mat-select aria-labelledby="line-stands" [value]="stands()" (selectionChange)="stand($event.value)">
              <mat-option value="total">in the total</mat-option>
              @for (other of others(); track other.id) {
                <mat-option [value]="other.id">instead of line {{ other.lineNo }}</mat-option>
              }
              <mat-option value="extra">as an extra</mat-option>
            </mat-select>
          </mat-form-field>
        </dd>
      }
    </dl>
  `,
  styles: `
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 4px 10px;
      align-items: center;
      margin: 0;
    }
    dt {
      color: var(--ink-quiet);
      font-size: 12.5px;
    }
    dd {
      margin: 0;
    }
    mat-form-field,
    nock-day-field {
      width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineDetails {
  protected readonly store = inject(OrderStore);
  protected readonly unsaved = inject(Unsaved);
  private readonly text = viewChild.required<SavedField>('text');
  readonly order = input.required<OrderView>();
  readonly line = input.required<LineView>();
  protected readonly warehouses = inject(Places).warehouses;
  protected readonly elsewhere = computed(() => this.order().customer.shipTos.filter((place) => place.id !== this.order().shipTo.id));
  /** What an alternative may be taken instead of. */
  protected readonly others = computed(() => this.order().lines.filter((other) => !other.alternative && other.id !== this.line().id));
  protected readonly stands = computed(() => (this.line().alternative ? (this.line().alternativeTo ?? 'extra') : 'total'));

  constructor() {
    inject(Keys).use([
      { key: 'E', does: 'text, day, warehouse and address of the line', run: () => this.text().focus() },
      { key: 'I', does: 'on a quote: the line instead of the one above, as an extra, or in the total', run: () => this.next() },
    ]);
  }

  protected stand(as: 'total' | 'extra' | number): void {
    this.store.changeLine(this.line(), as === 'total' ? { alternative: false } : { alternative: true, alternativeTo: as === 'extra' ? null : as });
  }

  private next(): boolean {
    if (this.order().kind !== 'quote') return false;
    const above = this.others().findLast((other) => other.lineNo < this.line().lineNo);
    if (this.stands() === 'total') this.stand(above?.id ?? 'extra');
    else this.stand(this.stands() === 'extra' ? 'total' : 'extra');
    return true;
  }
}
