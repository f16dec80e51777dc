export { asOrderText, ORDER_COLUMNS, readOrderTable, type OrderColumn, type OrderTable } from './order-table';
export { readOrderText, type OrderText, type TextLine, type TextRest } from './read-order-text';
export type { Understood } from './quantity';
export type { DaySaid } from './day-said';
export { numberReadings } from './number-readings';
export { singular, writtenForms } from './words';
