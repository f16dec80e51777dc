import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Customer } from '@nockwright/contract/customers';
import { mailRoutes, type MailRow } from '@nockwright/contract/mail';
import type { Happened } from '@nockwright/contract/shape';
import { worklistRoutes, type CallView } from '@nockwright/contract/worklist';
import { catchError, of } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { DayPipe, History } from '../../paper';
import { CustomerNotes } from '../customer-notes';

const MOST_MAILS = 6;

/** What to know before one rings: notes, calls that are due, the last mails, what happened. */
@Component({
  selector: 'nock-customer-gloss',
  imports: [RouterLink, DayPipe, History, CustomerNotes],
  template: `
    @if (customer().notes) {
      <p>
        <b>{{ customer().notes }}</b>
      </p>
    }
    @if (calls().length > 0) {
      <h2>To tell them</h2>
      @for (call of calls(); track call.id) {
        <p>
          <a class="code" [routerLink]="['/orders', call.order]" [queryParams]="{ at: call.line }">{{ call.number }}/{{ call.lineNo }}</a>
          <q>{{ call.say }}</q>
        </p>
      }
      <p><a routerLink="/calls">All calls</a></p>
    }
    <h2>Notes</h2>
    <nock-customer-notes [customer]="customer().id" [reminders]="customer().reminders" [mayAdd]="maySell()" />
    @if (mails().length > 0) {
      <h2>Mail</h2>
      <ul>
        @for (mail of mails(); track mail.id) {
          <li>
            {{ mail.subject }}
            <span class="small quiet"
              >{{ mail.at.slice(0, 10) | day }}{{ mail.state === 'sent' ? '' : ', ' + (mail.state === 'failed' ? 'failed' : 'queued') }}</span
            >
          </li>
        }
      </ul>
      <p><a routerLink="/mail" [queryParams]="{ q: customer().name }">All mail</a></p>
    }
    <h2>History</h2>
    <nock-history [rows]="history()" />
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      padding: 3px 0;
    }
    q {
      display: block;
      padding-left: 10px;
      border-left: 2px solid var(--act);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CustomerGloss {
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  readonly customer = input.required<Customer>();
  readonly history = input.required<readonly Happened[]>();
  protected readonly calls = signal<readonly CallView[]>([]);
  protected readonly mails = signal<readonly MailRow[]>([]);

  constructor() {
    const api = inject(Api);
    // Another customer, or something happened with this one.
    effect((cleanUp) => {
      const customer = this.customer().id;
      const calls = this.session.may(worklistRoutes.listCalls)
        ? api.call(worklistRoutes.listCalls, { query: { customer } }).pipe(catchError(() => of(null)))
        : of(null);
      const mails = this.session.may(mailRoutes.listMail) ? api.call(mailRoutes.listMail, { query: { customer } }).pipe(catchError(() => of(null))) : of(null);
      const reading = [
        calls.subscribe((found) => this.calls.set(found?.calls ?? [])),
        mails.subscribe((found) => this.mails.set(found?.rows.slice(0, MOST_MAILS) ?? [])),
      ];
      cleanUp(() => reading.forEach((read) => read.unsubscribe()));
    });
  }
}
