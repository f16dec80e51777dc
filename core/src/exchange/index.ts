export { answerInStockingUnits, type AnsweredFigures, type TheirUnits } from './answer-units';
export type { CancellationMessage, DespatchAdviceMessage, OrderResponseMessage, PurchaseOrderMessage, TradeItem, TradeParty, WholeAnswer } from './documents';
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
