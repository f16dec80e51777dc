export { buyForLines, type Bought, type Buy } from './buy-for-lines';
export { closeOpenQuantity } from './close-open-quantity';
export { mountSupply } from './routes';
