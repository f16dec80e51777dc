import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { readDay, shortDay } from '@nockwright/core/calendar';
import { Session } from '../access';

/** A day typed as it is said: `fri`, `12 mar`, `+3`. What it means stands beside it before it counts. */
@Component({
  selector: 'nock-day-field',
  imports: [MatFormField, MatInput],
  template: `
    <mat-form-field>
      <input
        matInput
        [id]="fieldId()"
        #field
        [value]="text()"
        (input)="typed(field.value)"
        (focus)="field.select()"
        (blur)="settle()"
        (keydown)="handle($event)"
        [attr.aria-invalid]="meaning() === null"
        [attr.aria-describedby]="fieldId() + '-means'"
        autocomplete="off"
      />
    </mat-form-field>
    <span class="small" [id]="fieldId() + '-means'" [class.wrong]="meaning() === null" aria-live="polite">{{ hint() }}</span>
  `,
  styles: `
    :host {
      position: relative;
      display: inline-block;
    }
    span {
      position: absolute;
      left: 0;
      top: 100%;
      white-space: nowrap;
      background: var(--paper-raised);
      padding: 0 4px;
      z-index: 2;
    }
    span:empty {
      display: none;
    }
    .wrong {
      color: var(--open);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DayField {
  private readonly session = inject(Session);
  readonly day = input.required<string>();
  readonly fieldId = input.required<string>();
  readonly changed = output<string>();
  /** What was typed before and is not a day of the order yet: it is gone on with. */
  readonly kept = input<string | null>(null);
  /** What is typed now; null where it was taken or given up. */
  readonly edited = output<string | null>();

  protected readonly text = signal('');
  private readonly editing = signal(false);
  protected readonly meaning = computed(() => (this.editing() ? readDay(this.text(), this.session.today()) : this.day()));
  protected readonly hint = computed(() => {
    if (!this.editing()) return '';
    const day = this.meaning();
    return day === null ? 'no day: type fri, 12 mar, +3' : shortDay(day, this.session.today());
  });

  constructor() {
    effect(() => {
      const day = this.day();
      const kept = untracked(this.kept);
      if (kept !== null && !untracked(this.editing)) {
        this.editing.set(true);
        this.text.set(kept);
      } else if (!this.editing()) this.text.set(shortDay(day, this.session.today()));
    });
  }

  protected typed(text: string): void {
    this.editing.set(true);
    this.text.set(text);
    this.edited.emit(text);
  }

  /** Enter, with Ctrl too, takes what is typed; where that is no day, whatever Enter would have done must wait. */
  protected handle(event: KeyboardEvent): void {
    if (event.key === 'Escape' && this.editing()) {
      this.reset();
      event.preventDefault();
    } else if (event.key === 'Enter') {
      if (this.meaning() === null) event.preventDefault();
      this.settle();
    }
  }

  protected settle(): void {
    if (!this.editing()) return;
    const day = this.meaning();
    if (day === null) return;
    this.reset();
    if (day !== this.day()) this.changed.emit(day);
  }

  private reset(): void {
    this.editing.set(false);
    this.edited.emit(null);
    this.text.set(shortDay(this.day(), this.session.today()));
  }
}
