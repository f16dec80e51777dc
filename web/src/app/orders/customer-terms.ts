import { inject, Injectable } from '@angular/core';
import { customerRoutes, type Contact } from '@nockwright/contract/customers';
import { promiseRoutes } from '@nockwright/contract/promise';
import type { BodyOf } from '@nockwright/contract/shape';
import { shortageRoutes } from '@nockwright/contract/shortages';
import { catchError, map, of, type Observable } from 'rxjs';
import { Api } from '../api';
import { OrderStore } from './order-store';

/** What is kept of the customer, set from the order on the sheet. */
@Injectable()
export class CustomerTerms {
  private readonly api = inject(Api);
  private readonly store = inject(OrderStore);

  /** Whom one speaks with there; nobody where that cannot be read. */
  contacts(customer: number): Observable<readonly Contact[]> {
    return this.api.call(customerRoutes.readCustomer, { params: { customer } }).pipe(
      map((read) => read.contacts),
      catchError(() => of([])),
    );
  }

  /** Makes the prospect a customer: they may be sold to then. */
  makeCustomer(): void {
    const order = this.store.order();
    if (order)
      this.api
        .call(customerRoutes.makeCustomer, { params: { customer: order.customer.id } })
        .subscribe({ next: () => this.store.reload(), error: (error: Error) => this.store.fault.set(error.message) });
  }

  /** Sets how much the customer may owe; null: no limit. */
  setCreditLimit(limit: string | null, reason: string, done: () => void): void {
    const order = this.store.order();
    if (!order) return;
    this.store.fault.set('');
    this.api
      .call(customerRoutes.setCreditLimit, { params: { customer: order.customer.id }, body: { limit, reason, was: order.customer.credit!.limit } })
      .subscribe({
        next: () => {
          this.store.reload();
          done();
        },
        error: (error: Error) => this.store.fault.set(error.message),
      });
  }

  /** How sure promises to this customer must be from now on; null: as the desk's are. */
  setConfidence(confidence: number | null): void {
    this.wish((customer) => this.api.call(promiseRoutes.setConfidence, { body: { customer, confidence } }));
  }

  /** How ways are ranked for this customer, and whether they are asked before a later day is settled. */
  setRoutePolicy(body: BodyOf<typeof shortageRoutes.setCustomerPolicy>): void {
    this.wish((customer) => this.api.call(shortageRoutes.setCustomerPolicy, { params: { customer }, body }));
  }

  /** Days of life that must be left on delivery to this customer; null: as the items say. */
  setLeastLife(days: number | null): void {
    this.wish((customer) => this.api.call(customerRoutes.setLifeAsked, { params: { customer }, body: { days } }));
  }

  private wish(set: (customer: number) => Observable<unknown>): void {
    const order = this.store.order();
    if (order) set(order.customer.id).subscribe({ next: () => this.store.reload(), error: (error: Error) => this.store.fault.set(error.message) });
  }
}
