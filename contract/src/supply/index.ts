export { supplyRoutes, type PurchaseRow, type PurchaseView, type ReceiptReply, type Supplier, type SupplyRipple, type Warehouse } from './supply';
