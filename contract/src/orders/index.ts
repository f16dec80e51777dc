export { asLineView } from './book-slice';
export { orderRoutes, seen } from './order-routes';
export type {
  CancellationPreview,
  Carrier,
  FileView,
  HoldView,
  LineView,
  OrderList,
  OrderRow,
  OrderSort,
  OrderTask,
  OrderView,
  PaperView,
  PegView,
  RaisePreview,
  SavedView,
  ScheduleView,
  SupplyTick,
  TextRead,
} from './order-views';
export { CANCEL_REASONS, HOLD_CLEARED_BY, ORDER_SORTS, ORDER_SOURCES, orderView } from './order-views';
