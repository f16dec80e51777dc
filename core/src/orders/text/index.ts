export { asOrderText, ORDER_COLUMNS, readOrderTable, type OrderColumn, type OrderTable } from './order-table';
export type { OrderText, TextLine, TextRest } from './order-text';
export { readOrderText } from './read-order-text';
export type { Understood } from './quantity';
export type { DaySaid } from './day-said';
export { numberReadings } from './number-readings';
export { singular, writtenForms } from './words';
