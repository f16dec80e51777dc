export { type ItemFound, type ItemPage, type ItemPromise, type ItemRow, type OtherItem, type PoolView, type QueueRow, type TimelineStep } from './item';
export { itemRoutes } from './items';
export { serialRoutes, type SerialPage, type SerialRow, type SerialStep } from './serials';
export { adjustmentReason, stockRoutes, stockStatus, type AdjustmentReason, type StockPlace, type StockStatus } from './stock';
