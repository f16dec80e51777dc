import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { customerRoutes, type Reminder } from '@nockwright/contract/customers';
import { Api } from '../api';
import { DayPipe, LineForm } from '../paper';

/** What somebody left for whoever speaks to the customer next; each is taken away when it is dealt with. */
@Component({
  selector: 'nock-customer-notes',
  imports: [MatButton, DayPipe, LineForm],
  template: `
    @for (note of reminders(); track note.id) {
      <p class="note">
        <span
          ><b>{{ note.text }}</b
          >&ngsp;<span class="quiet small">{{ note.by }}, {{ note.at.slice(0, 10) | day }}</span></span
        >
        <button mat-button type="button" (click)="close(note)" [attr.aria-label]="'Close note: ' + note.text">Close</button>
      </p>
    }
    @if (mayAdd()) {
      <nock-line-form fieldId="next-note" label="For when they call next" act="Add note" [most]="500" [(text)]="text" (said)="add($event)" />
    }
    @if (fault()) {
      <p class="open" role="alert">{{ fault() }}</p>
    }
  `,
  styles: `
    .note {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
      margin: 4px 0;
      padding-left: 10px;
      border-left: 3px solid var(--late);
    }
    .note .quiet {
      margin-left: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CustomerNotes {
  private readonly api = inject(Api);
  readonly customer = input.required<number>();
  readonly reminders = input.required<readonly Reminder[]>();
  readonly mayAdd = input(true);
  /** They are others now: whoever shows them fetches them anew. */
  readonly changed = output<void>();
  protected readonly text = signal('');
  protected readonly fault = signal('');

  protected add(text: string): void {
    if (text === '') return;
    this.api.call(customerRoutes.addReminder, { params: { customer: this.customer() }, body: { text } }).subscribe({
      next: () => {
        this.text.set('');
        this.changed.emit();
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  protected close(note: Reminder): void {
    this.api.call(customerRoutes.closeReminder, { params: { customer: this.customer(), reminder: note.id } }).subscribe({
      next: () => this.changed.emit(),
      error: (error: Error) => {
        this.fault.set(error.message);
        this.changed.emit();
      },
    });
  }
}
