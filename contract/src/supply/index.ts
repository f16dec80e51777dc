export {
  supplyRoutes,
  type BrokenPromise,
  type PurchaseRow,
  type PurchaseView,
  type ReceiptReply,
  type ReschedulePreview,
  type Supplier,
  type Warehouse,
} from './supply';
