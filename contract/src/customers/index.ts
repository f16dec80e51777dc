export {
  credit,
  customerRoutes,
  reminder,
  shipTo,
  type BoughtItem,
  type CreditView,
  type Customer,
  type CustomerFound,
  type Double,
  type PastOrder,
  type Reminder,
  type ShipTo,
} from './customers';
