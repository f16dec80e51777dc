export { decimal } from './decimal';
export { CARRIER_WEEK, draftNumber, loadBook, loadWarehouses, requestedShipDay, type DemandInfo, type LiveBook, type SupplyInfo } from './load-book';
export { lockOrders, lockPools, lockPurchases, lockShipments, type PoolKey } from './locks';
export { newPromises, promiseMore, storePromises, storeRemains, type NewPromise } from './store-promises';
