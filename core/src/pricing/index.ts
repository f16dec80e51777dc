export { priceLine, type LinePrice, type PriceBreak, type PriceQuestion, type PriceStep } from './price-line';
