import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { findingWords, type Finding } from '@nockwright/contract/history';
import { supplyRoutes, type MessageView, type PurchaseView } from '@nockwright/contract/supply';
import { Session } from '../../access';
import { Api } from '../../api';
import { DayPipe, Keys, MAIL_STATES } from '../../paper';
import { kindInWords, stateInWords } from './message-words';

/** What a supplier was told of a purchase and what they said: what has to be looked at first, then all of it. */
@Component({
  selector: 'nock-supplier-talk',
  imports: [RouterLink, MatButton, DayPipe],
  template: `
    @for (message of toLook(); track message.id) {
      <section class="look">
        <h3>{{ headings[message.state] ?? 'Not as ordered' }}</h3>
        @for (finding of message.findings; track $index) {
          <p>{{ says(finding) }}</p>
        }
        @if (message.hurts.length > 0) {
          <p><a routerLink="/shortages" [queryParams]="{ lines: message.hurts.join(',') }">Route the shortages</a></p>
        }
        @if (maySell() && message.state === 'held') {
          <button mat-stroked-button type="button" (click)="decide(message.id, true)">Accept response</button>
          <button mat-stroked-button type="button" (click)="decide(message.id, false)">Decline response</button>
        } @else if (maySell()) {
          <button mat-stroked-button type="button" (click)="seeTo(message.id)">Mark reviewed <kbd>L</kbd></button>
        }
      </section>
    }
    @for (notice of purchase().notices; track notice.id) {
      <p>
        <b>Inbound</b> since {{ notice.day | day }}{{ notice.tracking ? ', tracking ' : '' }}<span class="code">{{ notice.tracking }}</span>
      </p>
    }
    @if (told()) {
      <h3>Messages</h3>
      <ul>
        @for (message of purchase().messages; track message.id) {
          <li>
            <a [href]="'/api/messages/' + message.id + '/file'" download>{{ kind(message) }}</a> {{ message.at.slice(0, 10) | day }}, {{ state(message) }}
          </li>
        }
        @for (mail of purchase().mails; track mail.id) {
          <li>
            <a routerLink="/mail" [queryParams]="{ at: mail.id, q: purchase().number }">mail to {{ mail.recipients.join(', ') }}</a>
            {{ mail.at.slice(0, 10) | day }}, {{ mailStates[mail.state] }}
          </li>
        }
        @for (paper of purchase().papers; track paper.id) {
          <li>
            <a [href]="'/api/papers/' + paper.id" target="_blank" rel="noopener">paper of {{ paper.at.slice(0, 10) | day }}, PDF</a>
          </li>
        }
      </ul>
    }
    <p class="fault" role="alert">{{ fault() }}</p>
  `,
  styles: `
    .look {
      border-left: 3px solid var(--open);
      padding-left: 10px;
      margin-bottom: 12px;
    }
    .look h3 {
      color: var(--open);
      margin-top: 0;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      margin: 3px 0;
    }
    .fault {
      color: var(--open);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierTalk {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  protected readonly says = (row: Finding) => findingWords(row, this.session.today());
  readonly purchase = input.required<PurchaseView>();
  protected readonly toLook = computed(() => this.purchase().messages.filter((message) => message.needsLook));
  protected readonly told = computed(() => this.purchase().messages.length + this.purchase().mails.length + this.purchase().papers.length > 0);
  protected readonly fault = signal('');
  protected readonly kind = kindInWords;
  protected readonly state = stateInWords;
  protected readonly headings: Partial<Record<MessageView['state'], string>> = { refused: 'Could not be acted on', held: 'Needs a decision' };
  protected readonly mailStates = MAIL_STATES;

  constructor() {
    inject(Keys).use([
      {
        key: 'L',
        does: 'mark the response reviewed',
        run: () => {
          const [first] = this.toLook();
          if (!first || first.state === 'held' || !this.maySell()) return false;
          this.seeTo(first.id);
          return true;
        },
      },
    ]);
  }

  protected decide(message: number, take: boolean): void {
    this.fault.set('');
    this.api.call(supplyRoutes.decideAnswer, { params: { message }, body: { take } }).subscribe({ error: (error: Error) => this.fault.set(error.message) });
  }

  protected seeTo(message: number): void {
    this.fault.set('');
    this.api.call(supplyRoutes.lookedAt, { params: { message } }).subscribe({ error: (error: Error) => this.fault.set(error.message) });
  }
}
