import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { MatAutocomplete, MatAutocompleteTrigger, MatOption } from '@angular/material/autocomplete';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { customerRoutes, type CustomerFound } from '@nockwright/contract/customers';
import { catchError, of } from 'rxjs';
import { Api } from '../api';
import { foundAsTyped } from '../paper';

/** Finds a customer by any fragment and hands them over. */
@Component({
  selector: 'nock-buyer-field',
  imports: [MatAutocomplete, MatAutocompleteTrigger, MatOption, MatFormField, MatInput],
  template: `
    <mat-form-field
      ><input
        matInput
        #field
        aria-label="Add a customer to the contract"
        placeholder="add a customer"
        autocomplete="off"
        [matAutocomplete]="found"
        [value]="text()"
        (input)="text.set(field.value)"
        (keydown.enter)="wait()"
    /></mat-form-field>
    <mat-autocomplete #found="matAutocomplete" autoActiveFirstOption (optionSelected)="take($event.option.value)" [displayWith]="nothing">
      @for (customer of customers(); track customer.id) {
        <mat-option [value]="customer"
          ><span class="code">{{ customer.number }}</span> {{ customer.name }}, {{ customer.town }}</mat-option
        >
      }
    </mat-autocomplete>
  `,
  styles: `
    mat-form-field {
      width: 220px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BuyerField {
  private readonly api = inject(Api);
  readonly chosen = output<CustomerFound>();
  protected readonly text = signal('');
  private readonly looked = foundAsTyped<CustomerFound>(this.text, (search) =>
    search.trim() ? this.api.call(customerRoutes.findCustomers, { query: { search } }).pipe(catchError(() => of([]))) : of([]),
  );
  protected readonly customers = this.looked.rows;

  /** Enter before anything is found waits for who is found first. */
  protected wait(): void {
    if (this.looked.searching()) this.looked.whenFound(([first]) => first && this.take(first));
  }

  protected nothing(): string {
    return '';
  }

  protected take(customer: CustomerFound): void {
    this.text.set('');
    this.chosen.emit(customer);
  }
}
