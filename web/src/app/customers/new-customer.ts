import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { customerRoutes, type Customer, type CustomerFound, type Double } from '@nockwright/contract/customers';
import { catchError, debounceTime, map, of, switchMap } from 'rxjs';
import { Api } from '../api';
import { Keys } from '../paper';

const FIELDS = [
  ['name', 'Name', 'organization', 100],
  ['contact', 'Who', 'name', 60],
  ['phone', 'Phone', 'tel', 40],
  ['email', 'Mail', 'email', 200],
  ['street', 'Street', 'street-address', 100],
  ['postcode', 'Postcode', 'postal-code', 20],
  ['town', 'Town', 'address-level2', 60],
  ['country', 'Country', 'country', 2],
] as const;

/** A customer, or a prospect, made while they are on the phone. Who is like them is told as it is typed. */
@Component({
  selector: 'nock-new-customer',
  imports: [A11yModule, ReactiveFormsModule, MatButton, MatCheckbox, MatFormField, MatInput],
  template: `
    <form [formGroup]="form" (submit)="$event.preventDefault(); make()" cdkTrapFocus [cdkTrapFocusAutoCapture]="true" aria-label="New customer">
      @for (field of fields; track field[0]) {
        <div [class.wide]="field[0] === 'name' || field[0] === 'street'">
          <label [for]="'new-' + field[0]">{{ field[1] }}</label>
          <mat-form-field
            ><input matInput [id]="'new-' + field[0]" [formControlName]="field[0]" [attr.maxlength]="field[3]" autocomplete="off" spellcheck="false"
          /></mat-form-field>
        </div>
      }
      <mat-checkbox formControlName="prospect" class="wide">A prospect: they are quoted, not sold to yet</mat-checkbox>
    </form>
    @if (doubles().length > 0) {
      <div class="doubles" role="status">
        <b>Known already?</b>
        @for (double of doubles(); track double.customer.id) {
          <button type="button" mat-stroked-button (click)="known.emit(double.customer)">
            {{ double.customer.number }} {{ double.customer.name }}, {{ double.customer.town }}
            <span class="quiet">same {{ double.alike.join(', ') }}</span>
          </button>
        }
      </div>
    }
    <p class="fault" role="alert">{{ fault() }}</p>
    <div class="acts">
      <button mat-flat-button type="button" (click)="make()" [disabled]="busy()">{{ act() }} <kbd>Ctrl Enter</kbd></button>
      <button mat-button type="button" (click)="closed.emit()">Back <kbd>Esc</kbd></button>
    </div>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px 16px;
      max-width: 620px;
      margin-top: 12px;
    }
    .wide {
      grid-column: 1 / -1;
    }
    mat-form-field {
      width: 100%;
    }
    label {
      display: block;
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    .doubles {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      gap: 6px;
      margin-top: 12px;
      color: var(--late);
    }
    .fault {
      color: var(--open);
      font-weight: 600;
    }
    .acts {
      display: flex;
      gap: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewCustomer {
  private readonly api = inject(Api);
  /** What was looked for before: their name, perhaps. */
  readonly called = input('');
  /** What making them leads to: `Create customer and order`. */
  readonly act = input.required<string>();
  readonly made = output<Customer>();
  /** It is one of those who are like them. */
  readonly known = output<CustomerFound>();
  readonly closed = output<void>();

  protected readonly fields = FIELDS;
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: ['', Validators.required],
    contact: [''],
    phone: [''],
    email: ['', Validators.email],
    street: ['', Validators.required],
    postcode: ['', Validators.required],
    town: ['', Validators.required],
    country: ['GB', [Validators.required, Validators.minLength(2)]],
    prospect: [false],
  });
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  protected readonly doubles = toSignal(
    this.form.valueChanges.pipe(
      debounceTime(250),
      map(({ name = '', phone = '', email = '', postcode = '' }) => filled({ name, phone, email, postcode })),
      switchMap((query) => (Object.keys(query).length > 0 ? this.api.call(customerRoutes.findDoubles, { query }).pipe(catchError(() => of([]))) : of([]))),
    ),
    { initialValue: [] as readonly Double[] },
  );

  constructor() {
    effect(() => {
      const called = this.called();
      untracked(() => this.form.patchValue({ name: called }));
    });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'make the customer', run: () => this.make() },
      { key: 'Escape', does: 'back', run: () => this.closed.emit() },
    ]);
  }

  protected make(): void {
    if (this.busy()) return;
    const wrong = FIELDS.filter(([name]) => this.form.controls[name].invalid);
    if (wrong.length > 0) {
      document.getElementById(`new-${wrong[0]![0]}`)?.focus();
      return this.fault.set(`${wrong.map(([, label]) => label).join(', ')}: ${wrong.length === 1 ? 'is' : 'are'} missing or not right.`);
    }
    const { email, ...rest } = this.form.getRawValue();
    this.busy.set(true);
    this.fault.set('');
    this.api.call(customerRoutes.createCustomer, { body: { ...rest, ...filled({ email }), country: rest.country.toUpperCase() } }).subscribe({
      next: (customer) => this.made.emit(customer),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}

/** Only what is filled in. */
function filled<T extends Record<string, string>>(fields: T): Partial<T> {
  return Object.fromEntries(Object.entries(fields).filter(([, value]) => value.trim() !== '')) as Partial<T>;
}
