export { readOrderText, type OrderText, type TextLine, type TextRest } from './read-order-text';
export type { Understood } from './quantity';
export { singular } from './words';
