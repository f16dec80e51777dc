export { mountOrders } from './routes';
export { loadOrder, loadOrderLines, type OrderLineRecord } from './load-order';
export { loadOpenLine, lockOrder, lockReleased, orderLabel, touchOrder } from './lock-order';
export { readOrder } from './read-order';
export { shipToText } from './ship-to-text';
