import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatAutocomplete, MatAutocompleteTrigger, MatOption } from '@angular/material/autocomplete';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { customerRoutes, type CustomerFound } from '@nockwright/contract/customers';
import { catchError, debounceTime, of, switchMap } from 'rxjs';
import { Api } from '../api';

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
  protected readonly customers = toSignal(
    toObservable(this.text).pipe(
      debounceTime(80),
      switchMap((search) => (search.trim() ? this.api.call(customerRoutes.findCustomers, { query: { search } }).pipe(catchError(() => of([]))) : of([]))),
    ),
    { initialValue: [] as readonly CustomerFound[] },
  );

  protected nothing(): string {
    return '';
  }

  protected take(customer: CustomerFound): void {
    this.text.set('');
    this.chosen.emit(customer);
  }
}
