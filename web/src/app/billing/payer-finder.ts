import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { customerRoutes, type CustomerFound } from '@nockwright/contract/customers';
import { catchError, of, tap } from 'rxjs';
import { Api } from '../api';
import { FindsDirective, foundAsTyped, FoundList } from '../paper';

/** Finds a customer as somebody types: whose a payment is. */
@Component({
  selector: 'nock-payer-finder',
  imports: [FindsDirective, FoundList, MatFormField, MatInput],
  template: `
    <label for="payer">Another customer</label>
    <mat-form-field>
      <input
        matInput
        #field
        id="payer"
        nockFinds="payers"
        placeholder="name or number"
        [count]="found().length"
        [at]="at()"
        [value]="text()"
        (input)="text.set(field.value)"
        (keydown)="handle($event)"
      />
    </mat-form-field>
    @if (text().trim() !== '') {
      <nock-found-list listId="payers" label="Customers" columns="64px 1fr" [rows]="found()" [at]="at()" (over)="at.set($event)" (picked)="pick($event)">
        <ng-template let-customer>
          <span class="code">{{ customer.number }}</span>
          <span>{{ customer.name }}</span>
        </ng-template>
        No customer has “{{ text() }}” in name or number.
      </nock-found-list>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PayerFinder {
  private readonly api = inject(Api);
  readonly picked = output<CustomerFound>();
  protected readonly text = signal('');
  protected readonly at = signal(0);
  private readonly typed = foundAsTyped<CustomerFound>(this.text, (search) =>
    search.trim() === ''
      ? of([])
      : this.api.call(customerRoutes.findCustomers, { query: { search } }).pipe(
          catchError(() => of([])),
          tap(() => this.at.set(0)),
        ),
  );
  protected readonly found = this.typed.rows;

  protected handle(event: KeyboardEvent): void {
    const last = this.found().length - 1;
    if (event.key === 'ArrowDown') this.at.update((at) => Math.min(at + 1, last));
    else if (event.key === 'ArrowUp') this.at.update((at) => Math.max(at - 1, 0));
    else if (event.key === 'Enter' && !event.ctrlKey) this.typed.whenFound(() => this.pick(this.at()));
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected pick(at: number): void {
    const customer = this.found()[at];
    if (!customer) return;
    this.text.set('');
    this.picked.emit(customer);
  }
}
