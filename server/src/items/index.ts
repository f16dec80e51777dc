export { checkLasting, type Leaving } from './check-lasting';
export { findItems } from './find-items';
export { itemsByWords, type ItemReading, type WordReading } from './items-by-words';
export { mountItems, mountStock } from './routes';
export { hasBin } from './stock-places';
