export { confidenceFor, deskConfidence, loadOdds, type SupplierOdds } from './arrival-odds';
export { decimal } from './decimal';
export {
  CARRIER_WEEK,
  draftNumber,
  inTurn,
  loadBook,
  loadWarehouses,
  placeEntered,
  requestedShipDay,
  type DemandInfo,
  type LiveBook,
  type SupplyInfo,
  type Turn,
} from './load-book';
export { lockOrders, lockPools, lockPurchases, lockShipments, type PoolKey } from './locks';
export { newPromises, promiseMore, storePromises, storeRemains, type NewPromise } from './store-promises';
export { decisionOf, readAccepted, viewRipple, type RipplePlan } from './ripple-plan';
export { loadLocked, lockMoving, settleRipple } from './settle-ripple';
export { mountPromise } from './routes';
