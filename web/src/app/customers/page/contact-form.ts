import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { customerRoutes, type Contact, type Customer } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../../api';
import { fieldsOf, RecordForm } from '../../paper';

type Body = BodyOf<typeof customerRoutes.storeContact>;

const FIELDS = fieldsOf<Body>([
  { name: 'name', label: 'Name', most: 60 },
  { name: 'role', label: 'Role', most: 60 },
  { name: 'phone', label: 'Phone', most: 40 },
  { name: 'email', label: 'Mail', most: 200, empty: null },
]);

/** A person one speaks to at a customer: kept, changed, removed. */
@Component({
  selector: 'nock-contact-form',
  imports: [MatButton, RecordForm],
  template: `
    <nock-record-form
      [heading]="known()?.name ?? 'New contact'"
      act="Save contact"
      name="contact"
      [fields]="fields"
      [value]="known() ?? {}"
      [route]="route"
      [send]="store"
      (saved)="changed.emit($event)"
      (closed)="closed.emit()"
    >
      @if (known(); as contact) {
        <button mat-button type="button" (click)="remove(contact)">Remove contact</button>
      }
      @if (fault()) {
        <p class="open" role="alert">{{ fault() }}</p>
      }
    </nock-record-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ContactForm {
  private readonly api = inject(Api);
  readonly customer = input.required<Customer>();
  /** Null: another one. */
  readonly known = input.required<Contact | null>();
  readonly changed = output<Customer>();
  readonly closed = output<void>();
  protected readonly route = customerRoutes.storeContact;
  protected readonly fields = FIELDS;
  protected readonly fault = signal('');

  protected readonly store = (body: Body) =>
    this.api.call(customerRoutes.storeContact, {
      params: { customer: this.customer().id },
      body: { ...body, ...(this.known() ? { id: this.known()!.id } : {}) },
    });

  protected remove(contact: Contact): void {
    this.api.call(customerRoutes.removeContact, { params: { customer: this.customer().id, contact: contact.id } }).subscribe({
      next: (customer) => this.changed.emit(customer),
      error: (error: Error) => this.fault.set(error.message),
    });
  }
}
