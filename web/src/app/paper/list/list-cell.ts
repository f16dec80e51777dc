import { Directive, inject, input, TemplateRef } from '@angular/core';

/** How a list draws the cells of one column: `<ng-template nockCell="state" [nockCellOf]="rows()" let-row>`. */
@Directive({ selector: 'ng-template[nockCell]' })
export class ListCell<R> {
  readonly column = input.required<string>({ alias: 'nockCell' });
  /** The rows of the list: they say what `row` is. */
  readonly nockCellOf = input<readonly R[]>([]);
  readonly template = inject<TemplateRef<{ $implicit: R }>>(TemplateRef);

  static ngTemplateContextGuard<R>(_: ListCell<R>, context: unknown): context is { $implicit: R } {
    return context !== null;
  }
}
