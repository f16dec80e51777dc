export { loadPriceSources } from './load-price-sources';
