export { answerInStockingUnits, type AnsweredFigures, type TheirUnits } from './answer-units';
export { beyondTolerance, differsBy, type AnsweredLine, type Beyond, type Tolerance } from './beyond-tolerance';
export type { CancellationMessage, DespatchAdviceMessage, OrderResponseMessage, PurchaseOrderMessage, TradeItem, TradeParty, WholeAnswer } from './documents';
export { misplacedElements } from './element-order';
export { kindOfAnswer, readCancellation, readOrder, readOrderResponse, writeCancellation, writeOrder, writeOrderResponse } from './ubl';
export { allOf, at, readTree, textAt, type Read, type Tree } from './xml';
export { writeShipmentAdvice, type ShipmentAdvice } from './ubl-shipment';
export { readDespatchAdvice, writeDespatchAdvice } from './ubl-despatch';
export { writeInvoice, type InvoiceParty } from './ubl-invoice';
