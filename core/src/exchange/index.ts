export type { CancellationMessage, DespatchAdviceMessage, OrderResponseMessage, PurchaseOrderMessage, TradeItem, TradeParty } from './documents';
export { misplacedElements } from './element-order';
export {
  kindOfAnswer,
  readCancellation,
  readDespatchAdvice,
  readOrder,
  readOrderResponse,
  writeCancellation,
  writeDespatchAdvice,
  writeOrder,
  writeOrderResponse,
} from './ubl';
export type { Read } from './xml';
