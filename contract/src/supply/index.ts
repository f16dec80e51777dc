export { HABITS, type Habit, type MessageView, type StandInView } from './exchange';
export type { AssemblyView, InsideRow, TransferView } from './inside-views';
export type { Arrival, ExpectedRow, MarginMove, PurchaseRow, PurchaseView, ReceiptReply, Scanned, SupplyRipple, Warehouse } from './purchase-views';
export { supplyRoutes } from './supply';
export { type ReorderPolicy, type ReorderRow, type Supplier, type SupplierItem, type SupplierPage, type SupplierScore } from './suppliers';
