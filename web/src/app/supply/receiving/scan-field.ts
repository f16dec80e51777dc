import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, inject, input, output, signal, viewChild } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { supplyRoutes, type Scanned } from '@nockwright/contract/supply';
import { Api } from '../../api';

/** Takes what a handheld scanner types, or a person: Enter ends it, and what it means is told. What means nothing says so. */
@Component({
  selector: 'nock-scan-field',
  imports: [MatFormField, MatInput],
  template: `
    <label for="scan">Scan a label, or type an item or a number</label>
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
export class ScanField {
  private readonly api = inject(Api);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  readonly warehouse = input<string>();
  readonly scanned = output<Scanned>();
  protected readonly fault = signal('');

  focus(): void {
    this.field().nativeElement.focus();
  }

  /** What a scan that was understood cannot be used for. */
  refuse(fault: string): void {
    this.fault.set(fault);
  }

  protected read(event: Event, text: string): void {
    event.preventDefault();
    if (text.trim() === '') return;
    const warehouse = this.warehouse();
    this.fault.set('');
    this.api.call(supplyRoutes.readScan, { query: { text: text.trim(), ...(warehouse ? { warehouse } : {}) } }).subscribe({
      next: (scan) => {
        this.field().nativeElement.value = '';
        this.scanned.emit(scan);
      },
      error: (error: Error) => {
        this.fault.set(error.message);
        this.field().nativeElement.select();
      },
    });
  }
}
