import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormArray, FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatAutocomplete, MatAutocompleteTrigger, MatOption } from '@angular/material/autocomplete';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatSelect } from '@angular/material/select';
import { Router } from '@angular/router';
import { itemRoutes } from '@nockwright/contract/items';
import { supplyRoutes } from '@nockwright/contract/supply';
import { catchError, debounceTime, of, switchMap } from 'rxjs';
import { Api } from '../api';
import { Keys } from '../paper';
import { Places } from './places';

/** A purchase to stock: supplier, warehouse and lines. What it can be bought in is checked when it is made. */
@Component({
  selector: 'nock-new-purchase',
  imports: [ReactiveFormsModule, MatAutocomplete, MatAutocompleteTrigger, MatOption, MatButton, MatFormField, MatInput, MatSelect],
  template: `
    <form [formGroup]="form" (ngSubmit)="make()">
      <h1>New purchase</h1>
      <div class="row">
        <div>
          <span class="label" id="supplier-label">Supplier</span>
          <mat-form-field
            ><mat-select aria-labelledby="supplier-label" formControlName="supplier">
              @for (supplier of places.suppliers(); track supplier.code) {
                <mat-option [value]="supplier.code">{{ supplier.name }}</mat-option>
              }
            </mat-select></mat-form-field
          >
        </div>
        <div>
          <span class="label" id="place-label">For warehouse</span>
          <mat-form-field
            ><mat-select aria-labelledby="place-label" formControlName="warehouse">
              @for (place of places.warehouses(); track place.code) {
                <mat-option [value]="place.code">{{ place.name }}</mat-option>
              }
            </mat-select></mat-form-field
          >
        </div>
      </div>
      <table class="ruled" aria-label="Lines">
        <thead>
          <tr>
            <th>Item</th>
            <th class="figure">Quantity, stocking units</th>
          </tr>
        </thead>
        <tbody formArrayName="lines">
          @for (line of form.controls.lines.controls; track line; let index = $index) {
            <tr [formGroupName]="index">
              <td>
                <mat-form-field
                  ><input
                    matInput
                    class="code"
                    formControlName="item"
                    [matAutocomplete]="items"
                    (input)="search.set($any($event.target).value)"
                    [attr.aria-label]="'Item of line ' + (index + 1)"
                    autocomplete="off"
                /></mat-form-field>
              </td>
              <td>
                <mat-form-field
                  ><input
                    matInput
                    class="figure"
                    formControlName="quantity"
                    inputmode="decimal"
                    [attr.aria-label]="'Quantity of line ' + (index + 1)"
                    autocomplete="off"
                    (keydown.enter)="addLine($event)"
                /></mat-form-field>
              </td>
            </tr>
          }
        </tbody>
      </table>
      <mat-autocomplete #items="matAutocomplete" autoActiveFirstOption panelWidth="420px">
        @for (item of found(); track item.code) {
          <mat-option [value]="item.code"
            ><b class="code">{{ item.code }}</b> {{ item.description }}</mat-option
          >
        }
      </mat-autocomplete>
      <button mat-button type="button" (click)="addLine()">Another line <kbd>Enter</kbd></button>
      <p class="fault" role="alert">{{ fault() }}</p>
      <button mat-flat-button type="submit">Make the draft <kbd>Ctrl Enter</kbd></button>
    </form>
  `,
  styles: `
    form {
      padding: 16px 20px;
      max-width: 640px;
    }
    .row {
      display: flex;
      gap: 24px;
      margin: 14px 0;
    }
    .row > div {
      flex: 1;
    }
    .label {
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    th:last-child {
      width: 190px;
    }
    .fault {
      color: var(--open);
      min-height: 20px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewPurchase {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly places = inject(Places);
  protected readonly fault = signal('');
  protected readonly search = signal('');
  protected readonly form = new FormGroup({
    supplier: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    warehouse: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    lines: new FormArray([newLine()]),
  });
  private readonly wanted = computed(() => this.search().trim());
  protected readonly found = toSignal(
    toObservable(this.wanted).pipe(
      debounceTime(80),
      switchMap((search) => (search ? this.api.call(itemRoutes.findItems, { query: { search } }).pipe(catchError(() => of([]))) : of([]))),
    ),
    { initialValue: [] },
  );

  constructor() {
    inject(Keys).use([{ key: 'Ctrl+Enter', does: 'make the draft', run: () => this.make() }]);
  }

  protected addLine(event?: Event): void {
    event?.preventDefault();
    this.form.controls.lines.push(newLine());
  }

  protected make(): void {
    const { supplier, warehouse, lines } = this.form.getRawValue();
    const filled = lines.filter((line) => line.item.trim() || line.quantity.trim());
    if (!supplier) return this.fault.set('Choose the supplier.');
    if (!warehouse) return this.fault.set('Choose the warehouse.');
    if (filled.length === 0) return this.fault.set('Type at least one line.');
    this.api
      .call(supplyRoutes.createPurchase, {
        body: { supplier, warehouse, lines: filled.map((line) => ({ item: line.item.trim().toUpperCase(), quantity: line.quantity.trim() })) },
      })
      .subscribe({
        next: (purchase) => void this.router.navigate(['/supply', purchase.id]),
        error: (error: Error) => this.fault.set(error.message),
      });
  }
}

function newLine() {
  return new FormGroup({ item: new FormControl('', { nonNullable: true }), quantity: new FormControl('', { nonNullable: true }) });
}
