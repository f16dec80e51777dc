export { deskConfidence, loadOdds } from './arrival-odds';
export { decimal } from '@nockwright/core/promise';
export {
  askedOf,
  draftNumber,
  inTurn,
  loadBook,
  loadWarehouses,
  placeEntered,
  requestedDayOf,
  type DemandInfo,
  type LiveBook,
  type LiveSupply,
  type Turn,
  type WarehouseRow,
} from './load-book';
export { lockOrders, lockPools, lockPurchases, lockShipments, type PoolKey } from './locks';
export { newPromises, promiseMore, storePromises, storeRemains, type NewPromise } from './store-promises';
export { decisionOf, readAccepted, viewRipple, type RipplePlan } from './ripple-plan';
export { loadLocked, lockMoving, settleRipple } from './settle-ripple';
export { mountPromise } from './routes';
