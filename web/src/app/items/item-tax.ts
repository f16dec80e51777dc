import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { paymentRoutes } from '@nockwright/contract/billing';
import { itemRoutes, type ItemPage } from '@nockwright/contract/items';
import { catchError, of } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { ListChoice, type Choice } from '../paper';

/** By which class an item is taxed; who bills may choose another. */
@Component({
  selector: 'nock-item-tax',
  imports: [ListChoice],
  template: `
    <h3>Tax</h3>
    @if (mayChange()) {
      <nock-list-choice what="Tax class" [choices]="choices()" [chosen]="item().taxClass" (choose)="set($event)" />
    } @else {
      <p>{{ words() }}</p>
    }
    @if (fault()) {
      <p class="open" role="alert">{{ fault() }}</p>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemTax {
  private readonly api = inject(Api);
  readonly item = input.required<ItemPage>();
  readonly changed = output<ItemPage>();
  private readonly classes = toSignal(this.api.call(paymentRoutes.listTaxClasses).pipe(catchError(() => of([]))), { initialValue: [] });
  protected readonly fault = signal('');
  private readonly session = inject(Session);
  protected readonly mayChange = computed(() => this.session.may(itemRoutes.setItemTax));
  protected readonly choices = computed(() => this.classes().map((row): Choice => [row.code, `${row.name}, ${row.percent} %`]));
  protected readonly words = computed(() => this.choices().find(([code]) => code === this.item().taxClass)?.[1] ?? '');

  protected set(taxClass: string | null): void {
    if (taxClass === null || taxClass === this.item().taxClass) return;
    this.fault.set('');
    this.api.call(itemRoutes.setItemTax, { params: { item: this.item().code }, body: { taxClass } }).subscribe({
      next: (item) => this.changed.emit(item),
      error: (error: Error) => this.fault.set(error.message),
    });
  }
}
