import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { OrderTask } from '@nockwright/contract/orders';
import { Session } from '../access';
import { DayPipe, LineForm } from '../paper';
import { OrderStanding } from './order-standing';

/** What the customer's text asks for that is no line of the order: in sight until somebody closes it, with how it was dealt with. */
@Component({
  selector: 'nock-order-tasks',
  imports: [MatButton, DayPipe, LineForm],
  template: `
    @for (task of tasks(); track task.id) {
      <div class="task" [class.open]="!task.closed">
        <p>
          <b>{{ task.closed ? 'Closed' : 'To deal with' }}:</b> “{{ task.words }}”
          <span class="quiet small">{{ task.by }}, {{ task.at.slice(0, 10) | day }}</span>
        </p>
        @if (task.closed; as closed) {
          <p class="quiet small">{{ closed.by }}{{ closed.how ? ': ' + closed.how : '' }}</p>
        } @else if (closing() === task.id) {
          <nock-line-form [fieldId]="'task-' + task.id" label="How it was dealt with" act="Close" [most]="300" [(text)]="how" (said)="close(task, $event)" />
        } @else if (maySell()) {
          <button mat-button type="button" (click)="closing.set(task.id)">Close “{{ task.words }}”</button>
        }
      </div>
    }
  `,
  styles: `
    .task {
      padding-left: 10px;
      margin: 6px 0;
    }
    .task.open {
      border-left: 3px solid var(--late);
    }
    p {
      margin: 0;
    }
    button {
      max-width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderTasks {
  private readonly standing = inject(OrderStanding);
  protected readonly maySell = inject(Session).maySell;
  readonly tasks = input.required<readonly OrderTask[]>();
  protected readonly closing = signal<number | null>(null);
  protected readonly how = signal('');

  protected close(task: OrderTask, how: string): void {
    this.standing.closeTask(task.id, how.trim());
    this.closing.set(null);
    this.how.set('');
  }
}
