import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, input, output, signal, viewChild } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';

/** Takes what a handheld scanner types, or a person: Enter ends it. What was wrong with it stands below, until the next. */
@Component({
  selector: 'nock-scan-input',
  imports: [MatFormField, MatInput],
  template: `
    <label for="scan">{{ label() }}</label>
    <mat-form-field
      ><input
        matInput
        #field
        id="scan"
        class="code"
        autocomplete="off"
        autocapitalize="characters"
        spellcheck="false"
        (keydown.enter)="read($event, field.value)"
    /></mat-form-field>
    <p class="fault small" role="alert">{{ fault() }}</p>
  `,
  styles: `
    :host,
    label {
      display: block;
    }
    label {
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    mat-form-field {
      width: 100%;
    }
    .fault {
      color: var(--open);
      min-height: 18px;
      margin: 2px 0 0;
    }
    /* A telephone enlarges the whole page around a field with smaller letters. */
    @media (max-width: 820px) {
      input {
        font-size: 16px;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ScanInput {
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  readonly label = input('Scan a label, or type an item or a number');
  readonly typed = output<string>();
  protected readonly fault = signal('');

  focus(): void {
    this.field().nativeElement.focus();
  }

  /** What a scan cannot be used for; the text stands to be typed over. */
  refuse(fault: string): void {
    this.fault.set(fault);
    this.field().nativeElement.select();
  }

  clear(): void {
    this.fault.set('');
    this.field().nativeElement.value = '';
  }

  protected read(event: Event, text: string): void {
    event.preventDefault();
    if (text.trim() === '') return;
    this.fault.set('');
    this.typed.emit(text.trim());
  }
}
