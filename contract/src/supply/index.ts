export { HABITS, type Habit, type MessageView, type StandInView } from './exchange';
export {
  supplyRoutes,
  type Arrival,
  type AssemblyView,
  type ExpectedRow,
  type InsideRow,
  type PurchaseRow,
  type PurchaseView,
  type ReceiptReply,
  type Scanned,
  type Supplier,
  type SupplyRipple,
  type TransferView,
  type Warehouse,
} from './supply';
