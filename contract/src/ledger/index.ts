export { ledgerRoutes, type AccountRow, type EntryRow, type LedgerMonth, type Reconciliation } from './ledger';
