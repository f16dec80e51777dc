import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { ConsentAnswer } from '@nockwright/contract/shortages';
import { DayPipe, isQuantity, TextField } from '../paper';

/** A question that waits for the customer's answer: what they were asked, and what they say on the phone. */
@Component({
  selector: 'nock-consent-note',
  imports: [MatButton, DayPipe, TextField],
  template: `
    @let asks = asked();
    <h3>Asked, not answered</h3>
    <q>{{ asks.question }}</q>
    <p [class.late]="asks.overdue">{{ asks.overdue ? 'no answer, wanted by' : 'answer wanted by' }} {{ asks.answerBy | day }}</p>
    @if (mayChange()) {
      <div class="acts">
        <button mat-stroked-button type="button" (click)="answer.emit({ answer: 'accept' })">Answer yes</button>
        <button mat-button type="button" (click)="answer.emit({ answer: 'refuse' })">No</button>
        <button mat-button type="button" (click)="withdraw.emit()">Withdraw question</button>
      </div>
      <form class="part" (submit)="$event.preventDefault(); take()">
        <nock-text-field fieldId="consent-taken" [figure]="true" [(text)]="taken">They take only</nock-text-field>
        <button mat-button type="submit" [disabled]="!ready()">Take that part</button>
      </form>
    }
  `,
  styles: `
    q {
      display: block;
      padding-left: 10px;
      border-left: 2px solid var(--act);
    }
    p {
      margin: 6px 0;
    }
    .late {
      color: var(--late);
      font-weight: 600;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
    }
    .part {
      display: flex;
      align-items: end;
      gap: 8px;
    }
    nock-text-field {
      width: 110px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ConsentNote {
  readonly asked = input.required<{ readonly consent: number; readonly question: string; readonly answerBy: string; readonly overdue: boolean }>();
  readonly mayChange = input(false);
  readonly answer = output<ConsentAnswer>();
  readonly withdraw = output<void>();

  protected readonly taken = signal('');
  protected readonly ready = computed(() => isQuantity(this.taken().trim()) && Number(this.taken()) > 0);

  protected take(): void {
    if (this.ready()) this.answer.emit({ answer: 'part', taken: this.taken().trim() });
  }
}
