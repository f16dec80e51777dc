import { Injectable, signal, type TemplateRef } from '@angular/core';

/** What is compared stands on the sheet, below its lines, though a form in the gloss asks for it. Where no sheet is shown it stays where it is. */
@Injectable({ providedIn: 'root' })
export class Compared {
  private readonly templates = signal<readonly TemplateRef<unknown>[]>([]);
  private readonly sheets = signal(0);

  readonly shown = this.templates.asReadonly();
  /** Whether a sheet is there to show it. */
  readonly hasSheet = () => this.sheets() > 0;

  show(template: TemplateRef<unknown>): () => void {
    this.templates.update((known) => [...known, template]);
    return () => this.templates.update((known) => known.filter((other) => other !== template));
  }

  /** A sheet shows what is compared from now on, until it is gone. */
  join(): () => void {
    this.sheets.update((count) => count + 1);
    return () => this.sheets.update((count) => count - 1);
  }
}
