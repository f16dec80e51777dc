export {
  credit,
  reminder,
  shipTo,
  type BoughtItem,
  type Contact,
  type CreditView,
  type Customer,
  type CustomerFound,
  type Double,
  type ItemNumber,
  type PastOrder,
  type Reminder,
  type ShipTo,
} from './customer';
export { customerRoutes } from './customers';
