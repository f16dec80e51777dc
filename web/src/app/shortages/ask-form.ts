import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { ConsentWish, RouteChoice, RouteWish } from '@nockwright/contract/shortages';
import { dayNumber, isoDay, workCalendar } from '@nockwright/core/calendar';
import { Session } from '../access';
import { DayField, GlossForm, ListChoice, TextField, typedOver, type Choice } from '../paper';
import { questionFor, wishesOf } from './route-words';

/** How long an answer is waited for where nobody says otherwise, in working days. */
const ANSWER_DAYS = 2;
const ON_NO: readonly Choice<ConsentWish['onNo']>[] = [
  ['reroute', 'I look for another way'],
  ['cancel', 'cancel the shortfall'],
];
const ADDRESS = /^[^\s@,;]+@[^\s@,;]+$/;

/** Asks the customer about a way they must agree to: by mail, or on the phone, where they may have said yes already. */
@Component({
  selector: 'nock-ask-form',
  imports: [MatButton, MatFormField, MatInput, DayField, GlossForm, ListChoice, TextField],
  template: `
    <nock-gloss-form heading="Ask the customer" [act]="byMail() ? 'Ask by mail' : 'Ask by phone'" [ready]="ready()" (done)="ask()" (left)="left.emit()">
      @for (row of route().obliges; track row.words) {
        <p>{{ row.words }}</p>
      }
      <label for="ask-question">What to ask</label>
      <mat-form-field>
        <textarea matInput #text id="ask-question" rows="4" [value]="question()" (input)="question.set(text.value)" maxlength="1000"></textarea>
      </mat-form-field>
      <nock-text-field fieldId="ask-to" [(text)]="recipients">Mail to (empty: by phone)</nock-text-field>
      @if (!addressed()) {
        <p class="open" role="alert">Expected addresses as name&#64;place.example, with commas between.</p>
      }
      <label for="ask-by">Answer wanted by</label>
      <nock-day-field fieldId="ask-by" [day]="answerBy()" (changed)="answerBy.set($event)" />
      <div class="no">
        <span>If they say no,</span>
        <nock-list-choice what="If they say no" [choices]="onNoChoices" [chosen]="onNo()" (choose)="onNo.set($any($event ?? 'reroute'))" />
      </div>
      <button mat-stroked-button type="button" class="agreed" (click)="agree()" [disabled]="question().trim() === ''">Customer has agreed: route line</button>
    </nock-gloss-form>
  `,
  styles: `
    p {
      margin: 4px 0;
    }
    mat-form-field {
      width: 100%;
    }
    .no {
      display: flex;
      align-items: center;
      gap: 8px;
      margin: 8px 0;
    }
    .agreed {
      margin-top: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AskForm {
  private readonly session = inject(Session);
  readonly route = input.required<RouteChoice>();
  readonly line = input.required<{ readonly item: string; readonly description: string; readonly stockUnit: string }>();
  readonly email = input('');
  /** Another address a drop shipment goes to. */
  readonly shipTo = input<number>();
  /** Asks; `agreed`: they have said yes on the phone, and it is done at once. */
  readonly asked = output<{ readonly wish: ConsentWish; readonly agreed: boolean }>();
  readonly left = output<void>();

  protected readonly onNoChoices = ON_NO;
  protected readonly question = typedOver(() => questionFor(this.route(), this.line(), this.session.today()));
  protected readonly recipients = typedOver(() => this.email());
  protected readonly onNo = signal<ConsentWish['onNo']>('reroute');
  protected readonly answerBy = linkedSignal(() => {
    const week = workCalendar([1, 2, 3, 4, 5], []);
    return isoDay(week.offset(week.ceil(dayNumber(this.session.today())), ANSWER_DAYS));
  });
  private readonly addresses = computed(() =>
    this.recipients()
      .split(/[\s,;]+/)
      .filter(Boolean),
  );
  protected readonly byMail = computed(() => this.addresses().length > 0);
  protected readonly addressed = computed(() => this.addresses().every((address) => ADDRESS.test(address)));
  protected readonly ready = computed(() => this.addressed() && this.question().trim() !== '');

  protected ask(): void {
    if (this.ready()) this.asked.emit({ wish: this.wish(this.addresses()), agreed: false });
  }

  protected agree(): void {
    this.asked.emit({ wish: this.wish([]), agreed: true });
  }

  private wish(recipients: readonly string[]): ConsentWish {
    const parts: readonly RouteWish[] = wishesOf(this.route(), this.shipTo());
    return { parts, recipients, question: this.question().trim(), answerBy: this.answerBy(), onNo: this.onNo() };
  }
}
