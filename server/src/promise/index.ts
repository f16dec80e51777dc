export { boundToParts } from './bound-to-parts';
export { freeGoods, freeNow, poolKey, takeFree, type FreeDays } from './free-goods';
export { callThoseLater, type PromisedAnew } from './call-those-later';
export { slippedDropShipments, type DropShipment } from './drop-shipments';
export { owedLate } from './owed-late';
export { toldParts } from './told-parts';
export { deskConfidence, loadOdds } from './arrival-odds';
export { decimal } from '@nockwright/core/promise';
export {
  askedOf,
  draftNumber,
  lastsUntil,
  inTurn,
  loadBook,
  loadWarehouses,
  placeEntered,
  requestedDayOf,
  timesOf,
  type DemandInfo,
  type LiveBook,
  type LiveSupply,
  type Turn,
  type WarehouseRow,
} from './load-book';
export type { SupplierTimesRow } from './book-rows';
export { lockOrders, lockPools, lockPurchases, lockShipments, type PoolKey } from './locks';
export { forgetWaiting, newPromises, promiseMore, storePromises, storeRemains, type NewPromise } from './store-promises';
export { decisionOf, describeLines, describeMoved, partsOf, readAccepted, rippleOf, viewRipple, type RipplePlan } from './ripple-plan';
export { checkAsSeen, loadLocked, lockMoving, recordMove, settleRipple } from './settle-ripple';
export { mountPromise } from './routes';
export { acceptedOffers } from './accepted-offers';
