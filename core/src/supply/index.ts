export { SupplierOdds, type LateCount } from './supplier-odds';
export { ArrivalOdds, latenessOf, PRIOR_STRENGTH, type ReceiptRecord } from './arrival-odds';
export { daysToSpare, holdsInWords, safeDay, timesInTen, type AwaitedSupply, type Dock } from './confidence';
