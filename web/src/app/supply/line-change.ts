import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { PurchaseView } from '@nockwright/contract/supply';
import { DayField, isQuantity, TextField, typedOver, UnitPipe } from '../paper';
import { movesNobody, Preview, RippleForm, type Settled } from '../ripple';
import { PurchaseStore } from './purchase-store';

/** Another day or quantity for a purchase line, or the end of what it awaits: the ripple first, then done or left. */
@Component({
  selector: 'nock-line-change',
  imports: [DayField, TextField, UnitPipe, RippleForm],
  template: `
    <nock-ripple-form
      [heading]="heading()"
      [does]="kind() === 'reschedule' ? 'Save' : 'Close remainder'"
      [only]="kind() === 'reschedule' ? 'Save only: promises at risk' : 'Close only: backorders with calls'"
      [asks]="kind() === 'reschedule' ? 'Why (for the history)' : 'Why'"
      [preview]="preview"
      [version]="store.purchase()?.version"
      [busy]="store.busy()"
      [(accepted)]="accepted"
      (settled)="confirm($event)"
      (left)="closed.emit()"
    >
      @if (kind() === 'reschedule') {
        <label for="new-day">Now expected</label>
        <nock-day-field fieldId="new-day" [day]="day()" (changed)="day.set($event)" />
        <nock-text-field fieldId="new-open" [figure]="true" [(text)]="open">Still expected ({{ line().unit | unit: '2' }})</nock-text-field>
        <nock-text-field fieldId="new-cost" [figure]="true" [(text)]="cost">Cost each</nock-text-field>
        @if (!validOpen() || !validCost()) {
          <p class="wrong small" role="alert">expected {{ validOpen() ? 'a cost' : 'a quantity' }} with at most four decimals</p>
        }
      }
    </nock-ripple-form>
  `,
  styles: `
    .wrong {
      color: var(--open);
      margin: 2px 0 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineChange {
  protected readonly store = inject(PurchaseStore);
  readonly line = input.required<PurchaseView['lines'][number]>();
  readonly kind = input.required<'reschedule' | 'close'>();
  readonly closed = output<void>();

  protected readonly day = typedOver(() => this.line().expectedDay);
  protected readonly open = typedOver(() => this.line().open);
  protected readonly cost = typedOver(() => this.line().cost ?? '');
  protected readonly validOpen = computed(() => isQuantity(this.open().trim()));
  protected readonly validCost = computed(() => isQuantity(this.cost().trim()));
  private readonly costs = computed(() => this.validCost() && Number(this.cost()) !== Number(this.line().cost));
  protected readonly accepted = signal<readonly number[]>([]);
  private readonly wish = computed(() => {
    const [line, day, open, accepted] = [this.line(), this.day(), this.open().trim(), this.accepted()];
    if (this.kind() === 'close') return { line: line.id, accepted, to: null };
    // A drop shipment that was recorded late and not told yet may be settled as it is.
    const same = day === line.expectedDay && Number(open) === Number(line.open) && !this.untold();
    if (!this.validOpen() || !this.validCost() || (same && !this.costs())) return null;
    return { line: line.id, accepted, to: { day, open, ...(this.costs() ? { cost: this.cost().trim() } : {}) } };
  });
  protected readonly preview = new Preview(
    this.wish,
    ({ line, accepted, to }) => (to ? this.store.previewReschedule(line, to, accepted) : this.store.previewClose(line, accepted)),
    (effect) => movesNobody(effect) && (effect.margins ?? []).length === 0,
  );
  /** The customer was told another day of the drop shipment than it is due. */
  private readonly untold = computed(() => this.line().toldDay !== null && this.line().toldDay !== this.line().expectedDay);
  protected readonly heading = computed(
    () => `Line ${this.line().lineNo}, ${this.line().item}: ${this.kind() === 'reschedule' ? 'another day, quantity or cost' : 'close the remainder'}`,
  );

  protected confirm({ reason: note, decision, then }: Settled): void {
    const done = () => {
      this.closed.emit();
      then();
    };
    if (this.kind() === 'close') {
      if (note === '') this.preview.fault.set('Why? The history keeps it.');
      else this.store.closeLine(this.line().id, note, decision, done);
      return;
    }
    if (!this.validOpen()) return this.preview.fault.set('Still expected: expected a quantity.');
    if (!this.validCost()) return this.preview.fault.set('Cost each: expected a number.');
    if (!this.wish()) return this.preview.fault.set('Nothing is different yet: type another day, quantity or cost.');
    const open = Number(this.open()) === Number(this.line().open) ? {} : { open: this.open().trim() };
    const day = this.day() === this.line().expectedDay && !this.untold() ? {} : { expectedDay: this.day() };
    const cost = this.costs() ? { cost: this.cost().trim() } : {};
    this.store.reschedule(this.line().id, { ...day, ...open, ...cost, ...(note ? { note } : {}), ...(decision ? { decision } : {}) }, done);
  }
}
