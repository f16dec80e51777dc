import { ChangeDetectionStrategy, Component, computed, inject, output, viewChildren, type ElementRef } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { TypedLines } from './typed-lines';

/** Lines on their way into the order, below those that are in it: each with its text, as it was typed. */
@Component({
  selector: 'nock-typed-rows',
  imports: [MatButton, MatFormField, MatInput],
  template: `
    @if (lines.rows().length > 0) {
      <ul aria-label="Lines being added">
        @for (row of lines.rows(); track row.key) {
          <li [class.refused]="row.state === 'refused'">
            @if (row.state === 'refused') {
              <mat-form-field
                ><input
                  matInput
                  #again
                  class="code"
                  aria-label="The line again: item, quantity, unit, day"
                  autocomplete="off"
                  [value]="row.text"
                  [attr.aria-describedby]="row.key"
                  aria-invalid="true"
                  (keydown)="handle($event, row.key, again.value)"
              /></mat-form-field>
              <span class="why" [id]="row.key" role="alert">{{ row.fault }}</span>
              <button mat-button type="button" (click)="lines.drop(row.key)">Remove <kbd>Esc</kbd></button>
            } @else {
              <span class="code text">{{ row.text }}</span>
              <span class="quiet" role="status">being added …</span>
            }
          </li>
        }
      </ul>
    }
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 350px 1fr auto;
      gap: 16px;
      align-items: center;
      min-height: 32px;
      padding: 0 0 0 24px;
      border-bottom: 1px solid var(--rule);
    }
    .text {
      padding-left: 12px;
    }
    .why {
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TypedRows {
  protected readonly lines = inject(TypedLines);
  private readonly fields = viewChildren<ElementRef<HTMLInputElement>>('again');
  /** The row is dealt with: back to the quick line. */
  readonly left = output<void>();
  /** Up from the first. */
  readonly above = output<void>();
  readonly refused = computed(() => this.lines.rows().filter((row) => row.state === 'refused').length);

  /** To the last line that was refused; false where none was. */
  focusLast(): boolean {
    const field = this.fields().at(-1)?.nativeElement;
    field?.focus();
    return field !== undefined;
  }

  protected handle(event: KeyboardEvent, key: string, text: string): void {
    if (event.key === 'Enter' && !event.ctrlKey) {
      this.lines.retry(key, text);
      this.left.emit();
    } else if (event.key === 'Escape') {
      this.lines.drop(key);
      this.left.emit();
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') this.step(event.target, event.key === 'ArrowDown' ? 1 : -1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private step(from: EventTarget | null, by: number) {
    const fields = this.fields().map((field) => field.nativeElement);
    const to = fields.findIndex((field) => field === from) + by;
    if (to < 0) this.above.emit();
    else if (to >= fields.length) this.left.emit();
    else fields[to]!.focus();
  }
}
