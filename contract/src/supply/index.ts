export { HABITS, type Habit, type MessageView, type StandInView } from './exchange';
export {
  supplyRoutes,
  type Arrival,
  type AssemblyView,
  type ExpectedRow,
  type InsideRow,
  type MarginMove,
  type PurchaseRow,
  type PurchaseView,
  type ReceiptReply,
  type Scanned,
  type SupplyRipple,
  type TransferView,
  type Warehouse,
} from './supply';
export { type ReorderPolicy, type ReorderRow, type Supplier, type SupplierItem, type SupplierPage, type SupplierScore } from './suppliers';
