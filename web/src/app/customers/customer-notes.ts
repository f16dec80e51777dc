import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { customerRoutes, type Reminder } from '@nockwright/contract/customers';
import { Api } from '../api';
import { DayPipe } from '../paper';

/** What somebody left for whoever speaks to the customer next; each is taken away when it is dealt with. */
@Component({
  selector: 'nock-customer-notes',
  imports: [MatButton, MatFormField, MatInput, DayPipe],
  template: `
    @for (note of reminders(); track note.id) {
      <p class="note">
        <span
          ><b>{{ note.text }}</b> <span class="quiet small">{{ note.by }}, {{ note.at.slice(0, 10) | day }}</span></span
        >
        <button mat-button type="button" (click)="close(note)" [attr.aria-label]="'Dealt with: ' + note.text">Dealt with</button>
      </p>
    }
    @if (mayAdd()) {
      <form (submit)="$event.preventDefault(); add()">
        <label for="next-note">For when they call next</label>
        <mat-form-field
          ><input matInput #field id="next-note" maxlength="500" autocomplete="off" [value]="text()" (input)="text.set(field.value)"
        /></mat-form-field>
        <button mat-button type="submit" [disabled]="!text().trim()">Note it</button>
      </form>
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
    form {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 0 8px;
      align-items: center;
      margin-top: 10px;
    }
    label {
      grid-column: 1 / -1;
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    .open {
      color: var(--open);
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

  protected add(): void {
    const text = this.text().trim();
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
