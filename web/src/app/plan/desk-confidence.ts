import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';
import { promiseRoutes } from '@nockwright/contract/promise';
import { catchError, EMPTY, Subject } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';

/** Levels that are offered; a level of its own is kept as it is. */
const LEVELS = [70, 80, 90, 95] as const;

/** How sure the desk promises, for customers without a wish of their own. The manager sets it; promises told stand. */
@Component({
  selector: 'nock-desk-confidence',
  imports: [MatFormField, MatSelect, MatOption],
  template: `
    <span class="label" id="desk-sure">Promises of the desk are made</span>
    <mat-form-field>
      <mat-select canSelectNullableOptions aria-labelledby="desk-sure" [value]="confidence()" (selectionChange)="set($event.value)" [disabled]="!mayPlan()">
        <mat-option [value]="null">on the supplier’s day</mat-option>
        @for (level of levels; track level) {
          <mat-option [value]="level">with {{ level }} % confidence</mat-option>
        }
      </mat-select>
    </mat-form-field>
    <p class="quiet small">
      {{ mayPlan() ? 'For new promises on inbound goods' : 'The manager sets it; for new promises on inbound goods' }}, by what each supplier’s record says. A
      customer’s own wish, in the gloss of their order, goes before it.
    </p>
    <p class="fault" role="alert">{{ fault() }}</p>
  `,
  styles: `
    .label {
      display: block;
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    .fault {
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskConfidence {
  private readonly api = inject(Api);
  private readonly again = new Subject<void>();
  protected readonly mayPlan = inject(Session).mayPlan;
  protected readonly levels = LEVELS;
  protected readonly confidence = signal<number | null>(null);
  protected readonly fault = signal('');

  constructor() {
    inject(Live)
      .kept(
        () => this.api.call(promiseRoutes.readConfidence).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
        (topic) => topic === 'customer:all',
        this.again,
      )
      .pipe(takeUntilDestroyed())
      .subscribe(({ confidence }) => this.confidence.set(confidence));
  }

  protected set(confidence: number | null): void {
    this.fault.set('');
    this.api.call(promiseRoutes.setConfidence, { body: { customer: null, confidence } }).subscribe({
      next: () => this.again.next(),
      error: (error: Error) => {
        this.fault.set(error.message);
        this.again.next();
      },
    });
  }
}
