import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import type { PurchaseView } from '@nockwright/contract/supply';
import { DayField, DayPipe, Keys, TextField, UnitPipe } from '../paper';
import { decisionOf, previewOf, QUANTITY, Ripple } from '../ripple';
import { PurchaseStore } from './purchase-store';

/** Another day or quantity for a purchase line, or the end of what it awaits: the ripple first, then done or left. */
@Component({
  selector: 'nock-line-change',
  imports: [A11yModule, MatButton, DayField, DayPipe, TextField, UnitPipe, Ripple],
  template: `
    <form class="gloss-form" cdkTrapFocus [cdkTrapFocusAutoCapture]="true" (submit)="$event.preventDefault()">
      <h2>Line {{ line().lineNo }}, {{ line().item }}: {{ kind() === 'reschedule' ? 'another day, quantity or cost' : 'nothing more will come' }}</h2>
      @if (kind() === 'reschedule') {
        <label for="new-day">Now expected</label>
        <nock-day-field fieldId="new-day" [day]="day()" (changed)="day.set($event)" />
        <nock-text-field fieldId="new-open" [figure]="true" [(text)]="open">Still to come ({{ line().unit | unit: '2' }})</nock-text-field>
        <nock-text-field fieldId="new-cost" [figure]="true" [(text)]="cost">Cost each</nock-text-field>
        @if (!validOpen() || !validCost()) {
          <p class="wrong small" role="alert">expected {{ validOpen() ? 'a cost' : 'a quantity' }} with at most four decimals</p>
        }
      }
      <nock-text-field fieldId="why" [most]="300" [(text)]="note">{{ kind() === 'reschedule' ? 'Why (for the history)' : 'Why' }}</nock-text-field>
      @if (preview(); as effect) {
        @if (effect.availableDay) {
          <p>
            Its goods could leave again <b>{{ effect.availableDay | day }}</b>.
          </p>
        }
        <nock-ripple [ripple]="effect.ripple" [(accepted)]="accepted" />
        @if (hurts()) {
          <p>
            Moved: a later day and a call for each. {{ kind() === 'reschedule' ? 'Recorded' : 'Closed' }} only: what is late stands as told, at risk; what is
            lost waits, and its customer is to be called. The board of shortages has every way that saves each.
          </p>
        }
      }
      <div class="acts">
        <button mat-flat-button type="button" (click)="confirm(true)" [disabled]="store.busy()">{{ act() }} <kbd>Ctrl Enter</kbd></button>
        @if (hurts()) {
          <button mat-stroked-button type="button" (click)="rescue()" [disabled]="store.busy()">Record it and route what it hurts <kbd>Ctrl B</kbd></button>
          <button mat-button type="button" (click)="confirm(false)" [disabled]="store.busy()">
            {{ kind() === 'reschedule' ? 'Only record it: promises at risk' : 'Only close it: the lost wait, and are called' }}
          </button>
        }
        <button mat-button type="button" (click)="closed.emit()">Leave it <kbd>Esc</kbd></button>
      </div>
    </form>
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
  private readonly router = inject(Router);
  readonly line = input.required<PurchaseView['lines'][number]>();
  readonly kind = input.required<'reschedule' | 'close'>();
  readonly closed = output<void>();

  /** Stay as typed when the purchase is read again, unless its own have moved. */
  private readonly expected = computed(() => this.line().expectedDay);
  private readonly awaited = computed(() => this.line().open);
  protected readonly day = linkedSignal(() => this.expected());
  protected readonly open = linkedSignal(() => this.awaited());
  private readonly price = computed(() => this.line().cost);
  protected readonly cost = linkedSignal(() => this.price());
  protected readonly validOpen = computed(() => QUANTITY.test(this.open().trim()));
  protected readonly validCost = computed(() => QUANTITY.test(this.cost().trim()));
  private readonly costs = computed(() => this.validCost() && Number(this.cost()) !== Number(this.line().cost));
  protected readonly note = signal('');
  protected readonly accepted = signal<readonly number[]>([]);
  private readonly wish = computed(() => {
    const [line, day, open, accepted] = [this.line(), this.day(), this.open().trim(), this.accepted()];
    if (this.kind() === 'close') return { line: line.id, accepted, to: null };
    // A drop shipment that was recorded late and not told yet may be settled as it is.
    const same = day === line.expectedDay && Number(open) === Number(line.open) && !this.untold();
    return !this.validOpen() || same ? null : { line: line.id, accepted, to: { day, open } };
  });
  protected readonly preview = previewOf(
    this.wish,
    ({ line, accepted, to }) => (to ? this.store.previewReschedule(line, to, accepted) : this.store.previewClose(line, accepted)),
    this.store.fault,
  );
  /** The customer was told another day of the drop shipment than it is due. */
  private readonly untold = computed(() => this.line().toldDay !== null && this.line().toldDay !== this.line().expectedDay);
  protected readonly hurts = computed(() => (this.preview()?.ripple.later.length ?? 0) > 0);
  protected readonly act = computed(() => {
    const ripple = this.preview()?.ripple;
    const moves = ripple ? ripple.later.length + ripple.earlier.length : 0;
    if (moves > 0) return `Do it, move ${moves} ${moves === 1 ? 'promise' : 'promises'}`;
    return this.kind() === 'reschedule' ? 'Record it' : 'Close the rest';
  });

  constructor() {
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'do the change', run: () => this.confirm(true) },
      { key: 'Ctrl+B', does: 'record it and route what it hurts', run: () => (this.hurts() ? this.rescue() : false) },
      { key: 'Escape', does: 'leave it as it is', run: () => this.closed.emit() },
    ]);
  }

  /** What is hurt is looked at line by line on the board, each with every way that saves it. */
  protected rescue(): boolean {
    const lines = [...new Set((this.preview()?.ripple.later ?? []).map((row) => row.line))].join(',');
    this.confirm(false, () => void this.router.navigate(['/shortages'], { queryParams: { lines } }));
    return true;
  }

  protected confirm(move: boolean, then?: () => void): void {
    const done = () => {
      this.closed.emit();
      then?.();
    };
    const note = this.note().trim();
    const ripple = this.preview()?.ripple;
    const decision = move && ripple ? decisionOf(ripple, this.accepted()) : undefined;
    if (this.kind() === 'close') {
      if (note === '') this.store.fault.set('Say why nothing more will come.');
      else this.store.closeLine(this.line().id, note, decision, done);
      return;
    }
    if (!this.validOpen()) return this.store.fault.set('Still to come: expected a quantity.');
    if (!this.validCost()) return this.store.fault.set('Cost each: expected a number.');
    if (!ripple && !this.costs()) return this.store.fault.set('Nothing is different yet: type another day, quantity or cost.');
    const open = Number(this.open()) === Number(this.line().open) ? {} : { open: this.open().trim() };
    const day = this.day() === this.line().expectedDay && !this.untold() ? {} : { expectedDay: this.day() };
    const cost = this.costs() ? { cost: this.cost().trim() } : {};
    this.store.reschedule(this.line().id, { ...day, ...open, ...cost, ...(note ? { note } : {}), ...(decision ? { decision } : {}) }, done);
  }
}
