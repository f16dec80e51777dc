export { loadPriceSources, type Buyer } from './load-price-sources';
export { mountPricing } from './routes';
