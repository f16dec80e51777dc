import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { customerRoutes, type ShipTo } from '@nockwright/contract/customers';
import { Api } from '../api';
import { GlossForm } from '../paper';

const FIELDS = [
  ['name', 'Who takes it in', 100],
  ['street', 'Street', 100],
  ['postcode', 'Postcode', 20],
  ['town', 'Town', 60],
  ['country', 'Country', 2],
] as const;

/** Another address for a customer, made without leaving the order. */
@Component({
  selector: 'nock-address-form',
  imports: [GlossForm, ReactiveFormsModule, MatFormField, MatInput],
  template: `
    <nock-gloss-form [formGroup]="form" heading="Another address" act="Send it there" [ready]="!busy()" (done)="add()" (left)="closed.emit()">
      @for (field of fields; track field[0]) {
        <label [for]="'address-' + field[0]">{{ field[1] }}</label>
        <mat-form-field
          ><input matInput [id]="'address-' + field[0]" [formControlName]="field[0]" [attr.maxlength]="field[2]" autocomplete="off" spellcheck="false"
        /></mat-form-field>
      }
      <p class="open" role="alert">{{ fault() }}</p>
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AddressForm {
  private readonly api = inject(Api);
  readonly customer = input.required<{ readonly id: number; readonly name: string }>();
  readonly added = output<ShipTo>();
  readonly closed = output<void>();
  protected readonly fields = FIELDS;
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: ['', Validators.required],
    street: ['', Validators.required],
    postcode: ['', Validators.required],
    town: ['', Validators.required],
    country: ['GB', [Validators.required, Validators.minLength(2)]],
  });
  protected readonly fault = signal('');
  protected readonly busy = signal(false);

  constructor() {
    effect(() => {
      const { name } = this.customer();
      untracked(() => this.form.patchValue({ name }));
    });
  }

  protected add(): void {
    if (this.busy()) return;
    const wrong = FIELDS.filter(([name]) => this.form.controls[name].invalid).map(([, label]) => label);
    if (wrong.length > 0) return this.fault.set(`${wrong.join(', ')}: missing or not right.`);
    this.busy.set(true);
    const body = this.form.getRawValue();
    this.api.call(customerRoutes.addShipTo, { params: { customer: this.customer().id }, body: { ...body, country: body.country.toUpperCase() } }).subscribe({
      next: (place) => this.added.emit(place),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
