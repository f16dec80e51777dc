export { SupplierOdds, type LateCount } from './supplier-odds';
export { ArrivalOdds, latenessOf, PRIOR_STRENGTH, type ReceiptRecord } from './arrival-odds';
export { CARRIER_DOCK, daysToSpare, safeDay, type AwaitedSupply, type Dock } from './confidence';
export {
  demandOf,
  economicQuantity,
  reorderPoint,
  SERVICE_LEVELS,
  type Demand,
  type LeadTime,
  type QuantityCosts,
  type ReorderPoint,
  type ServiceLevel,
} from './reorder';
export { beyondCleared, spanOf, type ClearedCosts } from './cleared-costs';
export { takeLots, withLot, type LotGoods, type LotsTaken } from './lots';
export { scorecardOf, type Scorecard } from './scorecard';
