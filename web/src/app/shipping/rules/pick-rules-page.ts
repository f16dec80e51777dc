import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { pickRuleRoutes, type PickRulesView } from '@nockwright/contract/shipping';
import type { BodyOf } from '@nockwright/contract/shape';
import { catchError, EMPTY, map, Subject, type Observable } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import { fieldsOf, Keys, RecordForm, recordOf, Sheet } from '../../paper';
import { CarrierStandIns } from './carrier-stand-ins';
import { trialWords } from './stop-words';

type Body = BodyOf<typeof pickRuleRoutes.tryPickRules>;

const FIELDS = fieldsOf<Body>([
  { name: 'on', label: 'Release picks by these rules', kind: 'flag' },
  { name: 'times', label: 'Times of day', most: 100 },
  { name: 'mostValue', label: 'Stop orders worth more than', kind: 'figure', empty: null },
  { name: 'mostShipments', label: 'Stop orders of more shipments than', kind: 'whole', empty: null },
  { name: 'firstOrder', label: 'Stop the first order of a customer', kind: 'flag' },
  { name: 'instructions', label: 'Stop orders with instructions', kind: 'flag' },
  { name: 'belowFloor', label: 'Stop orders with a margin below the floor', kind: 'flag' },
  { name: 'newAddress', label: 'Stop orders to a new address', kind: 'flag' },
]);

/** Which orders are released to pick by themselves. Rules are tried on past orders before they are in force. */
@Component({
  selector: 'nock-pick-rules-page',
  imports: [MatButton, CarrierStandIns, RecordForm, Sheet],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <h1>Pick rules</h1>
        @if (rules(); as rules) {
          <dl>
            <dt>Released by itself</dt>
            <dd>{{ rules.on ? 'yes, at ' + rules.times : 'no' }}</dd>
            <dt>Stopped, for a person to look at</dt>
            <dd>
              @for (words of stopsOf(rules); track words) {
                <div>{{ words }}</div>
              } @empty {
                nothing
              }
            </dd>
          </dl>
        }
        <p role="status" class="trial">{{ trial() }}</p>
        @if (tried()) {
          <p>
            <button mat-flat-button type="button" (click)="set()" [disabled]="busy()">Set these rules <kbd>Ctrl Enter</kbd></button>
          </p>
        }
        <p class="fault" role="alert">{{ fault() }}</p>
      </ng-container>
      <ng-container gloss>
        @if (record(); as record) {
          <nock-record-form [record]="record" (saved)="show($event)" (closed)="editing.set(false)" />
        } @else {
          <h2>What they do</h2>
          <p>
            An order that is on hand, due and stopped by no rule is released to pick at these times, without anybody looking at it. The others wait on the
            shipping board, with why.
          </p>
          @if (mayEdit()) {
            <nock-carrier-stand-ins />
          }
        }
      </ng-container>
      <ng-container acts>
        @if (mayEdit()) {
          <button mat-flat-button type="button" [disabled]="!rules()" (click)="editing.set(true)">Edit rules <kbd>E</kbd></button>
        }
        <button mat-button type="button" (click)="leave()">Back to shipping <kbd>Esc</kbd></button>
      </ng-container>
    </nock-sheet>
  `,
  styles: `
    dl {
      display: grid;
      grid-template-columns: max-content 1fr;
      gap: 8px 24px;
      max-width: 640px;
    }
    dt {
      color: var(--ink-quiet);
    }
    dd {
      margin: 0;
    }
    .trial {
      font-size: 16px;
      font-weight: 600;
    }
    .fault {
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PickRulesPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly again = new Subject<void>();
  protected readonly rules = signal<PickRulesView | null>(null);
  protected readonly editing = signal(false);
  protected readonly trial = signal('');
  /** What was tried, with the version it was seen on: it can be set. */
  protected readonly tried = signal<{ readonly body: Body; readonly version: number } | null>(null);
  protected readonly busy = signal(false);
  protected readonly fault = signal('');
  protected readonly currency = this.session.currency;
  protected readonly mayEdit = () => this.session.may(pickRuleRoutes.setPickRules);

  constructor() {
    inject(Live)
      .kept(
        () => this.api.call(pickRuleRoutes.readPickRules).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
        (topic) => topic === 'firm:firm',
        this.again,
      )
      .pipe(takeUntilDestroyed())
      .subscribe((rules) => this.rules.set(rules));
    inject(Keys).use([
      { key: 'E', does: 'edit the rules', run: () => this.mayEdit() && this.editing.set(true) },
      { key: 'Ctrl+Enter', does: 'set the rules that were tried', run: () => this.set() },
      { key: 'Escape', does: 'back to shipping', run: () => this.leave() },
    ]);
  }

  protected stopsOf(rules: PickRulesView): string[] {
    return [
      ...(rules.mostValue === null ? [] : [`orders worth more than ${rules.mostValue} ${this.currency()}`]),
      ...(rules.mostShipments === null ? [] : [`orders of more than ${rules.mostShipments} shipments`]),
      ...(rules.firstOrder ? ['the first order of a customer'] : []),
      ...(rules.instructions ? ['orders with instructions'] : []),
      ...(rules.belowFloor ? ['orders with a margin below the floor'] : []),
      ...(rules.newAddress ? ['orders to a new address'] : []),
    ];
  }

  protected readonly record = computed(() => {
    const rules = this.rules();
    if (!rules || !this.editing()) return null;
    return recordOf<Body, string>({
      heading: 'Pick rules',
      act: 'Try on the last 90 days',
      name: 'pick-rules',
      fields: FIELDS,
      value: this.tried()?.body ?? rules,
      route: pickRuleRoutes.tryPickRules,
      version: rules.version,
      hint: `Amounts are in ${this.currency()}. An empty field stops nothing.`,
      send: (body, version) => this.try(body, version),
    });
  });

  private try(body: Body, version: number): Observable<string> {
    return this.api.call(pickRuleRoutes.tryPickRules, { body }).pipe(
      map((trial) => {
        this.tried.set({ body, version });
        return trialWords(trial);
      }),
    );
  }

  protected show(words: string): void {
    this.trial.set(words);
    this.fault.set('');
    // What was tried can be set now, or edited further.
    this.editing.set(false);
  }

  protected set(): boolean {
    const tried = this.tried();
    if (!tried || this.busy()) return tried !== null;
    this.busy.set(true);
    this.api.call(pickRuleRoutes.setPickRules, { body: { ...tried.body, version: tried.version } }).subscribe({
      next: (rules) => {
        this.busy.set(false);
        this.rules.set(rules);
        this.tried.set(null);
        this.trial.set('These rules are in force.');
        this.editing.set(false);
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
        this.again.next();
      },
    });
    return true;
  }

  protected leave(): void {
    void this.router.navigateByUrl('/shipping');
  }
}
