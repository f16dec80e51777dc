export { asLineView } from './book-slice';
export { orderRoutes } from './order-routes';
export type {
  CancellationPreview,
  LineView,
  OrderList,
  OrderRow,
  OrderView,
  PegView,
  RaisePreview,
  RouteChoice,
  ScheduleView,
  SupplyTick,
} from './order-views';
export { CANCEL_REASONS, ORDER_SOURCES } from './order-views';
