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
import { CustomerName, Keys, ListCell, ListPage, type ListColumn } from '../paper';
import { QuestionList } from './question-list';

/** Customers whose promise has moved and who have not been told: whom to ring, and what to say. */
@Component({
  selector: 'nock-call-list',
  imports: [CustomerName, DatePipe, RouterLink, MatButton, ListCell, ListPage, QuestionList],
  template: `
    <nock-list
      heading="Calls"
      what="calls"
      label="Calls"
      hint="filter by customer, order, item"
      [q]="q()"
      [columns]="columns"
      [rows]="shown()"
      [key]="idOf"
      [explains]="true"
      [none]="state() === 'open' ? 'No calls to make.' : 'No call has been made yet.'"
      (opened)="mark($event)"
    >
      <button which mat-button type="button" (click)="turn()">{{ state() === 'open' ? 'Show calls made' : 'Show calls to make' }} <kbd>M</kbd></button>
      <p beside class="quiet" role="status">{{ shown().length }} {{ state() === 'open' ? 'to make' : 'made' }}</p>
      <ng-container below>
        <p class="fault" role="alert">{{ fault() }}</p>
        @if (state() === 'open' && order() === undefined) {
          <nock-question-list [maySell]="maySell()" />
        }
      </ng-container>
      <ng-template nockCell="customer" [nockCellOf]="shown()" let-call>
        <b><nock-customer-name [id]="call.customerId" [name]="call.customer" /></b>
        <div>{{ call.contact }}</div>
        <div class="code phone">{{ call.phone }}</div>
      </ng-template>
      <ng-template nockCell="order" [nockCellOf]="shown()" let-call>
        <a class="code" [routerLink]="['/orders', call.order]" [queryParams]="{ at: call.line }" tabindex="-1">{{ call.number }}/{{ call.lineNo }}</a>
        <div class="small quiet phone">{{ call.item }}</div>
      </ng-template>
      <ng-template nockCell="now" [nockCellOf]="shown()" let-call>
        <b>{{ now(call) }}</b>
      </ng-template>
      <ng-template nockCell="say" [nockCellOf]="shown()" let-call>
        <q>{{ call.say }}</q>
      </ng-template>
      <ng-template nockCell="why" [nockCellOf]="shown()" let-call>
        <div class="small quiet">
          {{ why(call) }}
          <div>{{ call.madeBy }}, {{ call.madeAt | date: 'EEE d MMM HH:mm' }}{{ call.doneAt ? '; told by ' + call.doneBy : '' }}</div>
        </div>
      </ng-template>
      <ng-template nockCell="done" [nockCellOf]="shown()" let-call>
        @if (maySell()) {
          <button mat-button type="button" tabindex="-1" (click)="mark(call)">
            {{ state() === 'open' ? 'Mark as told' : 'Mark as not told' }} <kbd>Enter</kbd>
          </button>
        }
      </ng-template>
    </nock-list>
  `,
  styles: `
    q {
      display: block;
      max-width: 330px;
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
  protected readonly now = (call: CallView) => this.days(call.holds) || 'backordered';
  protected readonly idOf = (call: CallView) => call.id;
  protected readonly columns: readonly ListColumn<CallView>[] = [
    { id: 'customer', name: 'Customer', text: (call) => `${call.customer} ${call.phone}`, sort: (call) => call.customer },
    { id: 'order', name: 'Order', text: (call) => `${call.number}/${call.lineNo}`, sort: (call) => call.number },
    { id: 'was', name: 'Was told', text: (call) => this.days(call.told), from: 900 },
    { id: 'now', name: 'Now', text: this.now, sort: (call) => call.holds[0]?.day ?? null, from: 700 },
    { id: 'say', name: 'Say', text: (call) => call.say },
    { id: 'why', name: 'Cause', text: (call) => this.why(call), from: 800 },
    { id: 'done', name: 'Done', text: (call) => (call.doneAt ? `told by ${call.doneBy}` : '') },
  ];
  protected readonly state = signal<'open' | 'done'>('open');
  readonly q = input<string>();
  protected readonly fault = signal('');
  private readonly calls = signal<readonly CallView[]>([]);
  protected readonly shown = computed(() => {
    const words = (this.q() ?? '').toLowerCase().split(/\s+/).filter(Boolean);
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
      { key: 'M', does: 'calls made, or calls to make', run: () => this.turn() },
      { key: 'Escape', does: 'all calls, or to the orders', run: () => void router.navigateByUrl(this.order() === undefined ? '/orders' : '/calls') },
    ]);
  }

  protected turn(): void {
    this.state.update((state) => (state === 'open' ? 'done' : 'open'));
  }

  private days(parts: CallView['told']): string {
    return parts.map(({ day, quantity }) => `${quantity} on ${shortDay(day, this.session.today())}`).join(', ');
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
