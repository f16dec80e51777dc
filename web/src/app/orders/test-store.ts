import type { Provider } from '@angular/core';
import { CustomerTerms } from './customer-terms';
import { LineRouting } from './line-routing';
import { OrderLines } from './order-lines';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';

/** One stand-in for all that acts on the order of a sheet. */
export function storeProviders(store: object): Provider[] {
  return [OrderStore, OrderLines, OrderStanding, LineRouting, CustomerTerms].map((provide) => ({ provide, useValue: store }));
}
