import { customerRoutes } from '@nockwright/contract/customers';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { readHistory } from '../events';
import { addShipTo } from './add-ship-to';
import { listPastOrders, readBought } from './bought';
import { changeCustomer } from './change-customer';
import { removeContact, storeContact } from './contacts';
import { createCustomer, makeCustomer } from './create-customer';
import { findCustomers } from './find-customers';
import { findDoubles } from './find-doubles';
import { setItemNumber } from './item-numbers';
import { readCustomer } from './read-customer';
import { addReminder, closeReminder } from './reminders';
import { setShippingTerms } from './set-shipping-terms';
import { setLeastLife } from './set-least-life';
import { setCreditLimit } from './set-credit-limit';

export function mountCustomers(app: Hono, services: Services): void {
  mountQuery(app, services, customerRoutes.findCustomers, ({ db }, { query }) => findCustomers(db, query.search));
  mountQuery(app, services, customerRoutes.findDoubles, ({ db }, { query }) => findDoubles(db, query));
  mountQuery(app, services, customerRoutes.readCustomer, ({ db, now }, { params }) => readCustomer(db, params.customer, now.today));
  mountQuery(app, services, customerRoutes.readBought, ({ db }, { params, query }) => readBought(db, params.customer, query.order));
  mountQuery(app, services, customerRoutes.listPastOrders, ({ db }, { params }) => listPastOrders(db, params.customer));
  mountCommand(app, services, customerRoutes.createCustomer, (context, { body }) => createCustomer(context, body));
  mountQuery(app, services, customerRoutes.customerHistory, async ({ db, now }, { params }) => {
    await readCustomer(db, params.customer, now.today);
    return readHistory(db, 'customer', params.customer);
  });
  mountCommand(app, services, customerRoutes.setShippingTerms, (context, { params, body }) => setShippingTerms(context, params.customer, body));
  mountCommand(app, services, customerRoutes.changeCustomer, (context, { params, body }) => changeCustomer(context, params.customer, body));
  mountCommand(app, services, customerRoutes.storeContact, (context, { params, body }) => storeContact(context, params.customer, body));
  mountCommand(app, services, customerRoutes.removeContact, (context, { params }) => removeContact(context, params.customer, params.contact));
  mountCommand(app, services, customerRoutes.setItemNumber, (context, { params, body }) => setItemNumber(context, params.customer, params.item, body.code));
  mountCommand(app, services, customerRoutes.makeCustomer, (context, { params }) => makeCustomer(context, params.customer));
  mountCommand(app, services, customerRoutes.addShipTo, (context, { params, body }) => addShipTo(context, params.customer, body));
  mountCommand(app, services, customerRoutes.addReminder, (context, { params, body }) => addReminder(context, params.customer, body.text));
  mountCommand(app, services, customerRoutes.closeReminder, (context, { params }) => closeReminder(context, params.customer, params.reminder));
  mountCommand(app, services, customerRoutes.setLifeAsked, (context, { params, body }) => setLeastLife(context, params.customer, body.days));
  mountCommand(app, services, customerRoutes.setCreditLimit, (context, { params, body }) => setCreditLimit(context, params.customer, body));
}
