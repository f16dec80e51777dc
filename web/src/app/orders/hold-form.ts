import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { LineForm } from '../paper';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';

/** Holds a draft until the customer has answered something. */
@Component({
  selector: 'nock-hold-form',
  imports: [LineForm],
  template: `<nock-line-form
    fieldId="hold-why"
    label="Hold draft until the customer answers"
    hint="what?"
    act="Hold"
    [busy]="store.busy()"
    [(text)]="question"
    (said)="hold($event)"
  />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HoldForm {
  protected readonly store = inject(OrderStore);
  private readonly standing = inject(OrderStanding);
  protected readonly question = signal('');

  protected hold(question: string): void {
    if (question === '') return this.store.fault.set('What does it wait for? Type what the customer must answer.');
    this.standing.hold(question, () => this.question.set(''));
  }
}
