import { ChangeDetectionStrategy, Component, inject, input, output, viewChild } from '@angular/core';
import { supplyRoutes, type Scanned } from '@nockwright/contract/supply';
import { Api } from '../../api';
import { ScanInput } from '../../paper';

/** What is scanned at the dock, and what it means; what means nothing says so. */
@Component({
  selector: 'nock-scan-field',
  imports: [ScanInput],
  template: `<nock-scan-input (typed)="read($event)" />`,
  styles: `
    :host {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ScanField {
  private readonly api = inject(Api);
  private readonly field = viewChild.required(ScanInput);
  readonly warehouse = input<string>();
  readonly scanned = output<Scanned>();

  focus(): void {
    this.field().focus();
  }

  /** What a scan that was understood cannot be used for. */
  refuse(fault: string): void {
    this.field().refuse(fault);
  }

  protected read(text: string): void {
    const warehouse = this.warehouse();
    this.api.call(supplyRoutes.readScan, { query: { text, ...(warehouse ? { warehouse } : {}) } }).subscribe({
      next: (scan) => {
        this.field().clear();
        this.scanned.emit(scan);
      },
      error: (error: Error) => this.field().refuse(error.message),
    });
  }
}
