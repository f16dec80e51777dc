import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { PurchaseView, ReschedulePreview } from '@nockwright/contract/supply';
import { catchError, combineLatest, debounceTime, of, switchMap, type Observable } from 'rxjs';
import { DayField, Keys } from '../paper';
import { PurchaseStore } from './purchase-store';
import { Ripple } from './ripple';

/** Another day for a purchase line, or the end of what it awaits: the ripple first, then done or left. */
@Component({
  selector: 'nock-line-change',
  imports: [A11yModule, MatButton, MatFormField, MatInput, DayField, Ripple],
  template: `
    <form cdkTrapFocus [cdkTrapFocusAutoCapture]="true" (submit)="$event.preventDefault()">
      <h2>Line {{ line().lineNo }}, {{ line().item }}: {{ kind() === 'reschedule' ? 'another day' : 'nothing more will come' }}</h2>
      @if (kind() === 'reschedule') {
        <label for="new-day">Now expected</label>
        <nock-day-field fieldId="new-day" [day]="day()" (changed)="day.set($event)" />
      }
      <label for="why">{{ kind() === 'reschedule' ? 'Why (for the history)' : 'Why' }}</label>
      <mat-form-field><input matInput #why id="why" [value]="note()" (input)="note.set(why.value)" maxlength="300" autocomplete="off" /></mat-form-field>
      @if (preview(); as effect) {
        <nock-ripple [preview]="effect" />
      }
      <div class="acts">
        <button mat-flat-button type="button" (click)="confirm()" [disabled]="store.busy()">
          {{ kind() === 'reschedule' ? 'Set the day' : 'Close the rest' }} <kbd>Ctrl Enter</kbd>
        </button>
        <button mat-button type="button" (click)="closed.emit()">Leave it <kbd>Esc</kbd></button>
      </div>
    </form>
  `,
  styles: `
    label {
      display: block;
      margin-top: 10px;
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin-top: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineChange {
  protected readonly store = inject(PurchaseStore);
  readonly line = input.required<PurchaseView['lines'][number]>();
  readonly kind = input.required<'reschedule' | 'close'>();
  readonly closed = output<void>();

  /** Stays as typed when the purchase is read again, unless its day has moved. */
  private readonly expected = computed(() => this.line().expectedDay);
  protected readonly day = linkedSignal(() => this.expected());
  protected readonly note = signal('');
  protected readonly preview = toSignal(
    combineLatest([toObservable(this.line), toObservable(this.kind), toObservable(this.day)]).pipe(
      debounceTime(60),
      switchMap(([line, kind, day]): Observable<ReschedulePreview | null> => {
        if (kind === 'reschedule' && day === line.expectedDay) return of(null);
        const preview = kind === 'reschedule' ? this.store.previewReschedule(line.id, day) : this.store.previewClose(line.id);
        return preview.pipe(catchError((error: Error) => (this.store.fault.set(error.message), of(null))));
      }),
    ),
    { initialValue: null },
  );

  constructor() {
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'do the change', run: () => this.confirm() },
      { key: 'Escape', does: 'leave it as it is', run: () => this.closed.emit() },
    ]);
  }

  protected confirm(): void {
    const done = () => this.closed.emit();
    const note = this.note().trim();
    if (this.kind() === 'reschedule') this.store.reschedule(this.line().id, this.day(), note, done);
    else if (note === '') this.store.fault.set('Say why nothing more will come.');
    else this.store.closeLine(this.line().id, note, done);
  }
}
