import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { outcomeWords, shortageRoutes, type ConsentAnswer, type ConsentView } from '@nockwright/contract/shortages';
import { catchError, EMPTY, Subject } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { DayPipe, CustomerName } from '../paper';

/** Questions to customers that wait for an answer, or whose answer somebody has to act on: the most pressing first. */
@Component({
  selector: 'nock-question-list',
  imports: [CustomerName, RouterLink, MatButton, DayPipe],
  template: `
    @if (rows().length > 0) {
      <h2>Questions</h2>
      <p class="fault" role="alert">{{ fault() }}</p>
      <table class="ruled" aria-label="Questions to customers">
        <thead>
          <tr>
            <th>Customer</th>
            <th>Order</th>
            <th>Asked</th>
            <th>Answer</th>
            <th>Done</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.id) {
            <tr>
              <td>
                <b><nock-customer-name [id]="row.customerId" [name]="row.customer" /></b>
                <div>{{ row.contact }}</div>
                <div class="code phone">{{ row.phone }}</div>
              </td>
              <td>
                <a class="code" [routerLink]="['/orders', row.order]" [queryParams]="row.line ? { at: row.line } : {}"
                  >{{ row.number }}{{ row.lineNo ? '/' + row.lineNo : '' }}</a
                >
                <div class="small quiet">{{ row.item }}</div>
              </td>
              <td class="say">
                <q>{{ row.question }}</q>
              </td>
              <td>
                @if (row.state === 'open') {
                  <span [class.late]="row.overdue">{{ row.overdue ? 'no answer, wanted by' : 'wanted by' }} {{ row.answerBy | day }}</span>
                  <div class="small quiet">{{ row.byMail ? 'asked by mail' : 'to be asked on the phone' }}, {{ row.askedBy }}</div>
                } @else {
                  <b>{{ words[row.state] }}</b>
                  <div class="late">{{ row.outcome ? outcome(row.outcome) : '' }}</div>
                  <div class="small quiet">{{ row.note }}</div>
                }
              </td>
              <td class="acts">
                @if (maySell()) {
                  @if (row.state === 'open') {
                    <button mat-button type="button" (click)="answer(row, { answer: 'accept' })">Answer yes</button>
                    <button mat-button type="button" (click)="answer(row, { answer: 'refuse' })">No</button>
                  }
                  <button mat-button type="button" (click)="settle(row)">{{ row.state === 'open' ? 'Withdraw question' : 'Close question' }}</button>
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
    }
  `,
  styles: `
    .say {
      max-width: 360px;
    }
    q {
      display: block;
      padding-left: 10px;
      border-left: 2px solid var(--act);
    }
    .phone,
    .acts {
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
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class QuestionList {
  private readonly api = inject(Api);
  private readonly again = new Subject<void>();
  readonly maySell = input.required<boolean>();
  protected readonly words = { accepted: 'yes', refused: 'no', part: 'yes to a part', withdrawn: 'withdrawn', open: '' } as const;
  protected readonly outcome = outcomeWords;
  protected readonly rows = signal<readonly ConsentView[]>([]);
  protected readonly fault = signal('');

  constructor() {
    inject(Live)
      .kept(
        () => this.api.call(shortageRoutes.listConsents).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
        (topic) => topic.startsWith('order:'),
        this.again,
      )
      .pipe(takeUntilDestroyed())
      .subscribe((rows) => this.rows.set(rows));
  }

  protected answer({ id }: ConsentView, body: ConsentAnswer): void {
    this.fault.set('');
    this.api.call(shortageRoutes.answerConsent, { params: { consent: id }, body }).subscribe(this.shown);
  }

  protected settle({ id }: ConsentView): void {
    this.fault.set('');
    this.api.call(shortageRoutes.withdrawConsent, { params: { consent: id }, body: {} }).subscribe(this.shown);
  }

  private readonly shown = { next: () => this.again.next(), error: (error: Error) => this.fault.set(error.message) };
}
