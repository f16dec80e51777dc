import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, numberAttribute, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router, RouterLink } from '@angular/router';
import { causeWords } from '@nockwright/contract/history';
import { worklistRoutes, type CallView } from '@nockwright/contract/worklist';
import { shortDay } from '@nockwright/core/calendar';
import { catchError, combineLatest, EMPTY, Subject, switchMap } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { FilterField, Keys, rowKey, CustomerName } from '../paper';
import { QuestionList } from './question-list';

/** Customers whose promise has moved and who have not been told: whom to ring, and what to say. */
@Component({
  selector: 'nock-call-list',
  imports: [CustomerName, DatePipe, RouterLink, MatButton, FilterField, QuestionList],
  template: `
    <div class="list-head">
      <h1>Calls</h1>
      <nock-filter what="calls" [text]="text()" (typed)="text.set($event)" hint="filter by customer, order, item" />
      <button mat-button type="button" (click)="state.set(state() === 'open' ? 'done' : 'open')">
        {{ state() === 'open' ? 'Show calls made' : 'Show calls to make' }} <kbd>M</kbd>
      </button>
      <p class="quiet" role="status">{{ shown().length }} {{ state() === 'open' ? 'to make' : 'made' }}</p>
    </div>
    <p class="fault" role="alert">{{ fault() }}</p>
    @if (state() === 'open' && order() === undefined) {
      <nock-question-list [maySell]="maySell()" />
    }
    <table class="ruled" aria-label="Calls">
      <thead>
        <tr>
          <th>Customer</th>
          <th>Order</th>
          <th>Was told</th>
          <th>Now</th>
          <th>Say</th>
          <th>Why</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (call of shown(); track call.id) {
          <tr tabindex="0" (keydown)="key($event, call)">
            <td>
              <b><nock-customer-name [id]="call.customerId" [name]="call.customer" /></b>
              <div>{{ call.contact }}</div>
              <div class="code phone">{{ call.phone }}</div>
            </td>
            <td>
              <a class="code" [routerLink]="['/orders', call.order]" [queryParams]="{ at: call.line }" tabindex="-1">{{ call.number }}/{{ call.lineNo }}</a>
              <div class="small quiet phone">{{ call.item }}</div>
            </td>
            <td>{{ days(call.told) }}</td>
            <td>
              <b>{{ days(call.holds) || 'backordered' }}</b>
            </td>
            <td class="say">
              <q>{{ call.say }}</q>
            </td>
            <td class="small quiet">
              {{ why(call) }}
              <div>{{ call.madeBy }}, {{ call.madeAt | date: 'EEE d MMM HH:mm' }}{{ call.doneAt ? '; told by ' + call.doneBy : '' }}</div>
            </td>
            <td>
              @if (maySell()) {
                <button mat-button type="button" tabindex="-1" (click)="mark(call)">
                  {{ state() === 'open' ? 'Mark as told' : 'Mark as not told' }} <kbd>Enter</kbd>
                </button>
              }
            </td>
          </tr>
        } @empty {
          <tr>
            <td colspan="7" class="none quiet">{{ state() === 'open' ? 'No calls to make.' : 'No call has been made yet.' }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    .say {
      max-width: 330px;
    }
    q {
      display: block;
      padding-left: 10px;
      border-left: 2px solid var(--act);
    }
    .phone {
      white-space: nowrap;
    }
    .fault {
      color: var(--open);
      font-weight: 600;
      margin: 0;
    }
    td {
      vertical-align: top !important;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CallListPage {
  private readonly api = inject(Api);
  private readonly snack = inject(MatSnackBar);
  private readonly session = inject(Session);
  private readonly again = new Subject<void>();
  /** Only the calls of one order, where another screen pointed at it. */
  readonly order = input<number | undefined, unknown>(undefined, { transform: (value) => (value === undefined ? undefined : numberAttribute(value)) });

  protected readonly maySell = this.session.maySell;
  protected readonly why = ({ cause, why }: CallView) => (cause === null ? why : causeWords(cause, this.session.today()));
  protected readonly state = signal<'open' | 'done'>('open');
  protected readonly text = signal('');
  protected readonly fault = signal('');
  private readonly calls = signal<readonly CallView[]>([]);
  protected readonly shown = computed(() => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    return this.calls().filter((call) => {
      const text = `${call.customer} ${call.number} ${call.item} ${call.contact} ${call.phone}`.toLowerCase();
      return words.every((word) => text.includes(word));
    });
  });

  constructor() {
    const live = inject(Live);
    const router = inject(Router);
    combineLatest([toObservable(this.order), toObservable(this.state)])
      .pipe(
        switchMap(([order, state]) =>
          live.kept(
            () =>
              this.api
                .call(worklistRoutes.listCalls, { query: { state, ...(order === undefined ? {} : { order }) } })
                .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('order:'),
            this.again,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ calls }) => this.calls.set(calls));
    inject(Keys).use([
      { key: 'M', does: 'calls made, or calls to make', run: () => this.state.update((state) => (state === 'open' ? 'done' : 'open')) },
      { key: 'Escape', does: 'all calls, or to the orders', run: () => void router.navigateByUrl(this.order() === undefined ? '/orders' : '/calls') },
    ]);
  }

  protected days(parts: CallView['told']): string {
    return parts.map(({ day, quantity }) => `${quantity} on ${shortDay(day, this.session.today())}`).join(', ');
  }

  protected key(event: KeyboardEvent, call: CallView): void {
    rowKey(event, () => this.mark(call));
  }

  /** Told, it leaves the list; undone for as long as it was a slip of the finger. */
  protected mark(call: CallView, told = this.state() === 'open'): void {
    if (!this.maySell()) return;
    this.fault.set('');
    this.api.call(worklistRoutes.closeCall, { params: { call: call.id }, body: { told } }).subscribe({
      next: () => {
        this.again.next();
        this.snack
          .open(told ? `${call.customer} knows.` : `${call.customer} is to be told.`, 'Undo', { duration: 8000 })
          .onAction()
          .subscribe(() => this.mark(call, !told));
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }
}
