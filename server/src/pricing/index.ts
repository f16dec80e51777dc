export { priceForLine } from './price-for-line';
