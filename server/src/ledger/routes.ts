import { ledgerRoutes } from '@nockwright/contract/ledger';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { exportEntries, listEntries, readAccounts } from './accounts';
import { closeMonth, listMonths } from './months';
import { reconcile } from './reconcile';

export function mountLedger(app: Hono, services: Services): void {
  mountQuery(app, services, ledgerRoutes.readAccounts, ({ db }, { query }) => readAccounts(db, query.to));
  mountQuery(app, services, ledgerRoutes.listEntries, ({ db }, { query }) => listEntries(db, query));
  mountQuery(app, services, ledgerRoutes.exportEntries, ({ db }, { query }) => exportEntries(db, query));
  mountQuery(app, services, ledgerRoutes.reconcile, ({ db }) => reconcile(db));
  mountQuery(app, services, ledgerRoutes.listMonths, ({ db, now }) => listMonths(db, now));
  mountCommand(app, services, ledgerRoutes.closeMonth, (context, { body }) => closeMonth(context, body.month));
}
