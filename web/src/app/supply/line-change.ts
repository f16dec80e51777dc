import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { PurchaseView, SupplyRipple } from '@nockwright/contract/supply';
import { catchError, combineLatest, debounceTime, of, switchMap, type Observable } from 'rxjs';
import { DayField, DayPipe, Keys, UnitPipe } from '../paper';
import { decisionOf, Ripple } from '../ripple';
import { PurchaseStore } from './purchase-store';

const QUANTITY = /^\d{1,9}(\.\d{1,4})?$/;

/** Another day or quantity for a purchase line, or the end of what it awaits: the ripple first, then done or left. */
@Component({
  selector: 'nock-line-change',
  imports: [A11yModule, MatButton, MatFormField, MatInput, DayField, DayPipe, UnitPipe, Ripple],
  template: `
    <form class="gloss-form" cdkTrapFocus [cdkTrapFocusAutoCapture]="true" (submit)="$event.preventDefault()">
      <h2>Line {{ line().lineNo }}, {{ line().item }}: {{ kind() === 'reschedule' ? 'another day or quantity' : 'nothing more will come' }}</h2>
      @if (kind() === 'reschedule') {
        <label for="new-day">Now expected</label>
        <nock-day-field fieldId="new-day" [day]="day()" (changed)="day.set($event)" />
        <label for="new-open">Still to come ({{ line().unit | unit: '2' }})</label>
        <mat-form-field
          ><input matInput #amount id="new-open" class="figure" inputmode="decimal" [value]="open()" (input)="open.set(amount.value.trim())" autocomplete="off"
        /></mat-form-field>
        @if (!validOpen()) {
          <p class="wrong small" role="alert">expected a quantity with at most four decimals</p>
        }
      }
      <label for="why">{{ kind() === 'reschedule' ? 'Why (for the history)' : 'Why' }}</label>
      <mat-form-field><input matInput #why id="why" [value]="note()" (input)="note.set(why.value)" maxlength="300" autocomplete="off" /></mat-form-field>
      @if (preview(); as effect) {
        @if (effect.availableDay) {
          <p>
            Its goods could leave again <b>{{ effect.availableDay | day }}</b>.
          </p>
        }
        <nock-ripple [ripple]="effect.ripple" [(accepted)]="accepted" />
      }
      <div class="acts">
        <button mat-flat-button type="button" (click)="confirm(true)" [disabled]="store.busy()">{{ act() }} <kbd>Ctrl Enter</kbd></button>
        @if (hurts()) {
          <button mat-button type="button" (click)="confirm(false)" [disabled]="store.busy()">
            {{ kind() === 'reschedule' ? 'Only record it: promises at risk' : 'Only close it: the lost wait' }}
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
  readonly line = input.required<PurchaseView['lines'][number]>();
  readonly kind = input.required<'reschedule' | 'close'>();
  readonly closed = output<void>();

  /** Stay as typed when the purchase is read again, unless its own have moved. */
  private readonly expected = computed(() => this.line().expectedDay);
  private readonly awaited = computed(() => this.line().open);
  protected readonly day = linkedSignal(() => this.expected());
  protected readonly open = linkedSignal(() => this.awaited());
  protected readonly validOpen = computed(() => QUANTITY.test(this.open()));
  protected readonly note = signal('');
  protected readonly accepted = signal<readonly number[]>([]);
  protected readonly preview = toSignal(
    combineLatest([toObservable(this.line), toObservable(this.kind), toObservable(this.day), toObservable(this.open), toObservable(this.accepted)]).pipe(
      debounceTime(60),
      switchMap(([line, kind, day, open, accepted]): Observable<SupplyRipple | null> => {
        if (kind === 'reschedule' && (!QUANTITY.test(open) || (day === line.expectedDay && Number(open) === Number(line.open)))) return of(null);
        const preview = kind === 'reschedule' ? this.store.previewReschedule(line.id, { day, open }, accepted) : this.store.previewClose(line.id, accepted);
        return preview.pipe(catchError((error: Error) => (this.store.fault.set(error.message), of(null))));
      }),
    ),
    { initialValue: null },
  );
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
      { key: 'Escape', does: 'leave it as it is', run: () => this.closed.emit() },
    ]);
  }

  protected confirm(move: boolean): void {
    const done = () => this.closed.emit();
    const note = this.note().trim();
    const ripple = this.preview()?.ripple;
    const decision = move && ripple ? decisionOf(ripple, this.accepted()) : undefined;
    if (this.kind() === 'close') {
      if (note === '') this.store.fault.set('Say why nothing more will come.');
      else this.store.closeLine(this.line().id, note, decision, done);
      return;
    }
    if (!this.validOpen()) return this.store.fault.set('Still to come: expected a quantity.');
    if (!ripple) return this.store.fault.set('Nothing is different yet: type another day or quantity.');
    const open = Number(this.open()) === Number(this.line().open) ? {} : { open: this.open() };
    const day = this.day() === this.line().expectedDay ? {} : { expectedDay: this.day() };
    this.store.reschedule(this.line().id, { ...day, ...open, ...(note ? { note } : {}), ...(decision ? { decision } : {}) }, done);
  }
}
