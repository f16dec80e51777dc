import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatRadioButton, MatRadioGroup } from '@angular/material/radio';
import { MatOption, MatSelect } from '@angular/material/select';
import { CANCEL_REASONS, type LineView, type OrderView } from '@nockwright/contract/orders';
import { AmountPipe, DayPipe, GlossForm, TextField, UnitPipe } from '../paper';
import { decisionOf, movesNobody, Preview, Ripple } from '../ripple';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';

type Reason = (typeof CANCEL_REASONS)[number];

/** Before anything is cancelled: what it frees, linked supply and who waits for the goods. Then it is done, or left. */
@Component({
  selector: 'nock-cancel-form',
  imports: [GlossForm, TextField, MatFormField, MatSelect, MatOption, MatRadioGroup, MatRadioButton, AmountPipe, DayPipe, UnitPipe, Ripple],
  template: `
    <nock-gloss-form
      heading="Cancel {{ line() ? 'line ' + line()!.lineNo + ': ' + line()!.item : 'the whole order' }}"
      [act]="line() ? 'Cancel line' : 'Cancel order'"
      [ready]="preview.shown() !== null && reason() !== null && !store.busy()"
      (done)="confirm()"
      (left)="closed.emit()"
    >
      @if (line(); as view) {
        <nock-text-field fieldId="cancel-quantity" [figure]="true" [(text)]="wanted"
          >How many ({{ view.unit | unit: '2' }}); empty: all that is open</nock-text-field
        >
      }
      <span class="label" id="reason-label">Reason</span>
      <mat-form-field>
        <mat-select aria-labelledby="reason-label" [value]="reason()" (selectionChange)="reason.set($event.value)" required>
          @for (choice of reasons; track choice) {
            <mat-option [value]="choice">{{ choice.replaceAll('_', ' ') }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <nock-text-field fieldId="cancel-note" [most]="500" [(text)]="remark">Note</nock-text-field>

      @if (preview.shown(); as effect) {
        <h3>What it frees</h3>
        <ul>
          @for (row of effect.lines; track row.line) {
            <li>
              <b>{{ row.quantity | amount }} {{ row.item }}</b>
              @for (freed of row.frees; track freed.day) {
                <div>{{ freed.quantity | amount }} promised {{ freed.day | day }}</div>
              }
            </li>
          }
        </ul>
        @if (effect.bound.length > 0) {
          <h3>Linked supply</h3>
          <ul>
            @for (row of effect.bound; track $index) {
              <li>
                <b>{{ row.label }}</b>: {{ row.what }}
              </li>
            }
          </ul>
          @if (hasPurchase()) {
            <mat-radio-group aria-label="Purchases bound to it" [value]="purchases()" (change)="purchases.set($event.value)">
              <mat-radio-button value="cancel">close the purchase for it, too</mat-radio-button>
              <mat-radio-button value="keep">keep the purchase, for others</mat-radio-button>
            </mat-radio-group>
          }
        }
        <nock-ripple [ripple]="effect.ripple" [(accepted)]="accepted" />
      }
      <p class="open" role="alert">{{ preview.fault() }}</p>
    </nock-gloss-form>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    mat-radio-button {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CancelForm {
  protected readonly store = inject(OrderStore);
  private readonly standing = inject(OrderStanding);
  readonly order = input.required<OrderView>();
  /** The line to cancel, or null for the whole order. */
  readonly line = input<LineView | null>(null);
  readonly closed = output<void>();

  protected readonly reasons = CANCEL_REASONS;
  protected readonly wanted = signal('');
  protected readonly reason = signal<Reason | null>(null);
  protected readonly remark = signal('');
  protected readonly purchases = signal<'cancel' | 'keep'>('cancel');
  protected readonly accepted = signal<readonly number[]>([]);
  private readonly what = computed(() => {
    const [line, quantity] = [this.line(), this.wanted().trim()];
    return { ...(line ? { line: line.id } : {}), ...(line && quantity ? { quantity } : {}), purchases: this.purchases() };
  });
  private readonly wish = computed(() => ({ order: this.order(), what: { ...this.what(), accept: this.accepted().join(',') } }));
  protected readonly preview = new Preview(
    this.wish,
    ({ what }) => this.standing.previewCancellation(what),
    (effect) => movesNobody(effect) && effect.bound.length === 0,
  );
  protected readonly hasPurchase = computed(() => this.preview.shown()?.bound.some((row) => row.kind === 'purchase') ?? false);

  protected confirm(): void {
    const reason = this.reason();
    if (!reason) return this.preview.fault.set('Choose a reason for the cancellation.');
    const note = this.remark().trim();
    this.preview.once(({ ripple }) =>
      this.standing.cancel({ ...this.what(), reason, ...(note ? { note } : {}), decision: decisionOf(ripple, this.accepted()) }, () => this.closed.emit()),
    );
  }
}
